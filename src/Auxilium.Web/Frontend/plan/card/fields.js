// @ts-check
// Parts of forms that save as you type, and say what is wrong where it was typed.

/** @typedef {(text: string, tell: (problem: string) => void) => void} Send takes what was entered; told what is wrong with it */

let count = 0;

/** @param {string} tag @param {Record<string, string>} [attributes] @param {(Node | string)[]} children */
export function element(tag, attributes = {}, ...children) {
  const node = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes)) node.setAttribute(name, value);
  node.append(...children);
  return node;
}

/** Lines of text. Enter is a new line; leaving the field keeps it. @param {string} label @param {string} value @param {Send} send */
export function areaField(label, value, send) {
  const area = /** @type {HTMLTextAreaElement} */ (element("textarea", { class: "input", rows: "4" }));
  area.value = value;
  area.dataset.was = value;
  area.addEventListener("change", () => {
    if (area.value.trim() !== (area.dataset.was ?? "").trim()) send(area.value, tell);
  });
  const { frame, tell } = labelled(label, area, label);
  frame.classList.add("field-area");
  return frame;
}

/**
 * A labelled input.
 * @param {string} label
 * @param {string} value
 * @param {Send} send
 * @param {{ hint?: string, list?: string, key?: string }} [how]
 */
export function textField(label, value, send, how = {}) {
  const input = /** @type {HTMLInputElement} */ (element("input", { class: "input", autocomplete: "off" }));
  input.value = value;
  input.dataset.was = value;
  if (how.hint) input.placeholder = how.hint;
  if (how.list) input.setAttribute("list", how.list);
  // Enter is a change as well: what is being sent is not sent twice.
  const save = () => {
    const text = input.value.trim();
    if (text === (input.dataset.was ?? "").trim()) tellAt(input, "");
    else if (text !== input.dataset.sent) {
      input.dataset.sent = text;
      send(text, tell);
    }
  };
  input.addEventListener("change", save);
  input.addEventListener("keydown", (event) => {
    if (event.key === "Enter") {
      // The key must not also press what gets the focus.
      event.preventDefault();
      save();
    }
    if (event.key === "Escape" && input.value !== input.dataset.was) {
      event.stopPropagation();
      input.value = input.dataset.was ?? "";
      tellAt(input, "");
    }
  });
  const { frame, tell } = labelled(label, input, how.key ?? label);
  return frame;
}

/**
 * @param {string} label
 * @param {[string, string][]} options value and words
 * @param {string} value
 * @param {Send} send
 * @param {string} [key]
 */
export function choiceField(label, options, value, send, key) {
  const select = /** @type {HTMLSelectElement} */ (element("select", { class: "input" }));
  for (const [option, words] of options) select.append(element("option", { value: option }, words));
  select.value = value;
  select.addEventListener("change", () => send(select.value, tell));
  const { frame, tell } = labelled(label, select, key ?? label);
  return frame;
}

/** @param {string} label @param {boolean} on @param {(on: boolean, tell: (problem: string) => void) => void} send @param {string} [key] */
export function checkField(label, on, send, key = label) {
  const input = /** @type {HTMLInputElement} */ (element("input", { type: "checkbox", "data-field": key }));
  input.checked = on;
  const problem = element("p", { class: "problem", role: "alert" });
  input.addEventListener("change", () => send(input.checked, (text) => (problem.textContent = text)));
  return element("div", { class: "field" }, element("label", { class: "check" }, input, label), problem);
}

/** @param {string} words @param {() => void} act @param {string} [name] a longer name for screen readers */
export function quietButton(words, act, name) {
  const button = element("button", { type: "button", class: "button button-quiet" }, words);
  if (name) button.setAttribute("aria-label", name);
  button.addEventListener("click", act);
  return button;
}

/**
 * Redraws a form. What was typed and not saved yet stays, with its problem, and so does the focus.
 * @param {HTMLElement} frame @param {() => void} redraw
 */
export function keepTyped(frame, redraw) {
  const focused = /** @type {HTMLElement | null} */ (document.activeElement);
  const at = frame.contains(focused) ? focused?.dataset.field : undefined;
  const typed = textsIn(frame)
    .filter((input) => input.value !== input.dataset.was)
    .map((input) => ({ key: input.dataset.field, text: input.value, problem: problemOf(input)?.textContent ?? "" }));
  const marked =
    focused instanceof HTMLInputElement && at && isText(focused)
      ? [focused.selectionStart, focused.selectionEnd]
      : null;
  redraw();
  for (const input of textsIn(frame)) {
    const kept = typed.find(({ key }) => key === input.dataset.field);
    if (!kept || kept.text === input.dataset.was) continue;
    input.value = kept.text;
    tellAt(input, kept.problem);
  }
  if (!at) return;
  const again = fieldNamed(frame, at);
  again?.focus();
  if (marked && again instanceof HTMLInputElement && isText(again)) again.setSelectionRange(marked[0], marked[1]);
}

/** Whether a field has a place in its text. @param {HTMLInputElement} input */
const isText = (input) => input.type === "text" || input.type === "search";

/** @param {HTMLElement} frame */
const textsIn = (frame) =>
  /** @type {HTMLInputElement[]} */ ([...frame.querySelectorAll("input[data-was], textarea[data-was]")]);

/** @param {ParentNode} frame @param {string} key @returns {HTMLElement | null} */
const fieldNamed = (frame, key) => frame.querySelector(`[data-field="${CSS.escape(key)}"]`);

/** @param {HTMLElement} input */
const problemOf = (input) => input.closest(".field")?.querySelector(".problem");

/** @param {HTMLElement} input @param {string} text what is wrong; empty when it was taken */
function tellAt(input, text) {
  const problem = problemOf(input);
  if (!problem) return;
  problem.textContent = text;
  if (text) {
    input.setAttribute("aria-invalid", "true");
    input.setAttribute("aria-describedby", problem.id);
  } else input.removeAttribute("aria-invalid");
}

/** @param {string} label @param {HTMLElement} input @param {string} key */
function labelled(label, input, key) {
  const id = `field-${++count}`;
  input.id = id;
  input.dataset.field = key;
  const problem = element("p", { class: "problem", role: "alert", id: `${id}-problem` });
  /** The form may have been redrawn since. @param {string} text */
  const tell = (text) => {
    const now = input.isConnected ? input : fieldNamed(document, key);
    if (!now) return;
    delete now.dataset.sent;
    const typed = now instanceof HTMLInputElement || now instanceof HTMLTextAreaElement;
    if (text === "" && typed && now.value === /** @type {HTMLInputElement} */ (input).value)
      now.dataset.was = now.value;
    tellAt(now, text);
  };
  return { frame: element("div", { class: "field" }, element("label", { for: id }, label), input, problem), tell };
}
