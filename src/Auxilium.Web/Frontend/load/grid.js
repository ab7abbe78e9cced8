// @ts-check
// The grid of the Load page: rows down, time along. Only what is in view is in the document, however much there is.

import { element } from "../plan/card/fields.js";
import { cellOf, hours, said } from "./model.js";

/** @import { Column, LoadRow, Scale } from "./model.js" */

const HEIGHTS = { team: 46, person: 46, open: 46, task: 32, elsewhere: 32 };
const WIDTHS = { day: 58, week: 92, month: 104 };
const NAMES = 232;
const HEAD = 44;
const SPARE = 1; // columns on each side of those in sight
const STEPS = 20;

/** @typedef {{ node: HTMLElement, cells: HTMLElement, first: number, last: number }} Line a row or the head, and the columns it has */

/**
 * @typedef {object} Acts what the grid asks of the page
 * @property {(row: LoadRow) => void} fold
 * @property {(row: LoadRow, column: Column) => void} pick
 * @property {(row: LoadRow, days: number, to: LoadRow | null, done: boolean) => void} drag a task by days, and over another row
 * @property {(row: LoadRow) => string} title what stands under a name
 * @property {(row: LoadRow) => boolean} movable
 */

export class LoadGrid {
  #frame = element("div", { class: "load-frame", role: "grid", tabindex: "-1", "aria-label": "Load" });
  #sheet = element("div", { class: "load-sheet", role: "presentation" });
  #head = element("div", { class: "load-head", role: "row", "aria-rowindex": "1" });
  /** @type {LoadRow[]} */ #rows = [];
  /** @type {number[]} */ #tops = [];
  /** @type {Column[]} */ #columns = [];
  /** @type {Scale} */ #scale = "day";
  /** @type {Map<string, Line>} */ #drawn = new Map();
  /** @type {Line | null} */ #heads = null;
  #at = { row: 0, column: -1 };
  #past = 0;
  #waiting = false;
  #acts;

  /** @param {Acts} acts */
  constructor(acts) {
    this.#acts = acts;
    this.#frame.append(this.#head, this.#sheet);
    this.#frame.addEventListener("scroll", () => this.#later(), { passive: true });
    this.#frame.addEventListener("keydown", (event) => this.#key(event));
    this.#frame.addEventListener("click", (event) => this.#click(event));
    this.#frame.addEventListener("focusin", (event) => this.#focused(event));
    this.#frame.addEventListener("pointerdown", (event) => this.#drag(event));
    new ResizeObserver(() => this.#later()).observe(this.#frame);
  }

  get element() {
    return this.#frame;
  }

  /** @param {LoadRow[]} rows @param {Column[]} columns @param {Scale} scale @param {number} past days before today */
  show(rows, columns, scale, past) {
    this.#past = past;
    const isOther = scale !== this.#scale || columns.length !== this.#columns.length;
    [this.#rows, this.#columns, this.#scale] = [rows, columns, scale];
    let top = 0;
    this.#tops = rows.map((row) => (top += HEIGHTS[row.kind]) - HEIGHTS[row.kind]);
    this.#sheet.style.height = `${top}px`;
    this.#sheet.style.width = this.#head.style.width = `${NAMES + columns.length * this.#width}px`;
    this.#frame.setAttribute("aria-rowcount", String(rows.length + 1));
    this.#frame.setAttribute("aria-colcount", String(columns.length + 1));
    this.#at.row = Math.min(this.#at.row, Math.max(0, rows.length - 1));
    this.#heads = null;
    this.#drawn.clear();
    if (isOther) {
      const today = Math.max(
        0,
        columns.findIndex((column) => column.today),
      );
      this.#frame.scrollLeft = Math.max(0, (today - 1) * this.#width);
      this.#at.column = -1;
    }
    this.#draw();
  }

  /**
   * Draws the cells of rows that would have another load, and nothing else: a bar that is dragged stays what it is.
   * @param {(row: LoadRow) => ((day: number) => number) | null} loadOf
   */
  overlay(loadOf) {
    for (const line of /** @type {NodeListOf<HTMLElement>} */ (this.#sheet.querySelectorAll("[data-row]"))) {
      const row = this.#rows[Number(line.dataset.row)];
      const load = row && loadOf(row);
      if (!row || (!load && !line.classList.contains("is-preview"))) continue;
      line.classList.toggle("is-preview", load !== null);
      const of = load ? { ...row, load } : row;
      for (const cell of /** @type {NodeListOf<HTMLElement>} */ (line.querySelectorAll(".load-cell"))) {
        const at = Number(cell.dataset.column);
        const column = this.#columns[at];
        if (column) cell.replaceWith(this.#cell(of, column, at));
      }
    }
  }

  /** @param {string} key of a row */
  focus(key) {
    const row = this.#rows.findIndex((each) => each.key === key);
    if (row >= 0) this.#go(row, this.#at.column);
  }

  get #width() {
    return WIDTHS[this.#scale];
  }

  #later() {
    if (this.#waiting) return;
    this.#waiting = true;
    requestAnimationFrame(() => {
      this.#waiting = false;
      this.#draw();
    });
  }

  #draw() {
    const { scrollTop, scrollLeft, clientHeight, clientWidth } = this.#frame;
    const first = Math.max(0, Math.floor(scrollLeft / this.#width) - SPARE);
    const last = Math.min(this.#columns.length, Math.ceil((scrollLeft + clientWidth - NAMES) / this.#width) + SPARE);
    const focused = document.activeElement;
    const had = focused instanceof HTMLElement && this.#sheet.contains(focused);
    if (!this.#heads) {
      const cells = element("div", { class: `load-cells is-${this.#scale}`, role: "presentation" });
      this.#heads = { node: this.#head, cells, first, last: first };
      this.#head.replaceChildren(
        element("div", { class: "load-corner", role: "columnheader", "aria-colindex": "1" }, "Hours"),
        cells,
      );
    }
    this.#fill(this.#heads, first, last, (column) => this.#headOf(column));
    /** @type {Map<string, Line>} */ const kept = new Map();
    let at = this.#rowAt(scrollTop);
    for (; at < this.#rows.length && (this.#tops[at] ?? 0) < scrollTop + clientHeight; at++) {
      const row = this.#rows[at];
      if (!row) continue;
      const line = this.#drawn.get(row.key) ?? this.#lineOf(row, at, first);
      this.#fill(line, first, last, (column) => this.#cellIn(row, column, at));
      kept.set(row.key, line);
    }
    // What stays in sight is left as it is: what is put in again would all be laid out again.
    if (this.#drawn.size === 0) this.#sheet.replaceChildren();
    for (const [key, { node }] of this.#drawn) if (!kept.has(key)) node.remove();
    let next = this.#sheet.firstChild;
    for (const { node } of kept.values()) {
      if (next && node === next) next = next.nextSibling;
      else this.#sheet.insertBefore(node, next);
    }
    this.#drawn = kept;
    if (had && document.activeElement !== focused) this.#cellAt()?.focus({ preventScroll: true });
  }

  /**
   * Gives a line the columns that are in sight, and keeps those it has of them.
   * @param {Line} line @param {number} first @param {number} last @param {(column: number) => HTMLElement} make
   */
  #fill(line, first, last, make) {
    const { cells } = line;
    if (line.first === first && line.last === last) return;
    if (line.first >= last || line.last <= first) {
      cells.replaceChildren();
      line.first = line.last = first;
    }
    for (; line.first < first; line.first++) cells.firstChild?.remove();
    for (; line.last > last; line.last--) cells.lastChild?.remove();
    while (line.first > first) cells.prepend(make(--line.first));
    while (line.last < last) cells.append(make(line.last++));
    cells.style.transform = `translateX(${first * this.#width}px)`;
  }

  /** The row that stands at a height. @param {number} y */
  #rowAt(y) {
    let [low, high] = [0, this.#tops.length - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((this.#tops[middle] ?? 0) <= y) low = middle;
      else high = middle - 1;
    }
    return Math.max(0, low);
  }

  /** @param {number} at */
  #headOf(at) {
    const column = /** @type {Column} */ (this.#columns[at]);
    return element(
      "div",
      {
        class: `load-day${column.today ? " is-today" : ""}${column.rest ? " is-rest" : ""}`,
        role: "columnheader",
        "aria-colindex": String(at + 2),
      },
      element("b", {}, column.today && this.#scale === "day" ? "today" : column.head),
      element("span", {}, column.sub),
    );
  }

  /** A row with its name, and no columns yet. @param {LoadRow} row @param {number} at @param {number} first @returns {Line} */
  #lineOf(row, at, first) {
    const node = element("div", { class: `load-row is-${row.kind}`, role: "row", "aria-rowindex": String(at + 2) });
    node.style.top = `${this.#tops[at]}px`;
    node.dataset.row = String(at);
    const name = element("div", { class: "load-name", role: "rowheader", tabindex: "-1", "aria-colindex": "1" });
    name.dataset.column = "-1";
    if (at === this.#at.row && this.#at.column < 0) name.tabIndex = 0;
    if (row.open !== null) {
      name.setAttribute("aria-expanded", String(row.open));
      name.append(element("span", { class: "load-fold", "aria-hidden": "true" }, row.open ? "−" : "+"));
    }
    name.append(
      element("span", { class: "load-who" }, element("b", {}, row.name), element("span", {}, this.#acts.title(row))),
    );
    const cells = element("div", { class: `load-cells is-${this.#scale}`, role: "presentation" });
    node.append(name, cells);
    if (row.work?.start && row.work.finish && this.#scale !== "month") this.#bar(node, row);
    return { node, cells, first, last: first };
  }

  /** @param {LoadRow} row @param {number} column @param {number} at which row it is */
  #cellIn(row, column, at) {
    const cell = this.#cell(row, /** @type {Column} */ (this.#columns[column]), column);
    if (at === this.#at.row && column === this.#at.column) cell.tabIndex = 0;
    return cell;
  }

  /** @param {LoadRow} row @param {Column} column @param {number} at */
  #cell(row, column, at) {
    const cell = cellOf(row, column, this.#past);
    const { load, capacity, over, days } = cell;
    const label = said(row, column, cell);
    const node = element("div", { role: "gridcell", tabindex: "-1", "aria-colindex": String(at + 2) });
    node.dataset.column = String(at);
    let kind = "load-cell";
    if (column.rest) kind += " is-rest";
    if (column.today) kind += " is-today";
    if (days > 0) kind += " is-over";
    else if (capacity === 0 && load === 0) kind += " is-off";
    node.className = kind;
    if (load < 0.5) {
      node.ariaLabel = label;
      return node;
    }
    node.append(element("span", { class: "load-said" }, label), element("b", { "aria-hidden": "true" }, hours(load)));
    if (days > 0)
      node.append(
        element(
          "span",
          { class: "load-over", "aria-hidden": "true" },
          this.#scale === "day" ? `${hours(over)} over` : `${days} d over`,
        ),
      );
    else if (capacity !== null && capacity > 0)
      node.append(element("span", { "aria-hidden": "true" }, `of ${hours(capacity)}`));
    if (capacity === null) return node;
    // What there is time for; of what is too much, the rest of the bar.
    const share = days > 0 ? (load - over) / load : load / capacity;
    node.classList.add("is-filled");
    node.append(element("i", { class: `load-fill f${Math.max(1, Math.round(share * STEPS))}` }));
    return node;
  }

  /** The task's bar, which can be dragged. @param {HTMLElement} line @param {LoadRow} row */
  #bar(line, row) {
    const { work } = row;
    if (!work) return;
    const [from, to] = [work.first, work.first + work.minutes.length];
    const per = this.#width / (this.#scale === "day" ? 1 : 7);
    const begins = this.#columns[0]?.first ?? 0;
    const bar = element("div", {
      class: `load-bar${this.#acts.movable(row) ? " is-movable" : ""}`,
      "aria-hidden": "true",
    });
    bar.style.left = `${NAMES + (from - begins) * per}px`;
    bar.style.width = `${Math.max(per * 0.4, (to - from) * per)}px`;
    line.append(bar);
  }

  #cellAt() {
    const row = this.#rows[this.#at.row];
    const line = row && this.#drawn.get(row.key);
    return /** @type {HTMLElement | null} */ (line?.node.querySelector(`[data-column="${this.#at.column}"]`) ?? null);
  }

  /** @param {number} row @param {number} column */
  #go(row, column) {
    this.#cellAt()?.setAttribute("tabindex", "-1");
    this.#at = {
      row: Math.max(0, Math.min(row, this.#rows.length - 1)),
      column: Math.max(-1, Math.min(column, this.#columns.length - 1)),
    };
    const top = this.#tops[this.#at.row] ?? 0;
    const height = HEIGHTS[this.#rows[this.#at.row]?.kind ?? "person"];
    const frame = this.#frame;
    if (top < frame.scrollTop) frame.scrollTop = top;
    else if (top + height + HEAD > frame.scrollTop + frame.clientHeight)
      frame.scrollTop = top + height + HEAD - frame.clientHeight;
    if (this.#at.column >= 0) {
      const left = this.#at.column * this.#width;
      if (left < frame.scrollLeft) frame.scrollLeft = left;
      else if (left + this.#width + NAMES > frame.scrollLeft + frame.clientWidth)
        frame.scrollLeft = left + this.#width + NAMES - frame.clientWidth;
    }
    this.#draw();
    const cell = this.#cellAt();
    cell?.setAttribute("tabindex", "0");
    cell?.focus({ preventScroll: true });
  }

  /** What has the focus is where the keys go on from. @param {FocusEvent} event */
  #focused(event) {
    const target = /** @type {HTMLElement} */ (event.target);
    const line = /** @type {HTMLElement | null} */ (target.closest("[data-row]"));
    if (line && target.dataset.column !== undefined)
      this.#at = { row: Number(line.dataset.row), column: Number(target.dataset.column) };
  }

  /** @param {KeyboardEvent} event */
  #key(event) {
    const { row, column } = this.#at;
    const of = this.#rows[row];
    if (!of || !this.#sheet.contains(/** @type {Node} */ (event.target))) return;
    const page = Math.max(1, Math.floor(this.#frame.clientHeight / HEIGHTS.person) - 2);
    /** @type {Record<string, () => void>} */
    const moves = {
      ArrowDown: () => this.#go(row + 1, column),
      ArrowUp: () => this.#go(row - 1, column),
      ArrowRight: () =>
        this.#go(row, column < 0 ? Math.max(0, Math.ceil(this.#frame.scrollLeft / this.#width)) : column + 1),
      ArrowLeft: () => this.#go(row, column - 1),
      Home: () => this.#go(row, -1),
      End: () => this.#go(row, this.#columns.length - 1),
      PageDown: () => this.#go(row + page, column),
      PageUp: () => this.#go(row - page, column),
      Enter: () => this.#press(row, column),
      " ": () => this.#press(row, column),
    };
    if (event.shiftKey && of.work && this.#acts.movable(of) && ["ArrowRight", "ArrowLeft"].includes(event.key)) {
      event.preventDefault();
      this.#acts.drag(of, event.key === "ArrowRight" ? 1 : -1, null, true);
      return;
    }
    const move = event.ctrlKey || event.metaKey || event.altKey ? null : moves[event.key];
    if (!move) return;
    event.preventDefault();
    move();
  }

  /** @param {number} row @param {number} column */
  #press(row, column) {
    const of = this.#rows[row];
    const at = this.#columns[column];
    if (!of) return;
    if (column < 0 && of.open !== null) this.#acts.fold(of);
    else if (at) this.#acts.pick(of, at);
  }

  /** @param {MouseEvent} event */
  #click(event) {
    const target = /** @type {HTMLElement} */ (event.target);
    const line = /** @type {HTMLElement | null} */ (target.closest("[data-row]"));
    const cell = /** @type {HTMLElement | null} */ (target.closest("[data-column]"));
    if (!line || !cell) return;
    const [row, column] = [Number(line.dataset.row), Number(cell.dataset.column)];
    this.#go(row, column);
    this.#press(row, column);
  }

  /** @param {PointerEvent} event */
  #drag(event) {
    const target = /** @type {HTMLElement} */ (event.target);
    const line = /** @type {HTMLElement | null} */ (target.closest("[data-row]"));
    if (!target.matches(".load-bar.is-movable") || !line || event.button !== 0) return;
    const row = this.#rows[Number(line.dataset.row)];
    if (!row) return;
    event.preventDefault();
    target.setPointerCapture(event.pointerId);
    const [fromX, fromY] = [event.clientX + this.#frame.scrollLeft, event.clientY + this.#frame.scrollTop];
    const per = this.#width / (this.#scale === "day" ? 1 : 7);
    const until = new AbortController();
    let [days, over] = [0, /** @type {LoadRow | null} */ (null)];
    const listen = (/** @type {string} */ name, /** @type {(event: PointerEvent) => void} */ act) =>
      target.addEventListener(name, /** @type {EventListener} */ (act), { signal: until.signal });
    const end = (/** @type {boolean} */ done) => {
      until.abort();
      document.removeEventListener("keydown", escape, true);
      target.style.transform = "";
      this.#frame.querySelector(".is-target")?.classList.remove("is-target");
      this.#acts.drag(row, done ? days : 0, done ? over : null, true);
    };
    const escape = (/** @type {KeyboardEvent} */ key) => {
      if (key.key !== "Escape") return;
      key.stopPropagation();
      end(false);
    };
    document.addEventListener("keydown", escape, true);
    listen("pointermove", (move) => {
      const [x, y] = [move.clientX + this.#frame.scrollLeft - fromX, move.clientY + this.#frame.scrollTop - fromY];
      target.style.transform = `translate(${x}px, ${y}px)`;
      const now = Math.round(x / per);
      const at =
        this.#rows[this.#rowAt(move.clientY - this.#frame.getBoundingClientRect().top + this.#frame.scrollTop - HEAD)];
      const to = at && at.person && at.person.id !== row.person?.id ? at : null;
      if (now === days && to === over) return;
      [days, over] = [now, to];
      this.#frame.querySelector(".is-target")?.classList.remove("is-target");
      if (to) this.#drawn.get(to.key)?.node.classList.add("is-target");
      this.#acts.drag(row, days, over, false);
    });
    listen("pointerup", () => end(true));
    listen("pointercancel", () => end(false));
  }
}
