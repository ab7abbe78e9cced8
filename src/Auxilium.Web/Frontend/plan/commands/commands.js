// @ts-check
// Named commands: a button, a key, the palette and an assistive technology all run the same.

/** @import { Store } from "../state/store.js" */
/** @import { ListView } from "../list/list.js" */
/** @import { Actions } from "./actions.js" */
/** @import { CellEditor } from "../list/editor.js" */
/** @import { TaskCard } from "../card/card.js" */
import { EVERYTHING, foldedFrom } from "../state/view.js";

/**
 * @typedef {object} Command
 * @property {string} name
 * @property {string} title what it does
 * @property {string} [keys] as they are pressed; several ways are separated by a space
 * @property {string} [letter] on the row number, where nothing can be typed
 */

/** Every command that needs no place to point at, in the order they are listed. @type {{ group: string, commands: Command[] }[]} */
export const COMMANDS = [
  {
    group: "Rows",
    commands: [
      { name: "insert", title: "New row below", keys: "Ctrl+Enter" },
      { name: "insertAbove", title: "New row above", keys: "Ctrl+Shift+Enter" },
      { name: "duplicate", title: "Duplicate the rows", keys: "F4" },
      { name: "indent", title: "Indent: into the row above", keys: "Ctrl+." },
      { name: "outdent", title: "Outdent: one level up", keys: "Ctrl+," },
      { name: "up", title: "Move up", keys: "Alt+ArrowUp" },
      { name: "down", title: "Move down", keys: "Alt+ArrowDown" },
      { name: "remove", title: "Remove the rows", keys: "Ctrl+Delete", letter: "Delete" },
    ],
  },
  {
    group: "Picking rows",
    commands: [
      { name: "pick", title: "Select the row, or clear it", keys: "Shift+Space" },
      { name: "pickUp", title: "Pick up to the row above", keys: "Shift+ArrowUp" },
      { name: "pickDown", title: "Pick down to the row below", keys: "Shift+ArrowDown" },
      { name: "pickAll", title: "Pick all rows that are shown", keys: "Ctrl+A" },
      { name: "pickNone", title: "Clear selection", keys: "Escape" },
      { name: "fillDown", title: "Fill the cell down over the picked rows", keys: "F8" },
      { name: "chain", title: "Link the picked rows as a chain, in the order they were picked", keys: "F9" },
    ],
  },
  {
    group: "Tasks",
    commands: [
      { name: "card", title: "Card: everything about the task", keys: "Alt+Enter", letter: "c" },
      { name: "milestone", title: "Milestone on or off", letter: "m" },
      { name: "start", title: "Started", letter: "s" },
      { name: "done", title: "Done on or off", letter: "d" },
      { name: "key", title: "Key task on or off", letter: "k" },
      { name: "repeat", title: "Repeat the task", letter: "r" },
      { name: "aside", title: "Put aside without a date, or take up again", letter: "u" },
    ],
  },
  {
    group: "Looking",
    commands: [
      { name: "fold", title: "Fold the phase", letter: "-" },
      { name: "unfold", title: "Unfold the phase", letter: "+" },
      { name: "foldAll", title: "Fold all phases" },
      { name: "unfoldAll", title: "Unfold all phases" },
      { name: "unfoldOne", title: "Unfold to the first level" },
      { name: "unfoldTwo", title: "Unfold to the second level" },
      { name: "filter", title: "Filter and sort" },
      { name: "columns", title: "Choose columns" },
      { name: "wrap", title: "Two lines for long names, or one" },
      { name: "tray", title: "Tasks without a date" },
      { name: "showAll", title: "Show everything, in the plan’s order" },
      { name: "today", title: "Go to today" },
      { name: "fitAll", title: "Fit the project into the timeline" },
      { name: "fitPicked", title: "Fit the picked rows into the timeline" },
      { name: "zoomIn", title: "Zoom in on the timeline", letter: "]" },
      { name: "zoomOut", title: "Zoom out of the timeline", letter: "[" },
    ],
  },
  {
    group: "Everything",
    commands: [
      { name: "find", title: "Find a task, a person or an action", keys: "/" },
      { name: "pasteList", title: "Paste a list of tasks" },
      { name: "undo", title: "Undo", keys: "Ctrl+Z" },
      { name: "redo", title: "Redo", keys: "Ctrl+Shift+Z Ctrl+Y" },
      { name: "moved", title: "See what moved" },
      { name: "keys", title: "List of keys", keys: "?" },
    ],
  },
];

const ALL = COMMANDS.flatMap(({ commands }) => commands);
const BY_KEYS = new Map(ALL.flatMap(({ name, keys }) => (keys ?? "").split(" ").map((chord) => [chord, name])));
const BY_LETTER = new Map(ALL.flatMap(({ name, letter }) => (letter ? [[letter, name]] : [])));

/** Those that work while nothing is being typed, wherever the focus is. */
export const EVERYWHERE = new Set(["find", "undo", "redo", "keys"]);

/** The command that a key means. @param {KeyboardEvent} event @param {boolean} onNumber @returns {string | undefined} */
export function commandOf(event, onNumber) {
  const control = event.ctrlKey || event.metaKey;
  const key = event.key === " " ? "Space" : event.key.length === 1 ? event.key.toUpperCase() : event.key;
  // Which sign needs Shift differs from keyboard to keyboard; letters and named keys do not.
  const shift = event.shiftKey && (key.length > 1 || /[A-Z]/.test(key)) ? "Shift+" : "";
  const chord = `${control ? "Ctrl+" : ""}${event.altKey ? "Alt+" : ""}${shift}${key}`;
  const plain = onNumber && !control && !event.altKey && !event.shiftKey;
  return BY_KEYS.get(chord) ?? ((plain || key === "+") && onNumber ? BY_LETTER.get(lower(event.key)) : undefined);
}

/** @param {string} key */
const lower = (key) => (key.length === 1 ? key.toLowerCase() : key);

/** Keys as they are printed. @param {string} chord */
export const printed = (chord) =>
  chord
    .split("+")
    .map((key) => /** @type {Record<string, string>} */ ({ ArrowUp: "↑", ArrowDown: "↓", Escape: "Esc" })[key] ?? key);

export class Commands {
  #store;
  #list;
  #actions;
  #editor;
  #card;
  #openRepeat;
  /** @type {Record<string, () => void>} */ #others;

  /**
   * @param {Store} store
   * @param {ListView} list
   * @param {Actions} actions
   * @param {CellEditor} editor
   * @param {TaskCard} card
   * @param {(row: import("../state/types.js").Row) => void} openRepeat
   * @param {Record<string, () => void>} others that need no row
   */
  constructor(store, list, actions, editor, card, openRepeat, others) {
    this.#store = store;
    this.#list = list;
    this.#actions = actions;
    this.#editor = editor;
    this.#card = card;
    this.#openRepeat = openRepeat;
    const folded = (/** @type {number} */ level) => () => this.#fold(foldedFrom(store.rows, level));
    this.#others = {
      undo: () => actions.undo(),
      redo: () => actions.redo(),
      pickAll: () => store.selection.all(),
      pickNone: () => store.selection.clear(),
      foldAll: folded(0),
      unfoldOne: folded(1),
      unfoldTwo: folded(2),
      unfoldAll: () => this.#fold([]),
      showAll: () => store.lookAt(EVERYTHING),
      wrap: () => store.lookAt({ wrap: !store.look.wrap }),
      ...others,
    };
  }

  /** @param {string} name */
  run(name) {
    if (this.#others[name]) {
      this.#others[name]();
      return;
    }
    const { selection, current } = this.#store;
    const row = this.#store.row(current?.id);
    const rows = selection.tops;
    const heading = this.#store.shown[this.#store.line.get(current?.id ?? "") ?? -1];
    if (heading?.heading && (name === "fold" || name === "unfold")) this.#foldOne(heading.id, name);
    else if (heading?.heading && (name === "pickUp" || name === "pickDown")) this.#extend(name === "pickUp" ? -1 : 1);
    else if (!row || (rows.length === 0 && !row.unsaved)) this.#store.tell("Choose a row of the list first.");
    else if (name === "insert") this.#editor.open(this.#actions.insertBelow(row), "name");
    else if (name === "insertAbove") this.#editor.open(this.#actions.insertAbove(row), "name");
    else if (name === "card") void this.#card.open(row.id);
    else if (name === "pick") selection.toggle(row.id);
    else if (name === "pickUp" || name === "pickDown") this.#extend(name === "pickUp" ? -1 : 1);
    else if (name === "fold" || name === "unfold") this.#foldOne(row.kind === "phase" ? row.id : row.parent, name);
    else if (name === "remove") this.#remove(row);
    else if (rows.length === 0) this.#store.tell("This row is not saved yet: give it a name first.");
    else if (name === "up" || name === "down") this.#actions.moveBy(rows, name === "up" ? -1 : 1);
    else if (name === "duplicate") this.#actions.duplicate(rows);
    else if (name === "fillDown") this.#actions.fillDown(this.#store.current?.col ?? "name");
    else if (name === "chain") this.#chain();
    else if (name === "repeat") this.#repeat(row);
    else this.#actions.sendAll(this.#editsOf(name), row.id);
  }

  /** @param {string} name @returns {object[]} */
  #editsOf(name) {
    const { selection } = this.#store;
    const tops = selection.tops;
    if (name === "indent") return tops.map(({ id }) => ({ type: "indentTask", task: id }));
    // The last first: each takes the rows after it along, and those are out already.
    if (name === "outdent") return tops.toReversed().map(({ id }) => ({ type: "outdentTask", task: id }));
    const rows = selection.ids.flatMap((id) => this.#store.row(id) ?? []).filter((row) => !row.unsaved);
    const some = rows.length > 1 ? rows.filter((row) => row.kind !== "phase") : rows;
    if (name === "milestone") {
      const on = some.some((row) => row.kind !== "milestone");
      return some
        .filter((row) => (row.kind === "milestone") !== on)
        .map(({ id }) => ({ type: "setMilestone", task: id, on }));
    }
    if (name === "key") {
      const on = rows.some((row) => !row.key);
      return rows.filter((row) => row.key !== on).map(({ id }) => ({ type: "setKey", task: id, on }));
    }
    if (name === "aside") {
      const on = rows.every((row) => row.off);
      return rows.filter((row) => row.off === on).map(({ id }) => ({ type: "setActive", task: id, on }));
    }
    if (name === "start") return some.map(({ id }) => ({ type: "startTask", task: id }));
    const open = some.filter((row) => row.state !== "done");
    return open.length > 0
      ? open.map(({ id }) => ({ type: "finishTask", task: id }))
      : some.map(({ id }) => ({ type: "reopenTask", task: id }));
  }

  /** @param {import("../state/types.js").Row} row */
  #repeat(row) {
    const series = row.repeats ? row : this.#store.row(row.parent);
    if (series?.repeats) void this.#card.open(series.id);
    else if (row.kind === "phase") this.#store.tell("A phase does not repeat: choose a task inside it.");
    else this.#openRepeat(row);
  }

  #chain() {
    const ids = this.#store.selection.ids;
    if (ids.length < 2) this.#store.tell("Pick two or more rows first, in the order in which they follow each other.");
    else
      this.#actions.sendAll(
        ids.slice(1).map((to, i) => ({ type: "linkTasks", from: ids[i], to })),
        ids[1],
      );
  }

  /** @param {number} step */
  #extend(step) {
    const { current, line, shown, selection } = this.#store;
    if (!current) return;
    const next = shown[(line.get(current.id) ?? 0) + step];
    if (!next) return;
    selection.extendTo(next.id);
    this.#list.focus(next.id, current.col, { keepRange: true });
  }

  /** @param {string | null} phase @param {string} name */
  #foldOne(phase, name) {
    if (phase === null) return;
    const others = this.#store.look.folded.filter((id) => id !== phase);
    this.#fold(name === "fold" ? [...others, phase] : others);
  }

  /** @param {string[]} folded */
  #fold(folded) {
    this.#store.lookAt({ folded });
    if (this.#store.current) this.#list.focus(this.#store.current.id, this.#store.current.col, { keepRange: true });
  }

  /** @param {import("../state/types.js").Row} row */
  #remove(row) {
    const tops = this.#store.selection.tops;
    const col = this.#store.current?.col ?? "name";
    const going = new Set(tops.map((top) => top.id));
    const last = this.#store.line.get(tops.at(-1)?.id ?? row.id) ?? 0;
    const outside = (/** @type {import("../state/types.js").Row} */ other) => {
      for (let up = /** @type {string | null} */ (other.id); up !== null; up = this.#store.row(up)?.parent ?? null)
        if (going.has(up)) return false;
      return other.id !== row.id || !row.unsaved;
    };
    const next = this.#store.shown.slice(last).find(outside) ?? this.#store.shown.slice(0, last).findLast(outside);
    if (row.unsaved) this.#actions.abandon(row.id, "name");
    else this.#actions.send({ type: "removeTasks", tasks: [...going] }, row.id);
    this.#store.selection.clear();
    if (next) this.#list.focus(next.id, col);
    else document.getElementById("new-task")?.focus();
  }
}
