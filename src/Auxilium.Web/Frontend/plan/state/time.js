// @ts-check
// Dates as people read them. Nothing here works out a date: the server does.

const EPOCH_DAYS = 719162; // days from 0001-01-01 to 1970-01-01
const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const LONG_MONTHS = "January February March April May June July August September October November December".split(" ");
const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

export const DAY = 1440;

/** @param {number} day days since 0001-01-01, a Monday */
const utc = (day) => new Date((day - EPOCH_DAYS) * 86_400_000);

/** @param {number} minutes */
export const dayOf = (minutes) => Math.floor(minutes / DAY);

/** The day a finish belongs to: one at midnight ends the day before. @param {number} minutes */
export const finishDayOf = (minutes) => Math.floor((minutes - 1) / DAY);

/**
 * The last day of a row: never before its first, also of what takes no time at the very start of a day.
 * @param {{ start: number | null, finish: number }} row
 */
export const lastDayOf = (row) => Math.max(dayOf(row.start ?? 0), finishDayOf(row.finish));

/** @param {number} day */
export function parts(day) {
  const date = utc(day);
  return { year: date.getUTCFullYear(), month: date.getUTCMonth(), date: date.getUTCDate(), weekday: day % 7 };
}

/** @param {number} day */
export function short(day) {
  const { month, date } = parts(day);
  return `${date} ${MONTHS[month]}`;
}

/** @param {number} day */
export const withYear = (day) => `${short(day)} ${parts(day).year}`;

/** A day as the server writes it: 2027-05-12. @param {string} text */
export const dayFrom = (text) => dayOf(minutesOf(`${text}T00:00`));

/** From one day to another, as short as can be: "10 – 12 May". @param {number} from @param {number} to */
export function span(from, to) {
  if (from === to) return short(from);
  const [first, last] = [parts(from), parts(to)];
  const same = first.month === last.month && first.year === last.year;
  return `${same ? first.date : short(from)} – ${short(to)}`;
}

/** @param {number} day */
export const withWeekday = (day) => `${DAYS[day % 7]} ${short(day)}`;

/** The time of day, 24:00 at the end of it. @param {number} minutes @param {number} day the day it belongs to */
export function timeIn(minutes, day) {
  const [hour, minute] = [Math.floor((minutes - day * DAY) / 60), minutes % 60];
  return `${String(hour).padStart(2, "0")}:${String(minute).padStart(2, "0")}`;
}

/** @param {number} day */
export function monthName(day) {
  const { month, year } = parts(day);
  return `${LONG_MONTHS[month]} ${year}`;
}

/** The number of the ISO week, which begins on Monday and belongs to the year of its Thursday. @param {number} day */
export function isoWeek(day) {
  const thursday = day - (day % 7) + 3;
  return Math.floor((thursday - firstOf(parts(thursday).year)) / 7) + 1;
}

/** The number of the US week, which begins on Sunday; the first has 1 January in it. @param {number} day */
export function usWeek(day) {
  const first = firstOf(parts(day).year);
  return Math.floor((day - (first - ((first + 1) % 7))) / 7) + 1;
}

/** The first day of a year. @param {number} year */
const firstOf = (year) => Date.UTC(year, 0, 1) / 86_400_000 + EPOCH_DAYS;

/** @param {number} day */
export const iso = (day) => utc(day).toISOString().slice(0, 10);

/** @param {string} text YYYY-MM-DDTHH:mm */
export function minutesOf(text) {
  return Date.parse(`${text}Z`) / 60_000 + EPOCH_DAYS * DAY;
}
