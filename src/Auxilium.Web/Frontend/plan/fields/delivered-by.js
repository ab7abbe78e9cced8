// @ts-check
// Who outside the project delivers it.
import { element } from "../card/fields.js";
import { textFact } from "./facts.js";

export const deliveredBy = textFact({
  key: "deliveredBy",
  label: "Delivered by",
  width: 100,
  hint: "a supplier or an office",
  said: (row) => (row.deliveredBy ? `delivered by ${row.deliveredBy}` : null),
  mark: (row) => (row.deliveredBy ? { name: "outside-mark", title: `Delivered by ${row.deliveredBy}` } : null),
});

/**
 * What a row that others deliver is marked with, wherever it is shown.
 * @param {import("../state/types.js").Row} row
 * @returns {HTMLElement[]}
 */
export function outsideMark(row) {
  const mark = deliveredBy.mark?.(row);
  return mark ? [element("span", { class: mark.name, role: "img", "aria-label": mark.title, title: mark.title })] : [];
}

/**
 * The same in a picture: a square with a hole in it.
 * @param {Pick<import("../state/types.js").Row, "deliveredBy">} row
 * @param {number} x
 * @param {number} y
 * @returns {import("../timeline/svg.js").Shape[]}
 */
export function outsideShape({ deliveredBy }, x, y) {
  if (!deliveredBy) return [];
  const title = { key: "title", tag: "title", at: {}, text: `Delivered by ${deliveredBy}` };
  const d = `M${x} ${y}h12v12h-12zM${x + 3.5} ${y + 3.5}v5h5v-5z`;
  return [{ key: "outside", tag: "path", at: { d, class: "outside-shape" }, parts: [title] }];
}
