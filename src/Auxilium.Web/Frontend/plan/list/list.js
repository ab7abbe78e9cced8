// @ts-check
// Draws the task list: only the rows in sight are in the page.

/** @import { Store } from "../state/store.js" */
/** @import { Sight } from "../state/sight.js" */
/** @import { Row } from "../state/types.js" */
/** @import { Column } from "./columns.js" */
import { FIELDS } from "../fields/fields.js";
import { ownerOf } from "../fields/owner.js";
import { STATE_WORDS } from "../fields/state.js";
import { cellText, columnsOf, LEAST_WIDTH, MOST_WIDTH, rowSentence } from "./columns.js";
import { dayOf, finishDayOf, parts, timeIn, withWeekday } from "../state/time.js";
import { tintOf } from "../fields/tint.js";

const TINTS = ["data-hue", "data-tint"];

export const HEAD_HEIGHT = 46;
const OVERSCAN = 6;
const BLOCK = 8; // rows come and go by so many, so that most frames of scrolling draw nothing

export class ListView {
  #store;
  #sight;
  #frame;
  #head;
  /** @type {Column[]} */ #columns;
  #body;
  #newRow;
  #mark = document.createElement("div");
  /** @type {[number, number]} */ #range = [0, 0];
  /** @type {Map<string, { element: HTMLElement, signature: string }>} */ #drawn = new Map();

  /** @param {Store} store @param {Sight} sight @param {HTMLElement} list */
  constructor(store, sight, list) {
    this.#store = store;
    this.#sight = sight;
    this.#frame = list;
    this.#columns = columnsOf(store);
    this.#head = head(this.#columns);
    list.append(this.#head);
    this.#listenToGrips();
    this.#body = document.createElement("div");
    this.#body.className = "list-body";
    this.#body.setAttribute("role", "rowgroup");
    list.append(this.#body);
    this.#newRow = newRow();
    this.#mark.className = "drop-mark";
    this.#mark.hidden = true;
    this.#body.append(this.#newRow, this.#mark);
  }

  /** The rows in sight, with some around them. @returns {[number, number]} */
  range() {
    const top = Math.max(0, this.#sight.top - HEAD_HEIGHT);
    const first = Math.floor(top / this.#store.rowHeight) - OVERSCAN;
    const last = Math.ceil((top + this.#sight.height) / this.#store.rowHeight) + OVERSCAN;
    const [from, to] = [Math.floor(first / BLOCK) * BLOCK, Math.ceil(last / BLOCK) * BLOCK];
    return [Math.max(0, from), Math.min(this.#store.shown.length, to)];
  }

  /** Whether all rows in sight are drawn. */
  get isDrawn() {
    return this.range().join() === this.#range.join();
  }

  get height() {
    return (this.#store.shown.length + 1) * this.#store.rowHeight + 12;
  }

  draw() {
    this.#layColumns();
    this.#frame.classList.toggle("has-wrap", this.#store.view.wrap);
    const { shown: rows, current } = this.#store;
    const [first, last] = (this.#range = this.range());
    this.#body.style.height = `${this.height}px`;
    this.#body.parentElement?.setAttribute("aria-rowcount", String(rows.length + 2));
    const wanted = new Set(rows.slice(first, last).map((row) => row.id));
    if (current) wanted.add(current.id);
    for (const [id, { element }] of this.#drawn) {
      if (wanted.has(id) && this.#store.line.has(id)) continue;
      element.remove();
      this.#drawn.delete(id);
    }
    for (const id of wanted) this.#drawRow(/** @type {number} */ (this.#store.line.get(id)));
    this.#drawDrop();
    this.#newRow.style.top = `${rows.length * this.#store.rowHeight}px`;
    this.#newRow.setAttribute("aria-rowindex", String(rows.length + 2));
  }

  /** Marks where rows that are dragged would go. */
  #drawDrop() {
    const { drop } = this.#store;
    this.#mark.hidden = drop === null;
    if (!drop) return;
    this.#mark.classList.toggle("is-into", drop.into);
    this.#mark.style.top = `${drop.line * this.#store.rowHeight}px`;
    this.#mark.style.left = drop.into ? "0" : `${44 + drop.level * 16}px`;
  }

  /** Rebuilds the head and the rows if the columns changed, and sets their widths. */
  #layColumns() {
    const columns = columnsOf(this.#store);
    if (columns === this.#columns) return;
    const same = columns.map(({ key }) => key).join() === this.#columns.map(({ key }) => key).join();
    this.#columns = columns;
    const { style } = this.#frame;
    if (this.#store.view.columns) {
      style.setProperty("--columns", columns.map(({ width }) => `${width}px`).join(" "));
      style.setProperty("--list-width", `${columns.reduce((sum, { width }) => sum + width, 0)}px`);
    } else {
      style.removeProperty("--columns");
      style.removeProperty("--list-width");
    }
    if (same) return;
    this.#frame.setAttribute("aria-colcount", String(columns.length));
    const fresh = head(columns);
    this.#head.replaceWith(fresh);
    this.#head = fresh;
    for (const { element } of this.#drawn.values()) element.remove();
    this.#drawn.clear();
    const { current } = this.#store;
    if (current && !columns.some(({ key }) => key === current.col)) this.#store.current = { ...current, col: "name" };
  }

  /** The edges of the head are dragged; a double click fits a column to what is in sight. */
  #listenToGrips() {
    /** @type {{ key: string, x: number, width: number, pointer: number } | null} */ let drag = null;
    const gripOf = (/** @type {Event} */ event) =>
      /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest("[data-grip]"))?.dataset.grip;
    this.#frame.addEventListener("pointerdown", (event) => {
      const key = gripOf(event);
      const cell = key && this.#head.querySelector(`[role="columnheader"][data-col="${key}"]`);
      if (!key || !cell) return;
      event.preventDefault();
      drag = { key, x: event.clientX, width: cell.getBoundingClientRect().width, pointer: event.pointerId };
    });
    document.addEventListener("pointermove", (event) => {
      if (drag && event.pointerId === drag.pointer) this.resize(drag.key, drag.width + event.clientX - drag.x);
    });
    document.addEventListener("pointerup", () => (drag = null));
    this.#frame.addEventListener("dblclick", (event) => {
      const key = gripOf(event);
      if (key) this.fit(key);
    });
  }

  /** @param {string} key @param {number} width */
  resize(key, width) {
    const wide = Math.round(Math.min(MOST_WIDTH, Math.max(LEAST_WIDTH, width)));
    const columns = columnsOf(this.#store).map((column) => ({
      key: column.key,
      width: column.key === key ? wide : column.width,
    }));
    this.#store.show({ columns });
  }

  /** As wide as the widest text in sight. @param {string} key */
  fit(key) {
    const cells = [...this.#frame.querySelectorAll(`.list-row [data-col="${key}"]`)];
    const widths = cells.map((cell) => {
      const words = cell.querySelector(".cell-text");
      const hidden = words ? words.scrollWidth - words.clientWidth : 0;
      const taken = [...cell.children].reduce((sum, child) => sum + child.getBoundingClientRect().width, 0);
      const { paddingLeft, paddingRight } = getComputedStyle(cell);
      return taken + hidden + parseFloat(paddingLeft) + parseFloat(paddingRight) + 6;
    });
    this.resize(key, Math.max(LEAST_WIDTH + 10, ...widths));
  }

  /** @param {string} id @param {string} col @returns {HTMLElement | null} */
  cell(id, col) {
    return this.#drawn.get(id)?.element.querySelector(`[data-col="${col}"]`) ?? null;
  }

  /** Redraws a row though nothing about it changed. @param {string} id */
  refill(id) {
    const drawn = this.#drawn.get(id);
    if (!drawn) return;
    drawn.signature = "";
    for (const cell of drawn.element.children) held.delete(/** @type {HTMLElement} */ (cell));
  }

  /** Brings a cell into sight and gives it the focus. @param {string} id @param {string} col @param {{ keepRange?: boolean }} [how] */
  focus(id, col, { keepRange = false } = {}) {
    if (!keepRange) this.#store.selection.leave();
    this.#store.bringOut(id);
    this.#store.current = { id, col };
    this.reveal(id);
    this.draw();
    this.cell(id, col)?.focus({ preventScroll: true });
    this.#store.changed();
  }

  /** @param {string} id */
  reveal(id) {
    const row = (this.#store.line.get(id) ?? 0) * this.#store.rowHeight;
    if (row < this.#sight.top) this.#sight.scroll({ top: row });
    else this.#showDownTo(row + this.#store.rowHeight);
  }

  /** Brings the row for new tasks into sight. */
  revealNew() {
    this.#showDownTo(this.height);
  }

  /** @param {number} bottom of the rows */
  #showDownTo(bottom) {
    const { top, height } = this.#sight;
    if (bottom > top + height - HEAD_HEIGHT) this.#sight.scroll({ top: bottom + HEAD_HEIGHT - height + 2 });
  }

  /** @param {number} position */
  #drawRow(position) {
    const row = this.#store.shown[position];
    const folded = row.kind === "phase" && this.#store.view.folded.includes(row.id);
    const picked = this.#store.selection.has(row.id);
    const isCurrent = this.#store.current?.id === row.id;
    const col = isCurrent ? this.#store.current?.col : position === 0 && !this.#store.current ? "name" : "";
    const columns = this.#columns;
    const drafts = columns.map(({ key }) => this.#store.drafts.get(`${row.id}/${key}`));
    const { view } = this.#store;
    const signature = JSON.stringify([
      row,
      view.rows,
      view.group,
      this.#store.talk.get(row.id),
      position,
      this.#store.rowHeight,
      isCurrent,
      picked,
      folded,
      this.#store.isFlat,
      col,
      ownerOf(this.#store, row)?.initials,
      this.#store.overbooked.get(`${row.id} ${row.owner}`),
      drafts.map((draft) => draft && [draft.text, draft.problem, draft.saving]),
    ]);
    let drawn = this.#drawn.get(row.id);
    if (drawn?.signature === signature) return;
    if (!drawn) {
      drawn = { element: emptyRow(row.id, columns), signature };
      this.#drawn.set(row.id, drawn);
      this.#body.insertBefore(drawn.element, this.#newRow);
    }
    drawn.signature = signature;
    const { element } = drawn;
    element.style.top = `${position * this.#store.rowHeight}px`;
    element.dataset.kind = row.kind;
    element.classList.toggle("is-current", isCurrent);
    element.classList.toggle("is-pending", row.unsaved === true);
    element.classList.toggle("is-off", row.off);
    element.classList.toggle("is-picked", picked);
    element.classList.toggle("is-heading", row.heading === true);
    const tint = tintOf(this.#store, row, view.rows);
    element.classList.toggle("has-tint", tint !== null);
    for (const name of TINTS) if (tint?.name !== name) element.removeAttribute(name);
    if (tint) element.setAttribute(tint.name, tint.value);
    element.setAttribute("aria-level", String(levelOf(this.#store, row) + 1));
    element.setAttribute("aria-rowindex", String(position + 2));
    element.setAttribute("aria-selected", String(picked || (isCurrent && this.#store.selection.size === 0)));
    if (row.kind === "phase") element.setAttribute("aria-expanded", String(!folded));
    else element.removeAttribute("aria-expanded");
    for (const [i, cell] of /** @type {HTMLElement[]} */ ([...element.children]).entries()) {
      const { key } = columns[i];
      cell.tabIndex = key === col ? 0 : -1;
      if (cell.classList.contains("is-editing")) continue;
      fill(this.#store, cell, row, key, drafts[i]);
    }
  }
}

/** @param {Column[]} columns */
function head(columns) {
  const group = document.createElement("div");
  group.setAttribute("role", "rowgroup");
  group.className = "list-head-group";
  const row = document.createElement("div");
  row.className = "list-head";
  row.setAttribute("role", "row");
  row.setAttribute("aria-rowindex", "1");
  for (const { key, label } of columns) {
    const cell = document.createElement("div");
    cell.setAttribute("role", "columnheader");
    cell.dataset.col = key;
    cell.textContent = label;
    const grip = document.createElement("span");
    grip.className = "column-grip";
    grip.dataset.grip = key;
    grip.title = "Drag to resize; double-click to fit";
    // For a pointer only: a head is read as what it says. Widths are typed under Columns.
    grip.setAttribute("aria-hidden", "true");
    cell.append(grip);
    row.append(cell);
  }
  group.append(row);
  return group;
}

/** @param {string} id @param {Column[]} columns */
function emptyRow(id, columns) {
  const row = document.createElement("div");
  row.className = "list-row";
  row.dataset.row = id;
  row.setAttribute("role", "row");
  for (const { key } of columns) {
    const cell = document.createElement("div");
    cell.className = `cell cell-${key}`;
    cell.dataset.col = key;
    cell.setAttribute("role", key === "name" ? "rowheader" : "gridcell");
    row.append(cell);
  }
  return row;
}

function newRow() {
  const row = document.createElement("div");
  row.className = "list-row list-new";
  row.setAttribute("role", "row");
  const cell = document.createElement("div");
  cell.className = "cell cell-name";
  cell.setAttribute("role", "gridcell");
  const input = document.createElement("input");
  input.className = "new-input";
  input.id = "new-task";
  input.placeholder = "Type a task";
  input.setAttribute("aria-label", "New task");
  input.autocomplete = "off";
  cell.append(input);
  row.append(cell);
  return row;
}

/**
 * A part of a cell, before it is in the page: what is the same as it was is left as it is there.
 * @typedef {object} Bit
 * @property {string} name its class
 * @property {string} [text]
 * @property {string} [title]
 * @property {boolean} [isPicture] whether its title is what it is called
 * @property {boolean} [isHidden] from screen readers
 * @property {Record<string, string>} [data]
 * @property {Bit[]} [parts] before its text
 */

/** What each cell holds, as JSON. @type {WeakMap<HTMLElement, string>} */
const held = new WeakMap();

/**
 * @param {Store} store
 * @param {HTMLElement} cell
 * @param {Row} row
 * @param {string} col
 * @param {import("../state/types.js").Draft | undefined} draft
 */
function fill(store, cell, row, col, draft) {
  if (col === "name") {
    cell.style.setProperty("--level", String(levelOf(store, row)));
    const title = rowSentence(store, row);
    if (cell.title !== title) cell.title = title;
  }
  cell.classList.toggle("has-problem", draft?.problem !== undefined);
  if (draft?.problem === undefined) {
    cell.removeAttribute("aria-invalid");
    cell.removeAttribute("aria-describedby");
  } else {
    cell.setAttribute("aria-invalid", "true");
    cell.setAttribute("aria-describedby", "problem");
  }
  const bits = content(store, row, col, draft);
  const now = JSON.stringify(bits);
  if (held.get(cell) === now) return;
  held.set(cell, now);
  cell.replaceChildren(...bits.map(elementOf));
}

/** @param {Bit} bit @returns {HTMLElement} */
function elementOf({ name, text, title, isPicture, isHidden, data, parts }) {
  const element = document.createElement("span");
  element.className = name;
  if (parts) element.append(...parts.map(elementOf));
  if (text !== undefined) element.append(text);
  if (title) element.title = title;
  if (isPicture) {
    element.role = "img";
    element.ariaLabel = title ?? "";
  }
  if (isHidden) element.ariaHidden = "true";
  Object.assign(element.dataset, data);
  return element;
}

/**
 * @param {Store} store
 * @param {Row} row
 * @param {string} col
 * @param {import("../state/types.js").Draft | undefined} draft
 * @returns {Bit[]}
 */
function content(store, row, col, draft) {
  /** @type {Bit} */ const words = { name: "cell-text", text: draft?.text ?? cellText(store, row, col) };
  if (draft) return [words];
  if (col === "name") return [...(row.kind === "phase" ? [fold(store, row)] : []), words, ...marksOf(store, row)];
  if (col === "owner") return owner(store, row);
  if (col === "length" && row.length.endsWith("?") && row.start !== null)
    return [{ ...words, name: "cell-text guess", title: "A guess: type the length without ? to confirm it" }];
  if (col === "after") return [{ ...words, title: row.after }];
  if (col === "state" && row.state && row.start !== null) {
    const title = row.waitsFor ? `Waiting for ${row.waitsFor}` : `${STATE_WORDS[row.state]}, ${row.progress}% done`;
    const mark = { name: "state-mark", isHidden: true };
    return [{ name: `state state-${row.state}`, title, parts: [mark, words] }];
  }
  if ((col === "start" || col === "finish") && row.start !== null)
    words.title = whole(col === "start" ? row.start : row.finish, col);
  if (col === "start" && row.fixed) return [picture(`fixed-mark is-${row.fixedSides ?? "loose"}`, row.fixed), words];
  return [words];
}

/**
 * The press that folds a phase or unfolds it; keys have a command of their own for that.
 * @param {Store} store
 * @param {Row} row
 * @returns {Bit}
 */
function fold(store, row) {
  const isFolded = store.view.folded.includes(row.id);
  return { name: isFolded ? "fold is-folded" : "fold", isHidden: true, data: { fold: row.id } };
}

/** Small marks that say what the task's card has. @param {Store} store @param {Row} row */
function marksOf(store, row) {
  const marks = FIELDS.flatMap((field) => {
    const told = field.mark?.(row);
    return told ? [mark(told.name, told.title)] : [];
  });
  if (row.repeats) marks.push(mark("repeat-mark", `Comes ${row.repeats}`));
  if (row.note) marks.push(mark("note-mark", "Has a note"));
  if (row.steps) marks.push(mark("steps-mark", `${row.steps} steps done`));
  if (row.references > 0)
    marks.push(mark("page-mark", row.references === 1 ? "Has a link" : `Has ${row.references} links`));
  const { comments = 0, files = 0 } = store.talk.get(row.id) ?? {};
  if (comments > 0) marks.push(mark("comment-mark", comments === 1 ? "1 comment" : `${comments} comments`));
  if (files > 0) marks.push(mark("file-mark", files === 1 ? "1 file" : `${files} files`));
  return marks;
}

/** @param {string} name @param {string} title */
const mark = (name, title) => picture(`mark ${name}`, title);

/** @param {string} name @param {string} title @returns {Bit} */
const picture = (name, title) => ({ name, title, isPicture: true });

/** How far a row is indented. @param {Store} store @param {Row} row */
const levelOf = (store, row) => (!store.isFlat ? row.level : store.view.group && !row.heading ? 1 : 0);

/** A date with all that its cell leaves out. @param {number} minutes @param {string} col */
function whole(minutes, col) {
  const day = col === "start" ? dayOf(minutes) : finishDayOf(minutes);
  return `${withWeekday(day)} ${parts(day).year}, ${timeIn(minutes, day)}`;
}

/** @param {Store} store @param {Row} row @returns {Bit[]} */
function owner(store, row) {
  const person = ownerOf(store, row);
  if (person) {
    const over = store.overbooked.get(`${row.id} ${person.id}`);
    const title = person.name + (row.helpers > 0 ? ` and ${row.helpers} more` : "") + (over ? `: ${over}` : "");
    const name = over ? "initials is-overbooked" : "initials";
    return [{ ...picture(name, title), text: person.initials, data: { hue: String(person.hue) } }];
  }
  const lacks = row.kind === "task" && row.state !== "done" && row.start !== null;
  return lacks ? [{ ...picture("owner-none", "No owner"), text: "?" }] : [];
}
