// @ts-check
// The way a link takes from the end of one bar to the start of another.

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
