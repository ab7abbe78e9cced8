// @ts-check
// Asks under which name a baseline is taken, and of what.

/** @import { Store } from "../state/store.js" */
/** @import { Outbox } from "../server/outbox.js" */
import { element } from "../card/fields.js";
import { dayOf, withYear } from "../state/time.js";

/**
 * Asks for the name of a new baseline, and takes it.
 * @param {Store} store
 * @param {Outbox} outbox
 */
export function makeBaseline(store, outbox) {
  const dialog = /** @type {HTMLDialogElement} */ (
    element("dialog", { class: "panel baseline", "aria-labelledby": "baseline-title" })
  );
  document.getElementById("main")?.append(dialog);

  /** @param {string[]} picked ids of the rows that are picked */
  return (picked) => {
    const { project } = store;
    /** @type {string[] | null} */ let tasks = picked.length > 0 ? picked : null;
    const input = /** @type {HTMLInputElement} */ (element("input", { class: "input", type: "text", maxlength: "80" }));
    input.placeholder = project.baselines.length === 0 ? "As agreed" : `Plan of ${withYear(dayOf(project.today))}`;
    const field = element("label", { class: "baseline-name" }, "Name", input);
    const problem = element("p", { class: "problem", role: "alert", id: "baseline-problem" });
    const take = element("button", { class: "button button-strong", type: "submit" }, "Take baseline");
    const close = element("button", { class: "button", type: "button" }, "Cancel");
    close.addEventListener("click", () => dialog.close());
    const form = element(
      "form",
      { autocomplete: "off" },
      element("h2", { id: "baseline-title" }, "Take a baseline"),
      element(
        "p",
        { class: "hint" },
        "It remembers when each task starts and finishes now. Edits never change it; drift is measured against it.",
      ),
      field,
      ...(tasks === null ? [] : [choice(picked.length, (all) => (tasks = all ? null : picked))]),
      problem,
      element("div", { class: "actions" }, close, take),
    );
    form.addEventListener("submit", (event) => {
      event.preventDefault();
      const name = input.value.trim() || input.placeholder;
      outbox.send({
        make: () => ({ type: "takeBaseline", name, ...(tasks === null ? {} : { tasks }) }),
        onDone: () => dialog.close(),
        onRefused: ({ message, code }) => {
          if (code === "proposed") dialog.close();
          problem.textContent = message;
          input.setAttribute("aria-describedby", problem.id);
          input.focus();
        },
      });
    });
    dialog.replaceChildren(form);
    dialog.showModal();
    input.focus();
  };
}

/** The whole plan, or the rows that are picked. @param {number} count @param {(all: boolean) => void} choose */
function choice(count, choose) {
  const option = (/** @type {string} */ words, /** @type {boolean} */ all) => {
    const radio = /** @type {HTMLInputElement} */ (element("input", { type: "radio", name: "baseline-of" }));
    radio.checked = !all;
    radio.addEventListener("change", () => choose(all));
    return element("label", { class: "check" }, radio, words);
  };
  const rows =
    count === 1 ? "The selected row, with all inside it" : `The ${count} selected rows, with all inside them`;
  return element(
    "fieldset",
    { class: "baseline-of" },
    element("legend", {}, "Of"),
    option(rows, false),
    option("The whole plan", true),
  );
}
