// @ts-check
// What the Load page shows: who has how much to do in each day, week or month, worked out from lists of minutes by day.

import { dayFrom, monthName, parts, short, withWeekday } from "../plan/state/time.js";

/**
 * @typedef {object} Work
 * @property {string} project
 * @property {string} task
 * @property {string} name
 * @property {string | null} start
 * @property {string | null} finish
 * @property {number} first
 * @property {number[]} minutes
 */
/**
 * @typedef {object} LoadPerson
 * @property {string} id
 * @property {string} name
 * @property {string} initials
 * @property {string} team
 * @property {string} role
 * @property {number[]} capacity
 * @property {number[]} load
 * @property {number[]} [elsewhere]
 * @property {Work[]} work
 */
/** @typedef {{ name: string, people: string[], capacity: number[], load: number[] }} LoadTeam */
/** @typedef {{ role: string, load: number[], work: Work[] }} LoadRole */
/** @typedef {{ id: string, name: string, version: number, mayEdit: boolean }} LoadProject */
/**
 * @typedef {object} LoadAnswer
 * @property {string} from
 * @property {string} to
 * @property {string} today
 * @property {LoadProject[]} projects
 * @property {LoadPerson[]} people
 * @property {LoadTeam[]} teams
 * @property {LoadRole[]} open
 */
/** @typedef {"day" | "week" | "month"} Scale */
/**
 * @typedef {object} Column days are counted from the first that was asked for
 * @property {number} first
 * @property {number} last
 * @property {string} head
 * @property {string} sub
 * @property {string} name
 * @property {boolean} today
 * @property {boolean} rest
 */
/**
 * @typedef {object} LoadRow
 * @property {"team" | "person" | "task" | "elsewhere" | "open"} kind
 * @property {string} key
 * @property {string} name
 * @property {boolean | null} open
 * @property {LoadPerson} [person]
 * @property {LoadTeam} [team]
 * @property {LoadRole} [role]
 * @property {Work} [work]
 * @property {(day: number) => number} load
 * @property {((day: number) => number) | null} capacity
 */
/** @typedef {{ load: number, capacity: number | null, over: number, days: number }} Cell minutes; `days` of them are overbooked */

/** Half a minute too much is not overbooked. */
const TOLERANCE = 0.5;

/** @param {number} load @param {number} capacity */
export const isOver = (load, capacity) => load - capacity > TOLERANCE;

/**
 * The columns from a day on.
 * @param {number} first day number
 * @param {number} count of days
 * @param {Scale} scale
 * @param {number} today
 * @param {number} [weekStart] 0 for Monday
 * @returns {Column[]}
 */
export function columnsOf(first, count, scale, today, weekStart = 0) {
  /** @type {Column[]} */ const columns = [];
  for (let at = 0; at < count;) {
    const day = first + at;
    let last = at;
    const ends = (/** @type {number} */ next) =>
      scale === "day" ||
      (scale === "week"
        ? (next - weekStart) % 7 === 0
        : parts(next).month !== parts(day).month || next === first + count);
    while (last + 1 < count && !ends(first + last + 1)) last++;
    const { date } = parts(day);
    columns.push({
      first: at,
      last,
      head: scale === "day" ? (DAY_NAMES[day % 7] ?? "") : scale === "week" ? short(day) : monthName(day),
      sub:
        scale === "day"
          ? date === 1 || at === 0
            ? short(day)
            : String(date)
          : scale === "week"
            ? `to ${short(first + last)}`
            : "",
      name:
        scale === "day" ? withWeekday(day) : scale === "week" ? `the week from ${withWeekday(day)}` : monthName(day),
      today: today >= day && today <= first + last,
      rest: scale === "day" && day % 7 > 4,
    });
    at = last + 1;
  }
  return columns;
}

const DAY_NAMES = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/**
 * The rows: teams with their people, people with their tasks where they are unfolded, and what nobody has taken.
 * @param {LoadAnswer} answer
 * @param {Set<string>} open keys of what is unfolded, and of teams that are folded
 * @param {"all" | "over"} show
 * @param {string} team only this
 * @returns {LoadRow[]}
 */
export function rowsOf(answer, open, show, team) {
  /** @type {LoadRow[]} */ const rows = [];
  const inTeams = new Set(answer.teams.flatMap(({ people }) => people));
  const shown = (/** @type {LoadPerson} */ person) =>
    show === "all" || overDays(person.load, person.capacity, pastDays(answer)) > 0;
  const byId = new Map(answer.people.map((person) => [person.id, person]));
  for (const each of answer.teams) {
    if (team && each.name !== team) continue;
    const people = each.people.map((id) => byId.get(id)).filter((p) => p !== undefined && shown(p));
    if (people.length === 0) continue;
    const key = `team ${each.name}`;
    const folded = open.has(key);
    rows.push({ ...sums(each.load, each.capacity), kind: "team", key, name: each.name, open: !folded, team: each });
    if (!folded) for (const person of people) if (person) addPerson(rows, person, open);
  }
  const others = answer.people.filter((person) => !inTeams.has(person.id) && !team && shown(person));
  for (const person of others) addPerson(rows, person, open);
  if (show === "all" && !team)
    for (const role of answer.open) {
      const key = `open ${role.role}`;
      rows.push({
        kind: "open",
        key,
        name: `${role.role}: nobody yet`,
        open: open.has(key),
        role,
        load: (day) => role.load[day] ?? 0,
        capacity: null,
      });
      if (open.has(key)) for (const work of role.work) rows.push(taskRow(work, key));
    }
  return rows;
}

/** @param {LoadRow[]} rows @param {LoadPerson} person @param {Set<string>} open */
function addPerson(rows, person, open) {
  const key = `person ${person.id}`;
  rows.push({
    ...sums(person.load, person.capacity),
    kind: "person",
    key,
    name: person.name,
    open: open.has(key),
    person,
  });
  if (!open.has(key)) return;
  for (const work of person.work) rows.push({ ...taskRow(work, key), person });
  const elsewhere = person.elsewhere;
  if (elsewhere)
    rows.push({
      kind: "elsewhere",
      key: `${key} elsewhere`,
      name: "Elsewhere",
      open: null,
      person,
      load: (day) => elsewhere[day] ?? 0,
      capacity: null,
    });
}

/** @param {Work} work @param {string} under @returns {LoadRow} */
const taskRow = (work, under) => ({
  kind: "task",
  key: `${under} ${work.project} ${work.task}`,
  name: work.name,
  open: null,
  work,
  load: (day) => work.minutes[day - work.first] ?? 0,
  capacity: null,
});

/** @param {number[]} load @param {number[]} capacity */
const sums = (load, capacity) => ({
  load: (/** @type {number} */ day) => load[day] ?? 0,
  capacity: (/** @type {number} */ day) => capacity[day] ?? 0,
});

/**
 * On how many days somebody has too much to do; what was too much before today is over.
 * @param {number[]} load @param {number[]} capacity @param {number} past how many of the days are before today
 */
export const overDays = (load, capacity, past) =>
  load.reduce((days, minutes, day) => days + (day >= past && isOver(minutes, capacity[day] ?? 0) ? 1 : 0), 0);

/** How many of the days are before today. @param {LoadAnswer} answer */
export const pastDays = (answer) => Math.max(0, dayFrom(answer.today) - dayFrom(answer.from));

/** @param {LoadRow} row @param {Column} column @param {number} past days before today @returns {Cell} */
export function cellOf(row, column, past) {
  let [load, capacity, over, days] = [0, 0, 0, 0];
  for (let day = column.first; day <= column.last; day++) {
    const minutes = row.load(day);
    load += minutes;
    if (!row.capacity) continue;
    const has = row.capacity(day);
    capacity += has;
    if (day < past || !isOver(minutes, has)) continue;
    over += minutes - has;
    days++;
  }
  return { load, capacity: row.capacity ? capacity : null, over, days };
}

/** Minutes as hours: `6`, `2.5`. @param {number} minutes */
export const hours = (minutes) => String(Math.round(minutes / 6) / 10);

/** A cell as a sentence. @param {LoadRow} row @param {Column} column @param {Cell} cell */
export function said(row, column, { load, capacity, over, days }) {
  const much = capacity === null ? `${hours(load)} h` : `${hours(load)} of ${hours(capacity)} h`;
  const too =
    days === 0
      ? ""
      : column.first === column.last
        ? `, overbooked by ${hours(over)} h`
        : `, overbooked by ${hours(over)} h on ${days === 1 ? "a day" : `${days} days`}`;
  return `${row.name}, ${column.name}: ${much}${too}`;
}

/** @param {LoadAnswer} answer the day that it begins with */
export const firstDay = (answer) => dayFrom(answer.from);
