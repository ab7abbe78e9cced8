// @ts-check
// What a person can do to the plan: each action sends an edit and handles its refusal where it was made.

/** @import { Store } from "./store.js" */
/** @import { Outbox, Refusal } from "./outbox.js" */
/** @import { Row } from "./types.js" */
import { editFor, editorText } from "./columns.js";
import { dayOf, finishDayOf } from "./time.js";

export class Actions {
  #store;
  #outbox;

  /** @param {Store} store @param {Outbox} outbox */
  constructor(store, outbox) {
    this.#store = store;
    this.#outbox = outbox;
  }

  /** Takes what was typed into a cell. @param {string} id @param {string} col @param {string} text */
  type(id, col, text) {
    const row = this.#store.row(id);
    if (!row) return;
    const key = `${id}/${col}`;
    if (row.unsaved && col === "name") {
      this.#sendNew(row, text);
      return;
    }
    if (text === editorText(this.#store, row, col)) {
      this.#forget(key);
      return;
    }
    const made = editFor(this.#store, row, col, text);
    if ("problem" in made) this.#refuse(key, text, { message: made.problem });
    else this.#sendFromCell(key, text, made.edit, { near: dayIn(row, col) });
  }

  /** Adds a task after the last row of its phase. @param {string} name @param {string | null} parent @param {number} level @param {string | null} after */
  add(name, parent, level, after) {
    const row = unsavedRow(name, parent, level);
    this.#store.addUnsaved(row, after);
    if (name !== "") this.#sendNew(row, name);
    return row.id;
  }

  /** An empty row below another, to be named. @param {Row} row */
  insertBelow(row) {
    const inside = row.kind === "phase";
    return this.add("", inside ? row.id : row.parent, inside ? row.level + 1 : row.level, inside ? null : row.id);
  }

  /** Leaves a cell as it was before it was typed in. @param {string} id @param {string} col */
  abandon(id, col) {
    this.#forget(`${id}/${col}`);
    if (col === "name") this.#store.dropUnsaved(id);
  }

  /** @param {object} edit @param {string | null} [task] the row to blame a refusal on */
  send(edit, task = null) {
    this.#outbox.send({
      make: () => edit,
      onRefused: (refusal) => {
        if (refusal.theirs !== undefined) this.#choose(task ? `${task}/name` : null, "", refusal, edit);
        else this.#tell(refusal.message);
      },
    });
  }

  /** A row moves one place up or down among its siblings. @param {Row} row @param {-1 | 1} step */
  moveBy(row, step) {
    const siblings = this.#store.rows.filter((r) => r.parent === row.parent && !r.unsaved);
    const at = siblings.indexOf(row) + step;
    if (at < 0 || at >= siblings.length) return;
    const after = step < 0 ? (siblings[at - 1]?.id ?? null) : siblings[at].id;
    this.send({ type: "moveTask", task: row.id, parent: row.parent, after }, row.id);
  }

  undo() {
    this.#takeBack("lastEdit");
  }

  redo() {
    this.#takeBack("lastTakeBack");
  }

  /** @param {"lastEdit" | "lastTakeBack"} which @param {boolean} [overrule] */
  #takeBack(which, overrule = false) {
    this.#outbox.send({
      make: () => null,
      takeBack: which,
      overrule,
      onRefused: (refusal) => {
        if (refusal.theirs === undefined) this.#tell(refusal.message);
        else this.#choose(null, "", refusal, null, () => this.#takeBack(which, true));
      },
    });
  }

  /** @param {string} message */
  #tell(message) {
    this.#store.notice = { text: message, tone: "problem" };
    this.#store.changed();
  }

  /** @param {Row} row @param {string} name */
  #sendNew(row, name) {
    const key = `${row.id}/name`;
    row.name = name;
    this.#store.drafts.set(key, { text: name, saving: true });
    this.#outbox.send({
      make: () =>
        this.#store.unsaved.has(row.id)
          ? { type: "addTask", id: row.id, name, parent: row.parent, after: this.#store.siblingBefore(row.id) }
          : null,
      onDone: () => this.#forget(key),
      onRefused: (refusal) => this.#refuse(key, name, refusal),
    });
    this.#store.changed();
  }

  /** @param {string} key @param {string} text @param {object} edit @param {{ near?: number, overrule?: boolean }} [how] */
  #sendFromCell(key, text, edit, how = {}) {
    this.#store.drafts.set(key, { text, saving: true });
    this.#outbox.send({
      ...how,
      make: () => edit,
      onDone: () => this.#forget(key),
      onRefused: (refusal) => {
        if (refusal.theirs === undefined) this.#refuse(key, text, refusal);
        else
          this.#choose(key, text, refusal, edit, () => this.#sendFromCell(key, text, edit, { ...how, overrule: true }));
      },
    });
    this.#store.changed();
  }

  /** @param {string} key @param {string} text @param {Refusal} refusal */
  #refuse(key, text, refusal) {
    this.#store.drafts.set(key, { text, problem: refusal.message });
    this.#store.problemAt = key;
    this.#store.changed();
  }

  /** Somebody changed the same thing: the person is shown both. @param {string | null} key @param {string} text @param {Refusal} refusal @param {object | null} edit @param {() => void} [resend] */
  #choose(key, text, refusal, edit, resend) {
    const at = key ?? "strip/choice";
    const again = resend ?? (() => this.#sendFromCell(at, text, /** @type {object} */ (edit), { overrule: true }));
    this.#store.drafts.set(at, {
      text,
      problem: refusal.message,
      conflict: {
        theirs: refusal.theirs ?? "",
        yours: refusal.yours ?? "",
        by: refusal.by ?? "",
        resend: () => {
          this.#forget(at);
          again();
        },
      },
    });
    this.#store.problemAt = at;
    this.#store.changed();
  }

  /** @param {string} key */
  #forget(key) {
    this.#store.drafts.delete(key);
    if (this.#store.problemAt === key) this.#store.problemAt = null;
    this.#store.changed();
  }

  /** @param {string} key */
  keepTheirs(key) {
    this.#forget(key);
  }
}

/** The day that a cell of dates holds. @param {Row} row @param {string} col */
function dayIn(row, col) {
  if (row.start === null) return undefined;
  return col === "start" ? dayOf(row.start) : col === "finish" ? finishDayOf(row.finish) : undefined;
}

/** @param {string} name @param {string | null} parent @param {number} level @returns {Row} */
function unsavedRow(name, parent, level) {
  const id = "t" + crypto.randomUUID().replaceAll("-", "").slice(0, 16);
  return {
    id,
    name,
    parent,
    level,
    unsaved: true,
    no: "",
    kind: "task",
    length: "",
    owner: null,
    helpers: 0,
    after: "",
    start: null,
    finish: 0,
    doneTo: null,
    lateFinish: null,
    spare: null,
    progress: 0,
    critical: false,
    state: null,
    started: false,
    waitsFor: null,
    fixed: null,
    pinned: false,
    fixedSides: null,
    warning: null,
    stretches: null,
    deadline: null,
    off: false,
  };
}
