// @ts-check
// A year of a calendar on one sheet: twelve months, each day worked, off or out of the ordinary.

import { element } from "../plan/card/fields.js";
import { dayOf, minutesOf, monthName, parts, withWeekday } from "../plan/state/time.js";

/** @typedef {{ year: number, hours: number, days: { minutes: number, name: string | null }[] }} Year */

/** @param {Year} year */
export function yearSheet({ year, hours, days }) {
  const first = dayOf(minutesOf(`${year}-01-01T00:00`));
  const usual = mostCommon(days.map((day) => day.minutes).filter((minutes) => minutes > 0));
  const months = element("div", { class: "year" });
  for (let month = 0, at = 0; month < 12; month++) {
    const grid = element("div", { class: "month-grid" });
    for (let blank = parts(first + at).weekday; blank > 0; blank--) grid.append(element("span"));
    const name = monthName(first + at).split(" ")[0];
    for (; at < days.length && parts(first + at).month === month; at++)
      grid.append(dayCell(first + at, days[at], usual));
    months.append(element("div", { class: "year-month" }, element("h4", {}, name), grid));
  }
  const named = days.filter((day) => day.name !== null).length;
  const summary =
    `${hours.toLocaleString("en")} working hours in the year; ` +
    `${named} ${named === 1 ? "day is" : "days are"} out of the ordinary.`;
  return element("div", {}, months, element("p", { class: "mute" }, summary));
}

/** @param {number} day @param {{ minutes: number, name: string | null }} facts @param {number} usual */
function dayCell(day, { minutes, name }, usual) {
  const kind =
    minutes === 0
      ? name === null
        ? "off"
        : "holiday"
      : name !== null
        ? "extra"
        : minutes < usual
          ? "short"
          : "worked";
  const words = minutes === 0 ? (name ?? "off") : `${name === null ? "" : `${name}, `}${minutes / 60} hours`;
  const cell = element(
    "span",
    { class: `day day-${kind}`, title: `${withWeekday(day)}: ${words}` },
    String(parts(day).date),
  );
  return cell;
}

/** @param {number[]} values */
function mostCommon(values) {
  /** @type {Map<number, number>} */ const counts = new Map();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts].toSorted((a, b) => b[1] - a[1])[0]?.[0] ?? 0;
}
