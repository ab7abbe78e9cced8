// @ts-check
// The way a link takes from one bar to another.

/** @import { Between } from "./between.js" */

const ROUND = 5;
const ASIDE = 90; // pixels that a line goes aside at most to get past something

/** @typedef {{ x: number, y: number }} Point */

/**
 * @param {Point} from the end of the bar before
 * @param {Point} to the start of the bar after
 * @param {boolean} tall whether the target is a bar, with a top to come down on
 * @param {Between} between what lies between
 * @returns {{ path: string, arrow: string }}
 */
export function linkPath(from, to, tall, between) {
  const down = to.y > from.y;
  const intoSide = `M${to.x - 6} ${to.y - 4}L${to.x} ${to.y}L${to.x - 6} ${to.y + 4}Z`;
  const side = { x: to.x - 5, y: to.y };
  if (to.x >= from.x + 16) {
    const trunk = Math.min(from.x + 7, to.x - 9);
    const points = [from, ...past(trunk, from.y, between, [to.x - 9, from.x - ASIDE]), { x: 0, y: to.y }, side];
    return { path: rounded(turned(points)), arrow: intoSide };
  }
  if (to.x >= from.x - 4) {
    const edge = to.y + (down ? -1 : 1) * (tall ? 10 : 12);
    const x = Math.max(from.x, to.x) + 6;
    const back = down ? -6 : 6;
    const before = between.blocked(x);
    const free = before < 0 ? null : between.free(before, to.x - 11, to.x - ASIDE);
    if (free !== null) {
      // Something stands between: round it on the left, and in from the side.
      const gap = between.gapBefore(before);
      const points = [from, { x, y: from.y }, { x, y: gap }, { x: free, y: gap }, { x: free, y: to.y }, side];
      return { path: rounded(points), arrow: intoSide };
    }
    return {
      path: rounded([from, { x, y: from.y }, { x, y: edge + back }]),
      arrow: `M${x - 4} ${edge + back}L${x} ${edge}L${x + 4} ${edge + back}Z`,
    };
  }
  return { path: rounded([...roundTheBack(from, to, from.x + 7, to.x - 10, between), side]), arrow: intoSide };
}

/**
 * The way of a link that leaves the bar before at its start, or comes to the bar after at its finish.
 * @param {Point} from @param {Point} to @param {boolean} fromStart @param {boolean} toFinish @param {Between} between
 * @returns {{ path: string, arrow: string }}
 */
export function sideLinkPath(from, to, fromStart, toFinish, between) {
  const out = fromStart ? -1 : 1;
  const side = toFinish ? 1 : -1;
  const tip = { x: to.x + side * 5, y: to.y };
  const arrow = `M${to.x + side * 6} ${to.y - 4}L${to.x} ${to.y}L${to.x + side * 6} ${to.y + 4}Z`;
  if (fromStart === toFinish)
    return { path: rounded([...roundTheBack(from, to, from.x + out * 9, to.x + side * 11, between), tip]), arrow };
  // Both at the same end: out past the farther of the two, along, and in.
  const near = out > 0 ? Math.max(from.x, to.x) + 11 : Math.min(from.x, to.x) - 11;
  const x = between.free(0, near, near + out * ASIDE) ?? near;
  return { path: rounded([from, { x, y: from.y }, { x, y: to.y }, tip]), arrow };
}

/**
 * Down a trunk that all links from one end share, and beside it from where something is in the way.
 * @param {number} trunk @param {number} y where it begins @param {Between} between @param {number[]} ways how far it may go to the right
 * and, failing that, to the left
 * @returns {Point[]} the last one at the height where the line goes down for good
 */
function past(trunk, y, between, [right, left]) {
  const before = between.blocked(trunk);
  const free = before < 0 ? null : (between.free(before, trunk, right) ?? between.free(before, trunk, left));
  if (free === null) return [{ x: trunk, y }];
  const gap = between.gapBefore(before);
  return [
    { x: trunk, y },
    { x: trunk, y: gap },
    { x: free, y: gap },
  ];
}

/** Puts a point whose x is still open below the one before it. @param {Point[]} points */
function turned(points) {
  const at = points.length - 2;
  return points.with(at, { ...points[at], x: points[at - 1].x });
}

/**
 * Where the bar after lies behind: down beside the one or the other, wherever nothing is in the way.
 * @param {Point} from
 * @param {Point} to
 * @param {number} first x beside the bar before
 * @param {number} last x beside the bar after
 * @param {Between} between
 * @returns {Point[]}
 */
function roundTheBack(from, to, first, last, between) {
  const near = to.y > from.y ? -15 : 15;
  const y = between.blocked(first) >= 0 && between.blocked(last) < 0 ? from.y - near : to.y + near;
  return [from, { x: first, y: from.y }, { x: first, y }, { x: last, y }, { x: last, y: to.y }];
}

/** @param {Point[]} points of a path whose pieces are level or upright */
function rounded(points) {
  let path = `M${points[0].x} ${points[0].y}`;
  for (let i = 1; i < points.length - 1; i++) {
    const [before, at, after] = [points[i - 1], points[i], points[i + 1]];
    const round = Math.min(ROUND, reach(before, at) / 2, reach(at, after) / 2);
    const into = toward(at, before, round);
    const out = toward(at, after, round);
    path += `L${into.x} ${into.y}Q${at.x} ${at.y} ${out.x} ${out.y}`;
  }
  const end = points[points.length - 1];
  return `${path}L${end.x} ${end.y}`;
}

/** @param {Point} a @param {Point} b */
const reach = (a, b) => Math.abs(a.x - b.x) + Math.abs(a.y - b.y);

/** @param {Point} from @param {Point} to @param {number} by @returns {Point} */
const toward = (from, to, by) => ({
  x: from.x + Math.sign(to.x - from.x) * by,
  y: from.y + Math.sign(to.y - from.y) * by,
});
