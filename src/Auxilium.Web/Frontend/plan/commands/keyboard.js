// @ts-check
// Keys of the task list: those of commands, moving from cell to cell, and typing into one.

/** @import { Store } from "../state/store.js" */
/** @import { ListView } from "../list/list.js" */
/** @import { Actions } from "./actions.js" */
/** @import { CellEditor } from "../list/editor.js" */
import { fieldOf } from "../fields/fields.js";
import { columnsOf } from "../list/columns.js";
import { commandOf, isEverywhere } from "./commands.js";

const PAGE = 15;

/**
 * @param {Store} store
 * @param {ListView} list
 * @param {Actions} actions
 * @param {CellEditor} editor
 * @param {(command: string) => void} run
 * @param {HTMLElement} element
 */
export function listenToKeys(store, list, actions, editor, run, element) {
  element.addEventListener("keydown", (event) => {
    const target = /** @type {HTMLElement} */ (event.target);
    if (target.id === "new-task" || event.isComposing || !store.current) return;
    const { id, col } = store.current;
    const command = commandOf(event, col === "no");
    if (command === "pickNone" && store.selection.size === 0) return;
    if (command && !isEverywhere(command)) {
      event.preventDefault();
      run(command);
    } else if (move(event, id, col)) event.preventDefault();
    else if (event.key === "Enter" || event.key === "F2") {
      event.preventDefault();
      editor.open(id, col);
    } else if (event.key === " " && col === "state") {
      event.preventDefault();
      run("done");
    } else if (event.key === "Delete" && fieldOf(col).clears) {
      event.preventDefault();
      actions.type(id, col, "");
    } else if (isText(event) && col !== "no" && !command) {
      event.preventDefault();
      editor.open(id, col, event.key);
    }
  });

  // These work wherever nothing is being typed.
  document.addEventListener("keydown", (event) => {
    const target = /** @type {HTMLElement} */ (event.target);
    if (target.matches("input, select, textarea") || document.querySelector("dialog[open]")) return;
    const command = commandOf(event, false);
    if (!command || !isEverywhere(command)) return;
    event.preventDefault();
    run(command);
  });

  /** @param {KeyboardEvent} event @param {string} id @param {string} col */
  function move(event, id, col) {
    if (event.altKey || event.shiftKey) return false;
    const row = store.line.get(id) ?? 0;
    const columns = columnsOf(store);
    const column = columns.findIndex((c) => c.key === col);
    const control = event.ctrlKey || event.metaKey;
    const last = store.shown.length - 1;
    /** @type {Record<string, [number, number]>} */
    const steps = {
      ArrowUp: [row - 1, column],
      ArrowDown: [row + 1, column],
      ArrowLeft: [row, column - 1],
      ArrowRight: [row, column + 1],
      PageUp: [Math.max(0, row - PAGE), column],
      PageDown: [Math.min(last, row + PAGE), column],
      Home: [control ? 0 : row, control ? column : 0],
      End: [control ? last : row, control ? column : columns.length - 1],
    };
    const to = steps[event.key];
    if (!to) return false;
    if (to[0] > last) document.getElementById("new-task")?.focus();
    else if (to[0] >= 0 && to[1] >= 0 && to[1] < columns.length) list.focus(store.shown[to[0]].id, columns[to[1]].key);
    return true;
  }
}

/** @param {KeyboardEvent} event */
const isText = (event) => event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey;
