// @ts-check
// Signing out clears what the browser keeps for a person; unsaved edits only after they confirm it.

import { forget, unsavedEdits } from "../shared/own-storage.js";

const { me = "" } = /** @type {HTMLElement} */ (document.getElementById("main")).dataset;
const dialog = /** @type {HTMLDialogElement} */ (document.getElementById("unsaved"));
const question = /** @type {HTMLElement} */ (document.getElementById("unsaved-question"));
/** @type {HTMLFormElement | null} */ let asked = null;

for (const form of /** @type {NodeListOf<HTMLFormElement>} */ (document.querySelectorAll("form[data-signs-out]")))
  form.addEventListener("submit", (event) => {
    const count = unsavedEdits(me);
    if (count === 0) {
      forget(me);
      return;
    }
    event.preventDefault();
    asked = form;
    question.textContent =
      count === 1
        ? "One edit of yours was not saved yet. Open its plan to send it, or sign out and discard it."
        : `${count} edits of yours were not saved yet. Open their plans to send them, or sign out and discard them.`;
    dialog.showModal();
  });
dialog.addEventListener("close", () => {
  if (dialog.returnValue !== "discard" || !asked) return;
  forget(me);
  // Not asked again: nothing is left.
  asked.submit();
});
