// @ts-check
// Keys of the task list.

/** @import { Store } from "./store.js" */
/** @import { ListView } from "./list.js" */
/** @import { Actions } from "./actions.js" */
/** @import { CellEditor } from "./editor.js" */
/** @import { Commands } from "./commands.js" */
import { COLUMNS } from "./columns.js";

const PAGE = 15;

/** @param {Store} store @param {ListView} list @param {Actions} actions @param {CellEditor} editor @param {Commands} commands @param {HTMLElement} element */
export function listenToKeys(store, list, actions, editor, commands, element) {
  element.addEventListener("keydown", (event) => {
    const target = /** @type {HTMLElement} */ (event.target);
    if (target.id === "new-task" || event.isComposing || !store.current) return;
    const { id, col } = store.current;
    if (shortcut(event) || inNumber(event, col) || move(event, id, col)) event.preventDefault();
    else if (event.key === "Enter" || event.key === "F2") {
      event.preventDefault();
      editor.open(id, col);
    } else if (event.key === " " && col === "state") {
      event.preventDefault();
      commands.run("done");
    } else if (event.key === "Delete" && ["owner", "after", "start"].includes(col)) {
      event.preventDefault();
      actions.type(id, col, "");
    } else if (isText(event) && col !== "no") {
      event.preventDefault();
      editor.open(id, col, event.key);
    }
  });

  // Undo, redo and the list of keys work wherever nothing is being typed.
  document.addEventListener("keydown", (event) => {
    const target = /** @type {HTMLElement} */ (event.target);
    if (target.matches("input, select, textarea") || document.querySelector("dialog[open]")) return;
    const key = event.key.toLowerCase();
    const control = event.ctrlKey || event.metaKey;
    if (control && key === "z") commands.run(event.shiftKey ? "redo" : "undo");
    else if (control && key === "y") commands.run("redo");
    else if (key === "?" && !isEditable(target, store)) commands.run("keys");
    else return;
    event.preventDefault();
  });

  /** @param {KeyboardEvent} event */
  function shortcut(event) {
    const control = event.ctrlKey || event.metaKey;
    if (control && event.key === ".") commands.run("indent");
    else if (control && event.key === ",") commands.run("outdent");
    else if (event.altKey && event.key === "Enter") commands.run("card");
    else if (control && event.key === "Enter") commands.run("insert");
    else if (control && event.key === "Delete") commands.run("remove");
    else if (event.altKey && event.key === "ArrowUp") commands.run("up");
    else if (event.altKey && event.key === "ArrowDown") commands.run("down");
    else return false;
    return true;
  }

  /** Letters are commands on the row number, which cannot be typed in. @param {KeyboardEvent} event @param {string} col */
  function inNumber(event, col) {
    if (col !== "no" || event.ctrlKey || event.metaKey || event.altKey) return false;
    const command = { m: "milestone", s: "start", d: "done", c: "card", delete: "remove", "?": "keys" }[
      event.key.toLowerCase()
    ];
    if (command) commands.run(command);
    return command !== undefined;
  }

  /** @param {KeyboardEvent} event @param {string} id @param {string} col */
  function move(event, id, col) {
    if (event.altKey) return false;
    const row = store.position.get(id) ?? 0;
    const column = COLUMNS.findIndex((c) => c.key === col);
    const control = event.ctrlKey || event.metaKey;
    const last = store.rows.length - 1;
    /** @type {Record<string, [number, number]>} */
    const steps = {
      ArrowUp: [row - 1, column],
      ArrowDown: [row + 1, column],
      ArrowLeft: [row, column - 1],
      ArrowRight: [row, column + 1],
      PageUp: [Math.max(0, row - PAGE), column],
      PageDown: [Math.min(last, row + PAGE), column],
      Home: [control ? 0 : row, control ? column : 0],
      End: [control ? last : row, control ? column : COLUMNS.length - 1],
    };
    const to = steps[event.key];
    if (!to) return false;
    if (to[0] > last) document.getElementById("new-task")?.focus();
    else if (to[0] >= 0 && to[1] >= 0 && to[1] < COLUMNS.length) list.focus(store.rows[to[0]].id, COLUMNS[to[1]].key);
    return true;
  }
}

/** @param {HTMLElement} target @param {Store} store */
const isEditable = (target, store) => target.closest(".cell") !== null && store.current?.col !== "no";

/** @param {KeyboardEvent} event */
const isText = (event) => event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey;
