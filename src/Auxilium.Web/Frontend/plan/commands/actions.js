// @ts-check
// What a person can do to the plan: each action sends an edit and handles its refusal where it was made.

/** @import { Store } from "../state/store.js" */
/** @import { Outbox, Refusal } from "../server/outbox.js" */
/** @import { Row } from "../state/types.js" */
import { FIELDS, fieldOf } from "../fields/fields.js";
import { editFor, editorText } from "../list/columns.js";
import { emptyRow, passes } from "../state/view.js";

/** What the columns are called that may hold the same for many rows. */
const SHARED = FIELDS.flatMap(({ shared, width, label }) => (shared && width ? [label.toLowerCase()] : []));

/** @param {object[]} edits */
const together = (edits) => ({ type: "together", edits });

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
    else
      this.#sendFromCell(key, text, this.#forAllPicked(row, col, text) ?? made.edit, {
        near: fieldOf(col).near?.(row),
        ...this.#store.meantFor,
      });
  }

  /** What is typed into one of several picked rows is meant for them all. @param {Row} row @param {string} col @param {string} text */
  #forAllPicked(row, col, text) {
    const { selection } = this.#store;
    if (selection.size < 2 || !selection.has(row.id) || !fieldOf(col).shared) return null;
    return together(this.#editsOf(selection.ids, col, text, row.kind === "phase"));
  }

  /** @param {string[]} ids @param {string} col @param {string} text @param {boolean} withPhases @returns {object[]} */
  #editsOf(ids, col, text, withPhases) {
    return ids.flatMap((id) => {
      const row = this.#store.row(id);
      if (!row || row.unsaved || (row.kind === "phase" && !withPhases && !fieldOf(col).onPhases)) return [];
      const made = editFor(this.#store, row, col, text);
      return "edit" in made ? [made.edit] : [];
    });
  }

  /** Gives one column of all picked rows a text. @param {string} col @param {string} text @returns {string | null} why not */
  setAll(col, text) {
    const { ids } = this.#store.selection;
    const rows = ids.flatMap((id) => this.#store.row(id) ?? []);
    const made = rows.length > 0 ? editFor(this.#store, rows[0], col, text) : { problem: "Pick some rows first." };
    if ("problem" in made) return made.problem;
    this.sendAll(this.#editsOf(ids, col, text, false), ids[0]);
    return null;
  }

  /** Gives the cells of the picked rows what the first of them has. @param {string} col */
  fillDown(col) {
    const [first, ...others] = this.#store.shown.filter((row) => this.#store.selection.has(row.id));
    if (!first || others.length === 0) this.#store.tell("Pick the row to copy from and those below it first.");
    else if (!fieldOf(col).shared)
      this.#store.tell(`Stand in one of these cells of a picked row to fill it down: ${SHARED.join(", ")}.`);
    else {
      // What was just typed may still be on its way.
      const text = this.#store.drafts.get(`${first.id}/${col}`)?.text ?? filledText(this.#store, first, col);
      const edits = this.#editsOf(
        others.map((row) => row.id),
        col,
        text,
        false,
      );
      this.sendAll(edits, others[0].id, { near: fieldOf(col).near?.(first) });
    }
  }

  /** Copies of rows right below the last of them. @param {Row[]} rows in the plan's order, none inside another */
  duplicate(rows) {
    const last = rows[rows.length - 1];
    this.send({ type: "copyTasks", tasks: rows.map((row) => row.id), parent: last.parent, after: last.id }, last.id);
  }

  /**
   * Adds a task after the last row of its phase.
   * @param {string} name
   * @param {string | null} parent
   * @param {number} level
   * @param {string | null} after
   */
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

  /** An empty row above another, to be named. @param {Row} row */
  insertAbove(row) {
    return this.add("", row.parent, row.level, this.#store.siblingBefore(row.id));
  }

  /** Restores a cell to what it was before typing. @param {string} id @param {string} col */
  abandon(id, col) {
    this.#forget(`${id}/${col}`);
    if (col === "name") this.#store.dropUnsaved(id);
  }

  /**
   * @param {object} edit
   * @param {string | null} [task] the row to blame a refusal on
   * @param {{ near?: number, onDone?: () => void }} [how]
   */
  send(edit, task = null, how = {}) {
    this.#outbox.send({
      ...how,
      make: () => edit,
      onRefused: (refusal) => {
        if (refusal.theirs !== undefined) this.#choose(task ? `${task}/name` : null, "", refusal, edit);
        else this.#store.tell(refusal.message);
      },
    });
  }

  /** @param {object} edit @param {(problem: string) => void} tell is told why it was refused, or nothing when it was taken */
  sendOr(edit, tell) {
    this.#outbox.send({ make: () => edit, onDone: () => tell(""), onRefused: (refusal) => tell(refusal.message) });
  }

  /** Several edits as one. @param {object[]} edits @param {string | null} task @param {{ near?: number }} [how] */
  sendAll(edits, task, how = {}) {
    if (edits.length === 0)
      this.#store.tell("None of the picked rows can have this: a phase gets it from the rows inside it.");
    else this.send(edits.length === 1 ? edits[0] : together(edits), task, how);
  }

  /**
   * Rows move one place up or down among their siblings.
   * @param {Row[]} rows in the plan's order, none inside another
   * @param {-1 | 1} step
   */
  moveBy(rows, step) {
    if (rows.some((row) => row.parent !== rows[0].parent)) {
      this.#store.tell("Rows of one phase move together: pick such rows only.");
      return;
    }
    const siblings = this.#store.rows.filter((r) => r.parent === rows[0].parent && !r.unsaved);
    const over = step < 0 ? siblings.indexOf(rows[0]) - 1 : siblings.indexOf(rows[rows.length - 1]) + 1;
    if (over < 0 || over >= siblings.length) {
      this.#leavePhase(rows, step);
      return;
    }
    let after = step < 0 ? (siblings[over - 1]?.id ?? null) : siblings[over].id;
    const edits = rows.map((row) => {
      const edit = { type: "moveTask", task: row.id, parent: row.parent, after };
      after = row.id;
      return edit;
    });
    this.sendAll(edits, rows[0].id);
  }

  /** At the edge of their phase rows go out of it; at the edge of the list it says so. @param {Row[]} rows @param {-1 | 1} step */
  #leavePhase(rows, step) {
    const phase = this.#store.row(rows[0].parent);
    if (!phase) {
      this.#store.tell(step < 0 ? "This is the first row already." : "This is the last row already.");
      return;
    }
    let after = step < 0 ? this.#store.siblingBefore(phase.id) : phase.id;
    const edits = rows.map((row) => {
      const edit = { type: "moveTask", task: row.id, parent: phase.parent, after };
      after = row.id;
      return edit;
    });
    this.sendAll(edits, rows[0].id);
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
        if (refusal.theirs === undefined) this.#store.tell(refusal.message);
        else this.#choose(null, "", refusal, null, () => this.#takeBack(which, true));
      },
    });
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
      onDone: () => {
        this.#forget(key);
        const added = this.#store.row(row.id);
        if (added && !this.#store.line.has(row.id) && !passes(added, this.#store.view, this.#store))
          this.#store.tell(`“${name}” is added, but the filter hides it: choose “Show everything” to see it.`);
      },
      onRefused: (refusal) => this.#refuse(key, name, refusal),
    });
    this.#store.changed();
  }

  /**
   * @param {string} key
   * @param {string} text
   * @param {object} edit
   * @param {{ near?: number, overrule?: boolean, seenVersion?: number }} [how]
   */
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
    if (refusal.code === "proposed") {
      this.#forget(key);
      this.#store.dropUnsaved(key.split("/")[0]);
      return;
    }
    this.#store.drafts.set(key, { text, problem: refusal.message });
    this.#store.problemAt = key;
    this.#store.changed();
  }

  /**
   * Somebody changed the same thing: the person is shown both.
   * @param {string | null} key
   * @param {string} text
   * @param {Refusal} refusal
   * @param {object | null} edit
   * @param {() => void} [resend]
   */
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

/** What a cell says in full, to be typed into others. @param {Store} store @param {Row} row @param {string} col */
const filledText = (store, row, col) => fieldOf(col).filled?.(store, row) || editorText(store, row, col);

/** @param {string} name @param {string | null} parent @param {number} level @returns {Row} */
function unsavedRow(name, parent, level) {
  const id = "t" + crypto.randomUUID().replaceAll("-", "").slice(0, 16);
  return { ...emptyRow(id, name), parent, level, unsaved: true };
}
