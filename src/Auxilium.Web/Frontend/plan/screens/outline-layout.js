// @ts-check
// Where the boxes of the outline stand: from left to right each phase beside its rows, from the top down its phases side by side and
// its tasks one below another.

/** @import { Row } from "../state/types.js" */

export const BOX = { width: 208, height: 62 };

const GAP = { x: 44, y: 14 };
const MARGIN = 26;
const INDENT = 26; // pixels that tasks below a phase stand to the right of it

/** Id of the box of the project itself. */
export const ROOT = "";

/** @typedef {"right" | "down"} Way */
/**
 * @typedef {object} Box
 * @property {string} id
 * @property {string | null} parent
 * @property {number} level
 * @property {number} x
 * @property {number} y
 * @property {string[]} children
 * @property {boolean} stacked whether it stands in a column below its phase
 */

/**
 * @param {Pick<Row, "id" | "level">[]} rows in the plan's order, each right behind its phase or a row in that
 * @param {Way} way
 * @returns {{ boxes: Map<string, Box>, width: number, height: number }}
 */
export function layOutline(rows, way) {
  /** @type {Map<string, Box>} */ const boxes = new Map();
  boxes.set(ROOT, { id: ROOT, parent: null, level: 0, x: 0, y: 0, children: [], stacked: false });
  /** Those the next row may be in. @type {string[]} */ const open = [ROOT];
  for (const { id, level } of rows) {
    open.length = Math.min(open.length, level + 1);
    const parent = open.at(-1) ?? ROOT;
    boxes.set(id, { id, parent, level: open.length, x: 0, y: 0, children: [], stacked: false });
    boxes.get(parent)?.children.push(id);
    open.push(id);
  }
  const of = (/** @type {string} */ id) => /** @type {Box} */ (boxes.get(id));
  if (way === "right") placeRight(of, ROOT, MARGIN);
  else placeDown(of, ROOT, MARGIN, MARGIN);
  const all = [...boxes.values()];
  return {
    boxes,
    width: Math.max(...all.map(({ x }) => x)) + BOX.width + MARGIN,
    height: Math.max(...all.map(({ y }) => y)) + BOX.height + MARGIN,
  };
}

/** @param {(id: string) => Box} of @param {string} id @param {number} top @returns {number} where what comes next begins */
function placeRight(of, id, top) {
  const box = of(id);
  box.x = MARGIN + box.level * (BOX.width + GAP.x);
  if (box.children.length === 0) {
    box.y = top;
    return top + BOX.height + GAP.y;
  }
  let next = top;
  for (const child of box.children) next = placeRight(of, child, next);
  // Beside the first of them, so that what a tree begins with is in sight.
  box.y = of(box.children[0]).y;
  return next;
}

/**
 * @param {(id: string) => Box} of
 * @param {string} id
 * @param {number} left
 * @param {number} top
 * @returns {number} where what stands beside it begins
 */
function placeDown(of, id, left, top) {
  const box = of(id);
  box.y = top;
  const below = top + BOX.height + GAP.x;
  const tasks = box.children.filter((child) => of(child).children.length === 0);
  const phases = box.children.filter((child) => of(child).children.length > 0);
  let next = left;
  tasks.forEach((task, i) => {
    const at = of(task);
    at.stacked = true;
    at.x = left + INDENT;
    at.y = below + i * (BOX.height + GAP.y);
  });
  if (tasks.length > 0) next = left + INDENT + BOX.width + GAP.y;
  for (const phase of phases) next = placeDown(of, phase, next, below);
  const heads = phases.map((phase) => of(phase).x);
  // Above the middle of its phases; tasks alone hang below its left.
  box.x = heads.length > 0 ? Math.max(left, (heads[0] + heads[heads.length - 1]) / 2) : left;
  return Math.max(next, box.x + BOX.width + GAP.y);
}
