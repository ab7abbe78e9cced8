// @ts-check
// What somebody types for a row that another removes meanwhile is kept, and offered as a new row.

/** @import { Store } from "../state/store.js" */
import { FIELDS } from "../fields/fields.js";

/** What is given to the new row besides its name, once it is added. @type {{ col: string, text: string } | null} */
let kept = null;

/** @param {Store} store @param {string} name what the row was called @param {string} col @param {string} text */
export function rescue(store, name, col, text) {
  const input = /** @type {HTMLInputElement | null} */ (document.getElementById("new-task"));
  const field = FIELDS.find(({ key, edit }) => key === col && edit);
  const what = (field?.label ?? "a field").toLowerCase();
  kept = col === "name" || !field ? null : { col, text };
  if (input) {
    input.value = col === "name" ? text : name;
    input.focus();
  }
  const typed = col === "name" ? `“${text}”` : `“${text}” for its ${what}`;
  store.tell(`“${name}” was removed while you typed ${typed}. It is kept below as a new task: press Enter to add it.`);
}

/** What belongs to the row that is added now; asked once. */
export function takeKept() {
  const now = kept;
  kept = null;
  return now;
}
