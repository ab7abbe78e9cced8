// @ts-check
// The empty row at the end: a name, Enter, the next name.

/** @import { Store } from "../state/store.js" */
/** @import { ListView } from "./list.js" */
/** @import { Actions } from "../commands/actions.js" */

import { takeKept } from "../panels/rescue.js";

/** @param {Store} store @param {ListView} list @param {Actions} actions */
export function listenToNewTask(store, list, actions) {
  const input = /** @type {HTMLInputElement} */ (document.getElementById("new-task"));
  /** Chosen by indenting before typing; otherwise that of the last row. @type {number | null} */
  let chosen = null;

  input.addEventListener("focus", () => {
    store.current = null;
    show();
  });
  input.addEventListener("keydown", (event) => {
    event.stopPropagation();
    if (event.isComposing) return;
    const control = event.ctrlKey || event.metaKey;
    if (event.key === "Enter" || (event.key === "Tab" && !event.shiftKey && input.value.trim() !== "")) {
      event.preventDefault();
      const id = take();
      if (id && event.key === "Tab") list.focus(id, "owner");
    } else if (control && event.key === ".") {
      event.preventDefault();
      chosen = Math.min(level() + 1, deepest());
      show();
    } else if (control && event.key === ",") {
      event.preventDefault();
      chosen = Math.max(0, level() - 1);
      show();
    } else if (event.key === "ArrowUp" && store.shown.length > 0) {
      event.preventDefault();
      list.focus(store.shown[store.shown.length - 1].id, "name");
    } else if (event.key === "Escape") {
      input.value = "";
      takeKept();
    }
  });
  store.subscribe(show);

  function take() {
    const name = input.value.trim();
    if (name === "") return null;
    const at = level();
    const { parent, after } = placeAt(at);
    const id = actions.add(name, parent, at, after);
    const kept = takeKept();
    if (kept) actions.type(id, kept.col, kept.text);
    input.value = "";
    chosen = at;
    // Drawn at once, so that the next name can be typed on the next row.
    list.draw();
    list.revealNew();
    return id;
  }

  function level() {
    return Math.min(chosen ?? store.rows.at(-1)?.level ?? 0, deepest());
  }

  function deepest() {
    const last = store.rows.at(-1);
    return last ? last.level + (last.kind === "milestone" ? 0 : 1) : 0;
  }

  /** @param {number} at */
  function placeAt(at) {
    /** @type {string | null} */ let after = null;
    for (let i = store.rows.length - 1; i >= 0; i--) {
      const row = store.rows[i];
      if (row.level === at && after === null) after = row.id;
      if (row.level < at) return { parent: row.id, after };
      if (row.level === at) return { parent: row.parent, after };
    }
    return { parent: null, after };
  }

  function show() {
    const cell = /** @type {HTMLElement} */ (input.parentElement);
    cell.style.setProperty("--level", String(level()));
  }
}
