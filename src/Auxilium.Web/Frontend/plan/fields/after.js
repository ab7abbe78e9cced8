// @ts-check
// What a task comes after: other rows, by number or by name.

/** @import { Store } from "../state/store.js" */
import { offerRows, withNumbers } from "../state/rows-named.js";

/** @type {import("./field.js").Field} */
export const after = {
  key: "after",
  label: "After",
  width: 66,
  text: (_, row) => row.after,
  edit: (store, { id }, text) => {
    const links = withNumbers(store, text, id);
    if ("problem" in links) return links;
    return { edit: { type: "typePredecessors", task: id, after: links.text, rows: rowsNamedIn(store, links.text) } };
  },
  assist: (store, input, row) => offerRows(store, input, row.id),
  clears: true,
};

/** Which row each number meant to the person who typed it. @param {Store} store @param {string} text */
function rowsNamedIn(store, text) {
  const numbers = new Set(text.match(/\d+(\.\d+)*/g) ?? []);
  return Object.fromEntries(store.rows.filter((row) => numbers.has(row.no)).map((row) => [row.no, row.id]));
}
