// @ts-check
// Name, start and deadline of the project, in a small panel.

/** @import { Store } from "./store.js" */
/** @import { Outbox } from "./outbox.js" */
import { dayOf, finishDayOf, parts, short } from "./time.js";

/** @param {Store} store @param {Outbox} outbox */
export function factsPanel(store, outbox) {
  const dialog = /** @type {HTMLDialogElement} */ (document.getElementById("facts"));
  const inputs = /** @type {HTMLInputElement[]} */ ([...dialog.querySelectorAll("[data-fact]")]);
  for (const input of inputs) {
    input.addEventListener("change", () => send(input));
    input.addEventListener("keydown", (event) => {
      if (event.key === "Enter") send(input);
    });
  }
  return () => {
    for (const input of inputs) {
      input.value = current(input);
      tell(input, "");
    }
    dialog.showModal();
  };

  /** @param {HTMLInputElement} input */
  function current(input) {
    const { name, start, finishBy } = store.project;
    if (input.dataset.fact === "name") return name;
    if (input.dataset.fact === "start") return full(dayOf(start));
    return finishBy === null ? "" : full(finishDayOf(finishBy));
  }

  /** @param {HTMLInputElement} input */
  function send(input) {
    const text = input.value;
    if (text.trim() === current(input)) {
      tell(input, "");
      return;
    }
    const { start, finish, finishBy } = store.project;
    outbox.send({
      near: input.dataset.fact === "start" ? dayOf(start) : finishDayOf(finishBy ?? finish),
      make: () => (text.trim() === current(input) ? null : edit(input, text)),
      onDone: () => {
        tell(input, "");
        input.value = current(input);
      },
      onRefused: (refusal) => tell(input, refusal.message),
    });
  }

  /** @param {HTMLInputElement} input @param {string} text */
  function edit(input, text) {
    if (input.dataset.fact === "name") return { type: "renameProject", name: text };
    if (input.dataset.fact === "start") return { type: "setProjectStart", start: text };
    return { type: "setFinishBy", finishBy: text.trim() === "" ? null : text };
  }

  /** @param {HTMLInputElement} input @param {string} problem */
  function tell(input, problem) {
    const line = /** @type {HTMLElement} */ (input.nextElementSibling);
    line.textContent = problem;
    if (problem) input.setAttribute("aria-invalid", "true");
    else input.removeAttribute("aria-invalid");
  }
}

/** @param {number} day */
const full = (day) => `${short(day)} ${parts(day).year}`;
