// @ts-check
// Where rows go that are dragged up or down: between two rows, or into a phase.

/** @import { Store } from "./store.js" */
/** @import { Row } from "./types.js" */

/**
 * @typedef {{ parent: string | null, after: string | null, line: number, level: number, into: boolean }} Place line is the one whose upper
 * edge is marked; with into the whole of it is
 */

/** The place under a point. @param {Store} store @param {number} lines how far down, in rows @returns {Place} */
export function placeAt(store, lines) {
  const { shown } = store;
  const line = Math.floor(lines);
  if (line >= shown.length) {
    const top = store.rows.findLast((row) => row.level === 0 && !row.unsaved);
    return { parent: null, after: top?.id ?? null, line: shown.length, level: 0, into: false };
  }
  const row = shown[Math.max(0, line)];
  const part = line < 0 ? 0 : lines - line;
  if (row.kind === "phase" ? part < 0.3 : part < 0.5)
    return {
      parent: row.parent,
      after: store.siblingBefore(row.id),
      line: Math.max(0, line),
      level: row.level,
      into: false,
    };
  if (row.kind !== "phase") return { parent: row.parent, after: row.id, line: line + 1, level: row.level, into: false };
  const folded = store.view.folded.includes(row.id);
  if (part > 0.75 && !folded) return { parent: row.id, after: null, line: line + 1, level: row.level + 1, into: false };
  if (part > 0.75) return { parent: row.parent, after: row.id, line: line + 1, level: row.level, into: false };
  const children = store.rows.filter((child) => child.parent === row.id && !child.unsaved);
  return { parent: row.id, after: children.at(-1)?.id ?? null, line, level: row.level + 1, into: true };
}

/**
 * The rows that are dragged with a row: all picked ones, where it is one of them.
 * @param {Store} store
 * @param {Row} row
 * @returns {Row[]}
 */
export const draggedWith = (store, row) =>
  store.selection.size > 1 && store.selection.has(row.id) ? store.selection.tops : [row];

/**
 * The edits that put rows there; none where they stand there already or would go into themselves.
 * @param {Store} store
 * @param {Row[]} rows
 * @param {Place} place
 * @returns {object[]}
 */
export function movesTo(store, rows, place) {
  const going = new Set(rows.map((row) => row.id));
  for (let up = place.parent; up !== null; up = store.row(up)?.parent ?? null) if (going.has(up)) return [];
  // Beside a row that goes along, they follow the nearest one that stays.
  let after = place.after;
  while (after !== null && going.has(after)) after = store.siblingBefore(after);
  const [first] = rows;
  if (rows.length === 1 && first.parent === place.parent && store.siblingBefore(first.id) === after) return [];
  return rows.map((row) => {
    const edit = { type: "moveTask", task: row.id, parent: place.parent, after };
    after = row.id;
    return edit;
  });
}
