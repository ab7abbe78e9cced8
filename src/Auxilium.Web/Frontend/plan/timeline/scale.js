// @ts-check
// Where a time lies on the timeline. A day is drawn as wide as the project's working day, so that a task of three days fills three.

/** @import { Project, Row } from "../types.js" */
import { DAY, dayOf } from "../time.js";

/** Pixels a day. @type {Record<string, number>} */
export const SCALES = { days: 38, weeks: 16, months: 4.4 };

/**
 * @typedef {object} Scale
 * @property {string} name
 * @property {number} day pixels a day
 * @property {number} firstDay a Monday
 * @property {number} lastDay
 * @property {number} width
 * @property {(day: number) => number} xOfDay
 * @property {(minutes: number) => number} x
 */

/** @param {string} name @param {Project} project @param {Row[]} rows @returns {Scale} */
export function scaleFor(name, project, rows) {
  const day = SCALES[name];
  const margin = Math.max(14, Math.ceil(220 / day));
  let first = Math.min(dayOf(project.start), dayOf(project.today));
  let last = Math.max(dayOf(project.finish), dayOf(project.finishBy ?? 0), dayOf(project.today));
  for (const row of rows) {
    if (row.start === null) continue;
    first = Math.min(first, dayOf(row.start));
    last = Math.max(last, dayOf(row.lateFinish ?? row.finish));
  }
  const firstDay = Math.floor((first - margin) / 7) * 7;
  const lastDay = last + 2 * margin + Math.ceil(500 / day);
  const hours = Math.max(1, project.dayEnd - project.dayStart);
  const xOfDay = (/** @type {number} */ d) => (d - firstDay) * day;
  const x = (/** @type {number} */ minutes) => {
    const inDay = (minutes % DAY) - project.dayStart;
    return xOfDay(dayOf(minutes)) + day * Math.max(0, Math.min(1, inDay / hours));
  };
  return { name, day, firstDay, lastDay, width: (lastDay - firstDay) * day, xOfDay, x };
}

/** The day under a point. @param {Scale} scale @param {number} x */
export const dayAt = (scale, x) => scale.firstDay + Math.floor(x / scale.day);
