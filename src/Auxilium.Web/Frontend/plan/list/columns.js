// @ts-check
// The columns of the list: which are shown, and what their cells say by the field each shows.

/** @import { Field } from "../fields/field.js" */
/** @import { Row } from "../state/types.js" */
/** @import { Store } from "../state/store.js" */
import { FIELDS, fieldOf } from "../fields/fields.js";
import { ownerOf } from "../fields/owner.js";
import { STATE_WORDS } from "../fields/state.js";
import { dayOf, finishDayOf, lastDayOf, short } from "../state/time.js";

/** @typedef {Field & { width: number }} Column its width is in pixels */

/** @type {Column[]} */
export const COLUMNS = FIELDS.flatMap((field) => (field.width ? [{ ...field, width: field.width }] : []));

/** These come first, and are always there. */
export const FIRST = ["no", "name"];

export const LEAST_WIDTH = 34;
export const MOST_WIDTH = 640;

const USUAL = COLUMNS.filter((column) => !column.extra);

/** @type {WeakMap<object, Column[]>} */
const chosen = new WeakMap();

/** The columns that are shown, from left to right. @param {Store} store @returns {Column[]} */
export function columnsOf({ view }) {
  if (!view.columns) return USUAL;
  let columns = chosen.get(view.columns);
  if (!columns) {
    const known = new Map(COLUMNS.map((column) => [column.key, column]));
    columns = view.columns.flatMap(({ key, width }) => {
      const column = known.get(key);
      return column ? [{ ...column, width }] : [];
    });
    chosen.set(view.columns, columns);
  }
  return columns;
}

/** What a cell says. @param {Store} store @param {Row} row @param {string} col */
export const cellText = (store, row, col) => fieldOf(col).text(store, row);

/** What the editor of a cell begins with. @param {Store} store @param {Row} row @param {string} col */
export function editorText(store, row, col) {
  const { typed, text } = fieldOf(col);
  return (typed ?? text)(store, row);
}

/**
 * The edit that a text typed into a cell means, or the sentence that says why it means none.
 * @param {Store} store
 * @param {Row} row
 * @param {string} col
 * @param {string} text
 */
export function editFor(store, row, col, text) {
  const { edit, label } = fieldOf(col);
  return edit?.(store, row, text) ?? { problem: `${label} is worked out, and cannot be typed.` };
}

/** A row as a sentence, for a screen reader and for hovering. @param {Store} store @param {Row} row */
export function rowSentence(store, row) {
  if (row.start === null)
    return `${row.name}, ${row.heading ? "group" : row.off ? "no date: inactive" : "not saved yet"}`;
  const from = short(dayOf(row.start));
  const to = short(lastDayOf(row));
  const facts = [row.kind === "milestone" || from === to ? to : `${from} to ${to}`];
  if (row.repeats) facts.push(`comes ${row.repeats}`);
  if (row.kind === "phase") facts.push(`${Math.floor(row.progress)}% done`);
  else {
    if (row.kind === "milestone") facts.push("milestone");
    facts.push(row.waitsFor ? `waiting for ${row.waitsFor}` : (STATE_WORDS[row.state ?? ""] ?? "").toLowerCase());
    if (row.progress > 0 && row.progress < 100) facts.push(`${Math.floor(row.progress)}% done`);
    facts.push(ownerOf(store, row)?.name ?? "no owner");
    if (row.fixed) facts.push(row.fixed);
    if (row.stretches) facts.push("with pauses");
    if (row.deadline !== null) facts.push(`deadline ${short(finishDayOf(row.deadline))}`);
    facts.push(...FIELDS.flatMap(({ said }) => said?.(row) ?? []));
    facts.push(store.used.get(row.id)?.said ?? "");
    if (row.critical) facts.push("sets the finish");
    else if (row.spare) facts.push(`${row.spare} of float`);
    if (row.warning) facts.push(row.warning);
  }
  return `${row.name}, ${facts.filter(Boolean).join(", ")}`;
}
