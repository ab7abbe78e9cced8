// @ts-check
// The rows that were picked, in the order in which they were.

/** @import { Row } from "./types.js" */
/** @import { Store } from "./store.js" */

export class Selection {
  /** @type {Set<string>} */ #picked = new Set();
  /** Where a range begins. @type {string | null} */ #anchor = null;
  #isRange = false;
  #store;

  /** @param {Store} store */
  constructor(store) {
    this.#store = store;
  }

  get size() {
    return this.#picked.size;
  }

  /** @param {string} id */
  has(id) {
    return this.#picked.has(id);
  }

  /** Ids in the order they were picked; the current row when none is. */
  get ids() {
    if (this.#picked.size > 0) return [...this.#picked];
    return this.#store.current ? [this.#store.current.id] : [];
  }

  /** The chosen rows in the plan's order, without those inside a chosen phase. @returns {Row[]} */
  get tops() {
    const ids = new Set(this.ids);
    return this.#store.rows.filter((row) => {
      if (!ids.has(row.id) || row.unsaved) return false;
      for (let up = row.parent; up !== null; up = this.#store.row(up)?.parent ?? null) if (ids.has(up)) return false;
      return true;
    });
  }

  /** Adds a row, or takes it out. @param {string} id */
  toggle(id) {
    if (!this.#picked.delete(id)) this.#picked.add(id);
    this.#anchor = id;
    this.#isRange = false;
    this.#store.changed();
  }

  /** From where the range began, or the current row, to a row. @param {string} id */
  extendTo(id) {
    if (!this.#isRange || this.#anchor === null) this.#anchor = this.#store.current?.id ?? id;
    const [from, to] = [this.#store.line.get(this.#anchor), this.#store.line.get(id)];
    if (from === undefined || to === undefined) return;
    this.#isRange = true;
    const rows = this.#store.shown
      .slice(Math.min(from, to), Math.max(from, to) + 1)
      .filter((row) => !row.heading)
      .map((row) => row.id);
    this.#picked = new Set(from > to ? rows.reverse() : rows);
    this.#store.changed();
  }

  all() {
    this.#picked = new Set(this.#store.shown.filter((row) => !row.heading).map((row) => row.id));
    this.#isRange = false;
    this.#store.changed();
  }

  /** Going on to another row ends a range; rows picked one by one stay picked. */
  leave() {
    if (this.#isRange) this.clear();
  }

  clear() {
    if (this.#picked.size === 0) return;
    this.#picked = new Set();
    this.#anchor = null;
    this.#isRange = false;
    this.#store.changed();
  }

  /** Forgets rows that are gone. */
  prune() {
    for (const id of this.#picked) if (!this.#store.position.has(id)) this.#picked.delete(id);
  }
}
