// @ts-check
// Where a time lies on the timeline. A day is drawn as wide as the project's working day, so that a task of three days fills three.

/** @import { Project, Row } from "../state/types.js" */
import { DAY, dayOf } from "../state/time.js";

/** Pixels a day. @type {Record<string, number>} */
export const SCALES = { hours: 240, days: 38, weeks: 16, months: 4.4, years: 1 };

const LEAST = 0.25;
const MOST = 900;

/** The widths from which on a scale tells hours, days and so on. @type {[string, number][]} */
const FROM = [
  ["hours", 130],
  ["days", 25],
  ["weeks", 8.5],
  ["months", 2],
  ["years", 0],
];

/**
 * @typedef {object} Scale
 * @property {string} name what it tells: hours, days, weeks, months or years
 * @property {number} day pixels a day
 * @property {number} row pixels a row is high
 * @property {number} firstDay a Monday
 * @property {number} lastDay
 * @property {number} width
 * @property {number} dayStart minute of the day at which a day's width begins
 * @property {number} dayEnd
 * @property {(day: number) => number} xOfDay
 * @property {(minutes: number) => number} x
 */

/** A width that can be drawn. @param {number} day */
export const within = (day) => Math.min(MOST, Math.max(LEAST, day));

/** @type {WeakMap<Row[], [number, number]>} */
const extents = new WeakMap();

/** The first and the last day of rows, worked out once for each list of them. @param {Row[]} rows @returns {[number, number]} */
function extentOf(rows) {
  let extent = extents.get(rows);
  if (extent) return extent;
  extent = [Infinity, -Infinity];
  for (const { start, finish, lateFinish } of rows) {
    if (start === null) continue;
    extent[0] = Math.min(extent[0], dayOf(start));
    extent[1] = Math.max(extent[1], dayOf(lateFinish ?? finish));
  }
  extents.set(rows, extent);
  return extent;
}

/**
 * @param {string | number} at a scale by its name, or pixels a day
 * @param {Project} project
 * @param {Row[]} rows
 * @param {number} [row] pixels a row is high
 * @returns {Scale}
 */
export function scaleFor(at, project, rows, row = 30) {
  const day = within(typeof at === "number" ? at : (SCALES[at] ?? SCALES.weeks));
  const name = /** @type {[string, number]} */ (FROM.find(([, from]) => day >= from))[0];
  const margin = Math.max(14, Math.ceil(220 / day));
  let first = Math.min(dayOf(project.start), dayOf(project.today));
  let last = Math.max(dayOf(project.finish), dayOf(project.finishBy ?? 0), dayOf(project.today));
  const [earliest, latest] = extentOf(rows);
  first = Math.min(first, earliest);
  last = Math.max(last, latest);
  const firstDay = Math.floor((first - margin) / 7) * 7;
  const lastDay = last + 2 * margin + Math.ceil(500 / day);
  const { dayStart, dayEnd } = project;
  const hours = Math.max(1, dayEnd - dayStart);
  const xOfDay = (/** @type {number} */ d) => (d - firstDay) * day;
  const x = (/** @type {number} */ minutes) => {
    const inDay = (minutes % DAY) - dayStart;
    return xOfDay(dayOf(minutes)) + day * Math.max(0, Math.min(1, inDay / hours));
  };
  return { name, day, row, firstDay, lastDay, width: (lastDay - firstDay) * day, dayStart, dayEnd, xOfDay, x };
}

/** The day under a point. @param {Scale} scale @param {number} x */
export const dayAt = (scale, x) => scale.firstDay + Math.floor(x / scale.day);
