// @ts-check
// Named commands: a button, a key and an assistive technology all run the same.

/** @import { Store } from "./store.js" */
/** @import { ListView } from "./list.js" */
/** @import { Actions } from "./actions.js" */
/** @import { CellEditor } from "./editor.js" */
/** @import { Row } from "./types.js" */
/** @import { TaskCard } from "./card/card.js" */

export class Commands {
  #store;
  #list;
  #actions;
  #editor;
  #card;
  /** @type {Record<string, () => void>} */ #others;

  /** @param {Store} store @param {ListView} list @param {Actions} actions @param {CellEditor} editor @param {TaskCard} card @param {Record<string, () => void>} others that need no row */
  constructor(store, list, actions, editor, card, others) {
    this.#store = store;
    this.#list = list;
    this.#actions = actions;
    this.#editor = editor;
    this.#card = card;
    this.#others = { undo: () => actions.undo(), redo: () => actions.redo(), ...others };
  }

  /** @param {string} name */
  run(name) {
    if (this.#others[name]) {
      this.#others[name]();
      return;
    }
    const row = this.#store.row(this.#store.current?.id);
    if (!row) {
      this.#store.notice = { tone: "problem", text: "Choose a row of the list first." };
      this.#store.changed();
    } else if (name === "insert") this.#editor.open(this.#actions.insertBelow(row), "name");
    else if (name === "card") void this.#card.open(row.id);
    else if (name === "up" || name === "down") this.#actions.moveBy(row, name === "up" ? -1 : 1);
    else if (name === "remove") this.#remove(row);
    else this.#actions.send(this.#editOf(name, row), row.id);
  }

  /** @param {string} name @param {Row} row */
  #editOf(name, row) {
    const task = row.id;
    switch (name) {
      case "indent":
        return { type: "indentTask", task };
      case "outdent":
        return { type: "outdentTask", task };
      case "milestone":
        return { type: "setMilestone", task, on: row.kind !== "milestone" };
      case "start":
        return { type: "startTask", task };
      default:
        return row.state === "done" ? { type: "reportProgress", task, progress: 0 } : { type: "finishTask", task };
    }
  }

  /** @param {Row} row */
  #remove(row) {
    const at = this.#store.position.get(row.id) ?? 0;
    const next = this.#store.rows[this.#store.lastInside(at) + 1] ?? this.#store.rows[at - 1];
    const col = this.#store.current?.col ?? "name";
    if (row.unsaved) this.#actions.abandon(row.id, "name");
    else this.#actions.send({ type: "removeTasks", tasks: [row.id] }, row.id);
    if (next) this.#list.focus(next.id, col);
    else document.getElementById("new-task")?.focus();
  }
}
