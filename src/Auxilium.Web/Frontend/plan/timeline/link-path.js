// @ts-check
// The way a link takes from one bar to another.

const ROUND = 5;

/** @typedef {{ x: number, y: number }} Point */

/**
 * @param {Point} from the end of the bar before
 * @param {Point} to the start of the bar after
 * @param {boolean} tall whether the target is a bar, with a top to come down on
 * @returns {{ path: string, arrow: string }}
 */
export function linkPath(from, to, tall) {
  const down = to.y > from.y;
  if (to.x >= from.x + 16) {
    const bend = Math.min(from.x + 7, to.x - 9);
    return {
      path: rounded([from, { x: bend, y: from.y }, { x: bend, y: to.y }, { x: to.x - 5, y: to.y }]),
      arrow: `M${to.x - 6} ${to.y - 4}L${to.x} ${to.y}L${to.x - 6} ${to.y + 4}Z`,
    };
  }
  if (to.x >= from.x - 4) {
    const edge = to.y + (down ? -1 : 1) * (tall ? 10 : 12);
    const x = Math.max(from.x, to.x) + 6;
    const back = down ? -6 : 6;
    return {
      path: rounded([from, { x, y: from.y }, { x, y: edge + back }]),
      arrow: `M${x - 4} ${edge + back}L${x} ${edge}L${x + 4} ${edge + back}Z`,
    };
  }
  const between = to.y + (down ? -15 : 15);
  return {
    path: rounded([
      from,
      { x: from.x + 7, y: from.y },
      { x: from.x + 7, y: between },
      { x: to.x - 10, y: between },
      { x: to.x - 10, y: to.y },
      { x: to.x - 5, y: to.y },
    ]),
    arrow: `M${to.x - 6} ${to.y - 4}L${to.x} ${to.y}L${to.x - 6} ${to.y + 4}Z`,
  };
}

/**
 * The way of a link that leaves the bar before at its start, or comes to the bar after at its finish.
 * @param {Point} from @param {Point} to @param {boolean} fromStart @param {boolean} toFinish
 * @returns {{ path: string, arrow: string }}
 */
export function sideLinkPath(from, to, fromStart, toFinish) {
  const out = fromStart ? -1 : 1;
  const side = toFinish ? 1 : -1;
  const tip = { x: to.x + side * 5, y: to.y };
  const arrow = `M${to.x + side * 6} ${to.y - 4}L${to.x} ${to.y}L${to.x + side * 6} ${to.y + 4}Z`;
  if (fromStart !== toFinish) {
    // Both at the same end: out past the farther of the two, along, and in.
    const x = out > 0 ? Math.max(from.x, to.x) + 11 : Math.min(from.x, to.x) - 11;
    return { path: rounded([from, { x, y: from.y }, { x, y: to.y }, tip]), arrow };
  }
  const between = to.y + (to.y > from.y ? -15 : 15);
  const [x1, x2] = [from.x + out * 9, to.x + side * 11];
  const points = [from, { x: x1, y: from.y }, { x: x1, y: between }, { x: x2, y: between }, { x: x2, y: to.y }, tip];
  return { path: rounded(points), arrow };
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
