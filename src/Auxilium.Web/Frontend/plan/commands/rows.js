// @ts-check
// Commands that add, move and remove rows.

/** @import { Command, Screen } from "./command.js" */
/** @import { Row } from "../state/types.js" */
import { aRow, aSavedRow, rowOf } from "./command.js";

/** @type {Command[]} */
export const ROWS = [
  {
    name: "insert",
    title: "New row below",
    keys: "Ctrl+Enter",
    can: aRow,
    run: (screen) => screen.editor.open(screen.actions.insertBelow(rowOf(screen)), "name"),
  },
  {
    name: "insertAbove",
    title: "New row above",
    keys: "Ctrl+Shift+Enter",
    can: aRow,
    run: (screen) => screen.editor.open(screen.actions.insertAbove(rowOf(screen)), "name"),
  },
  {
    name: "duplicate",
    title: "Duplicate the rows",
    keys: "F4",
    can: aSavedRow,
    run: ({ store, actions }) => actions.duplicate(store.selection.tops),
  },
  {
    name: "indent",
    title: "Indent: into the row above",
    keys: "Ctrl+.",
    can: aSavedRow,
    run: (screen) => sendFor(screen, "indentTask", screen.store.selection.tops),
  },
  {
    name: "outdent",
    title: "Outdent: one level up",
    keys: "Ctrl+,",
    can: aSavedRow,
    // The last first: each takes the rows after it along, and those are out already.
    run: (screen) => sendFor(screen, "outdentTask", screen.store.selection.tops.toReversed()),
  },
  {
    name: "up",
    title: "Move up",
    keys: "Alt+ArrowUp",
    can: aSavedRow,
    run: ({ store, actions }) => actions.moveBy(store.selection.tops, -1),
  },
  {
    name: "down",
    title: "Move down",
    keys: "Alt+ArrowDown",
    can: aSavedRow,
    run: ({ store, actions }) => actions.moveBy(store.selection.tops, 1),
  },
  {
    name: "remove",
    title: "Remove the rows",
    keys: "Ctrl+Delete",
    letter: "Delete",
    can: aRow,
    run: remove,
  },
];

/** @param {Screen} screen @param {string} type @param {Row[]} rows */
function sendFor(screen, type, rows) {
  const edits = rows.map(({ id }) => ({ type, task: id }));
  screen.actions.sendAll(edits, rowOf(screen).id);
}

/** @param {Screen} screen */
function remove(screen) {
  const { store, actions, list } = screen;
  const row = rowOf(screen);
  const tops = store.selection.tops;
  const col = store.current?.col ?? "name";
  const going = new Set(tops.map((top) => top.id));
  const last = store.line.get(tops.at(-1)?.id ?? row.id) ?? 0;
  const outside = (/** @type {Row} */ other) => {
    for (let up = /** @type {string | null} */ (other.id); up !== null; up = store.row(up)?.parent ?? null)
      if (going.has(up)) return false;
    return other.id !== row.id || !row.unsaved;
  };
  const next = store.shown.slice(last).find(outside) ?? store.shown.slice(0, last).findLast(outside);
  if (row.unsaved) actions.abandon(row.id, "name");
  else actions.send({ type: "removeTasks", tasks: [...going] }, row.id);
  store.selection.clear();
  if (next) list.focus(next.id, col);
  else document.getElementById("new-task")?.focus();
}
