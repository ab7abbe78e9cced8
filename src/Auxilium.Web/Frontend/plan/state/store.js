// @ts-check
// What the screen shows, in one place. Everything else reads it and is told when it changed.

/** @import { Changes, Row, Link, Person, Closed, Project, Draft, Run } from "./types.js" */
/** @import { View } from "./view.js" */
/** @import { Place } from "./place.js" */
import { emptyRow, EVERYTHING, filtersOf, insideOf, passes, plainView, shownRows } from "./view.js";
import { Selection } from "./selection.js";

export class Store {
  /** @type {Row[]} */ rows = [];
  /** By id: where a row stands in the plan. @type {Map<string, number>} */ position = new Map();
  /** The rows that are drawn, from top to bottom. @type {Row[]} */ shown = [];
  /** By id: the line that a shown row is drawn on. @type {Map<string, number>} */ line = new Map();
  /**
   * Phases that are shown, with the lines of their first and last row; none where rows are sorted.
   * @type {{ row: Row, at: number, last: number }[]}
   */
  shownPhases = [];
  /**
   * Links of which both ends are shown, with their lines; those that set the finish last, to lie on top.
   * @type {{ link: Link, from: number, to: number }[]}
   */
  shownLinks = [];
  /** @type {View} */ view = plainView();
  selection = new Selection(this);
  /** @type {Link[]} */ links = [];
  /** @type {Person[]} */ people = [];
  /** By the id of a person: the team they are in. @type {Map<string, string>} */ teams = new Map();
  /** @type {Closed[]} */ closed = [];
  /** @type {Project} */ project;
  /**
   * By id: how much is said about a task, and how many files it has.
   * @type {Map<string, { comments: number, files: number }>}
   */
  talk = new Map();
  /** By id: what a row costs, for those who may know. @type {Map<string, import("../../money/server.js").MoneyRow>} */
  money = new Map();
  currency = { sign: "", decimals: 2 };
  /** What the whole project costs. */ planned = 0;
  /** Whether whoever looks may have the project's money. */
  hasMoney = false;
  /** By id: hours worked on a row. @type {Map<string, import("./types.js").Used>} */ used = new Map();
  /** By "task person": in words, that they are overbooked while it is on. @type {Map<string, string>} */ overbooked =
    new Map();
  /** Other projects, once one has asked for them. @type {{ id: string, name: string, start: number, finish: number }[]} */ others =
    [];
  /**
   * What the person may do: change everything, report and propose, look, or look by a link.
   * @type {"edit" | "report" | "look" | "shared" | "past"}
   */
  rights = "edit";
  /** The version that was shown when somebody began to type. @type {number | null} */ typing = null;
  /** Changes that wait for the coordinator. */ proposals = 0;
  canUndo = false;
  canRedo = false;
  /** @type {Run[]} */ sentence = [];
  /** How many tasks the newest edit moved. */ moved = 0;
  /**
   * A sentence that takes the place of the ripple for now.
   * @type {{ text: string, tone: "problem" | "preview" | "waiting" | "proposal" | "told", drop?: (() => void) | undefined } | null}
   */
  notice = null;
  /** By "row/column". @type {Map<string, Draft>} */ drafts = new Map();
  /** Where the newest problem is. @type {string | null} */ problemAt = null;
  /** @type {{ id: string, col: string } | null} */ current = null;
  /**
   * Rows that the server does not know yet, with the sibling each stands after.
   * @type {Map<string, { row: Row, after: string | null }>}
   */
  unsaved = new Map();
  /**
   * What a drag would move, as drawn over the bars; a new task's has no row but a line.
   * @type {{ id: string, line?: number, start: number, finish: number, dragged: boolean }[]}
   */
  ghosts = [];
  /**
   * Records of the plan that are drawn behind the bars, each with how it is told from the others, and where it has a row.
   * @type {{ key: string, name: string, style: number, of: (row: Row) => [number, number] | null }[]}
   */
  behind = [];
  /** The link that is being drawn. @type {{ x1: number, y1: number, x2: number, y2: number, lands: boolean } | null} */ thread =
    null;
  /** Where rows that are dragged would go. @type {Place | null} */ drop = null;
  /** Called when what came does not lead on from what is shown. */ onGap = () => {};
  /** The row whose links are lit up. @type {string | null} */ lit = null;

  /** @type {(() => void)[]} */ #listeners = [];
  #asked = false;
  /** @type {{ id: string, links: Link[], others: Set<string> } | null} */ #linkedTo = null;

  /** @param {Changes} changes */
  constructor(changes) {
    this.project = changes.project;
    this.apply(changes);
  }

  /** @param {() => void} listener called at most once a frame */
  subscribe(listener) {
    this.#listeners.push(listener);
  }

  /** Somebody begins to type: what they then send was meant for what they saw. */
  beginTyping() {
    this.typing = this.project.version;
  }

  /** The version that what is being sent was meant for. @returns {{ seenVersion?: number }} */
  get meantFor() {
    return this.typing === null ? {} : { seenVersion: this.typing };
  }

  /** Why the person can change nothing; null if they can. */
  get whyNot() {
    if (this.rights === "shared") return "You see this plan by a link: it can be looked at, not changed.";
    if (this.rights === "past")
      return "This is the plan as it was, which cannot be changed: go back to now to edit it.";
    return this.rights === "look" ? "You may look at this plan. To change something, ask who coordinates it." : null;
  }

  /**
   * Says in the bottom line what is wrong with something that has no place of its own for it.
   * @param {string} problem nothing where all is well
   */
  tell = (problem) => {
    if (problem === "") return;
    this.notice = { tone: "problem", text: problem };
    this.changed();
  };

  /** Says in the bottom line what was done besides edits. @param {string} text */
  say(text) {
    if (text === "") return;
    this.notice = { tone: "told", text };
    this.changed();
  }

  /** Pixels that a row is high. */
  get rowHeight() {
    return this.view.wrap ? 46 : 30;
  }

  /** Whether rows stand without their phases, so that they cannot be moved among them. */
  get isFlat() {
    return this.view.sort !== null || this.view.group !== "";
  }

  /** The rows that pass the filters, in the plan's order. @param {(row: Row) => boolean} [also] */
  passing(also = () => true) {
    if (filtersOf(this.view) === 0) return this.rows.filter(also);
    const inside = this.view.phase === "" ? null : insideOf(this.rows, this.view.phase);
    return this.rows.filter((row) => also(row) && passes(row, this.view, this) && (!inside || inside.has(row.id)));
  }

  /** Says after the ripple of the last edit what it did to the cost. @param {string} sentence */
  costs(sentence) {
    this.sentence = [...this.sentence, { text: ` ${sentence}`, strong: false }];
    this.changed();
  }

  /** Takes what rows cost. @param {import("../../money/server.js").Money} money */
  takeMoney({ rows, sign, decimals, project }) {
    this.money = new Map(rows.map((row) => [row.id, row]));
    this.planned = project.planned;
    this.currency = { sign, decimals };
    this.changed();
  }

  /** Takes the hours that have been worked. @param {import("./types.js").Used[]} used */
  takeUsed(used) {
    this.used = new Map(used.map((one) => [one.task, one]));
    this.changed();
  }

  /** How much is said about a task, and how many files it has. @param {string} task @param {number} comments @param {number} files */
  talked(task, comments, files) {
    this.talk.set(task, { comments, files });
    this.changed();
  }

  changed() {
    if (this.#asked) return;
    this.#asked = true;
    requestAnimationFrame(() => this.flush());
  }

  /** Draws what has changed now, and not just before the next frame: so that the browser can lay it out meanwhile. */
  flush() {
    if (!this.#asked) return;
    this.#asked = false;
    for (const listener of this.#listeners) listener();
  }

  /** @param {string | null | undefined} id */
  row(id) {
    const at = id == null ? undefined : this.position.get(id);
    return at === undefined ? undefined : this.rows[at];
  }

  /**
   * @param {Changes} changes
   * @param {boolean} [instead] whether it takes the place of whatever is shown, be that newer
   * @returns {boolean} false where something is missing in between: it changes nothing, and the plan is asked for
   */
  apply(changes, instead = false) {
    const { version, edit } = this.project;
    // What was told late of a version that has been overtaken changes nothing.
    if (!instead && changes.project.version < version) return true;
    // What leads on from an older version leaves out what was changed since and put back.
    const { from } = changes;
    const leadsOn = from === null || changes.project.edit === edit || (from.version === version && from.edit === edit);
    if (!instead && !leadsOn) {
      this.onGap();
      return false;
    }
    this.project = changes.project;
    const known = new Map(this.rows.map((row) => [row.id, row]));
    const fresh = new Map(
      changes.rows.map((row) => [row.id, merged(changes.from === null ? undefined : known.get(row.id), row)]),
    );
    for (const id of fresh.keys()) this.unsaved.delete(id);
    const order = changes.order ?? this.rows.filter((row) => !row.unsaved || fresh.has(row.id)).map((row) => row.id);
    this.rows = order.map((id) => /** @type {Row} */ (fresh.get(id) ?? known.get(id)));
    this.#index();
    for (const { row, after } of [...this.unsaved.values()]) this.#place(row, after);
    this.#takeLinks(changes);
    if (changes.people) this.people = changes.people;
    this.#show();
    if (changes.closed) this.closed = changes.closed;
    this.canUndo = changes.canUndo;
    this.canRedo = changes.canRedo;
    this.sentence = changes.sentence;
    this.moved = changes.moved;
    this.changed();
    return true;
  }

  /** Changes which rows are shown. @param {Partial<View>} part */
  show(part) {
    this.view = { ...this.view, ...part };
    this.#show();
    this.changed();
  }

  /** Shows a row that folding or filters hide. @param {string} id */
  bringOut(id) {
    if (this.line.has(id) || !this.position.has(id)) return;
    /** @type {Set<string>} */ const above = new Set();
    for (let up = this.row(id)?.parent ?? null; up !== null; up = this.row(up)?.parent ?? null) above.add(up);
    const folded = this.view.folded.filter((phase) => !above.has(phase));
    this.show({ folded });
    if (!this.line.has(id)) this.show({ ...EVERYTHING, folded });
  }

  /** Shows a row before the server knows it. @param {Row} row @param {string | null} after the sibling it stands after */
  addUnsaved(row, after) {
    this.unsaved.set(row.id, { row, after });
    this.#place(row, after);
    this.changed();
  }

  /** @param {string} id */
  dropUnsaved(id) {
    if (!this.unsaved.delete(id)) return;
    this.rows = this.rows.filter((row) => row.id !== id);
    this.#index();
    if (this.current?.id === id) this.current = null;
    this.changed();
  }

  /** The last row of what is inside a row. @param {number} at */
  lastInside(at) {
    let last = at;
    while (last + 1 < this.rows.length && this.rows[last + 1].level > this.rows[at].level) last++;
    return last;
  }

  /** Ids of the rows that a row is linked to. @param {string} id @returns {Set<string>} */
  linked(id) {
    if (this.#linkedTo?.id !== id || this.#linkedTo.links !== this.links) {
      const others = this.links.flatMap(({ from, to }) => (from === id ? [to] : to === id ? [from] : []));
      this.#linkedTo = { id, links: this.links, others: new Set(others) };
    }
    return this.#linkedTo.others;
  }

  /** The nearest saved row before a row in the same phase. @param {string} id @returns {string | null} */
  siblingBefore(id) {
    const at = this.position.get(id) ?? 0;
    const { level } = this.rows[at];
    for (let i = at - 1; i >= 0 && this.rows[i].level >= level; i--)
      if (this.rows[i].level === level && !this.rows[i].unsaved) return this.rows[i].id;
    return null;
  }

  /** @param {Changes} changes */
  #takeLinks({ links, finishLinks }) {
    if (!links && !finishLinks) return;
    const sets = finishLinks && new Set(finishLinks);
    this.links = (links ?? this.links).map(({ from, to, kind }, i) => ({
      from,
      to,
      kind,
      setsFinish: sets ? sets.has(i) : this.links[i]?.setsFinish === true,
    }));
    this.#showLinks();
  }

  /** @param {Row} row @param {string | null} after */
  #place(row, after) {
    const sibling = after === null ? undefined : this.position.get(after);
    const parent = row.parent === null ? undefined : this.position.get(row.parent);
    const at = sibling !== undefined ? this.lastInside(sibling) + 1 : parent !== undefined ? parent + 1 : 0;
    this.rows = this.rows.toSpliced(at, 0, row);
    this.#index();
  }

  #index() {
    this.position = new Map(this.rows.map((row, i) => [row.id, i]));
    this.selection.prune();
    this.#show();
  }

  #show() {
    this.shown = shownRows(this.rows, this.view, this);
    this.line = new Map(this.shown.map((row, i) => [row.id, i]));
    this.shownPhases = this.isFlat ? [] : phasesOf(this.shown);
    this.#showLinks();
    if (this.current && !this.line.has(this.current.id)) this.current = this.#nearest(this.current);
  }

  #showLinks() {
    const shown = this.links.flatMap((link) => {
      const [from, to] = [this.line.get(link.from), this.line.get(link.to)];
      return from === undefined || to === undefined ? [] : [{ link, from, to }];
    });
    this.shownLinks = shown.sort((a, b) => Number(a.link.setsFinish) - Number(b.link.setsFinish));
  }

  /** The cell to stand in when its row is hidden: that of the phase which is folded. @param {{ id: string, col: string }} cell */
  #nearest({ id, col }) {
    for (let up = this.row(id)?.parent ?? null; up !== null; up = this.row(up)?.parent ?? null)
      if (this.line.has(up)) return { id: up, col };
    return null;
  }
}

/**
 * A saved row with what has changed of it; of a new one only what is not as usual is told.
 * @param {Row | undefined} known
 * @param {Partial<Row> & { id: string }} change
 * @returns {Row}
 */
const merged = (known, change) => ({ ...(known && !known.unsaved ? known : emptyRow(change.id, "")), ...change });

/** Phases with the lines of their first and last row. @param {Row[]} shown */
function phasesOf(shown) {
  /** @type {{ row: Row, at: number, last: number }[]} */ const phases = [];
  /** @type {{ row: Row, at: number, last: number }[]} */ const open = [];
  shown.forEach((row, at) => {
    while (open.length > 0 && open[open.length - 1].row.level >= row.level) open.pop();
    for (const phase of open) phase.last = at;
    if (row.kind !== "phase") return;
    const phase = { row, at, last: at };
    phases.push(phase);
    open.push(phase);
  });
  return phases;
}
