// @ts-check
// Which rows are shown, and in which order: folding, filters and sorting change what one sees and never the plan.

/** @import { Row, Person } from "./types.js" */

/**
 * @typedef {object} Look
 * @property {string[]} folded ids of phases whose rows are hidden
 * @property {string} text part of the name
 * @property {string} owner id of a person, "nobody", or "" for anyone
 * @property {string} state one of the states, or "" for any
 * @property {boolean} hideDone
 * @property {boolean} milestones only these
 * @property {boolean} finishPath only what sets the finish
 * @property {{ col: string, down: boolean } | null} sort
 * @property {{ key: string, width: number }[] | null} columns those of the list, from left to right; null for the usual ones
 * @property {"dates" | "iso" | "us"} weeks what the timeline calls a week
 * @property {"none" | "name" | "owner" | "dates"} label what stands beside a bar
 * @property {"state" | "owner"} colour what a bar's fill tells
 */

/** The part of a look that shows every row in the plan's order. */
export const EVERYTHING = {
  text: "",
  owner: "",
  state: "",
  hideDone: false,
  milestones: false,
  finishPath: false,
  sort: null,
};

/** @returns {Look} */
export const plainLook = () => ({
  folded: [],
  ...EVERYTHING,
  columns: null,
  weeks: "dates",
  label: "none",
  colour: "state",
});

/** How many filters are on. @param {Look} look */
export const filtersOf = (look) =>
  [look.text !== "", look.owner !== "", look.state !== "", look.hideDone, look.milestones, look.finishPath].filter(
    Boolean,
  ).length;

/** Rows that are not saved yet are always shown, so that nothing typed is out of sight. @param {Row} row @param {Look} look */
export function passes(row, look) {
  if (row.unsaved) return true;
  if (look.text !== "" && !row.name.toLocaleLowerCase().includes(look.text.toLocaleLowerCase())) return false;
  if (look.owner === "nobody" ? row.owner !== null || row.kind !== "task" : look.owner && row.owner !== look.owner)
    return false;
  if (look.state !== "" && row.state !== look.state) return false;
  if (look.hideDone && row.state === "done") return false;
  if (look.milestones && row.kind !== "milestone") return false;
  return !look.finishPath || row.critical;
}

/**
 * The rows to draw. With filters a phase is shown where it or something inside it passes; sorted, tasks stand in one list without
 * their phases.
 * @param {Row[]} rows in the plan's order @param {Look} look @param {Person[]} people
 * @returns {Row[]}
 */
export function shownRows(rows, look, people) {
  if (look.sort) return sorted(rows, look, people);
  const folded = new Set(look.folded);
  const wanted = filtersOf(look) > 0 ? passing(rows, look) : null;
  /** @type {Row[]} */ const shown = [];
  let hiddenBelow = Infinity;
  for (const row of rows) {
    if (row.level > hiddenBelow) continue;
    hiddenBelow = Infinity;
    if (wanted && !wanted.has(row.id)) continue;
    shown.push(row);
    if (row.kind === "phase" && folded.has(row.id)) hiddenBelow = row.level;
  }
  return shown;
}

/** Those that pass, with the phases they are in. @param {Row[]} rows @param {Look} look */
function passing(rows, look) {
  /** @type {Set<string>} */ const wanted = new Set();
  /** @type {Row[]} */ const above = [];
  for (const row of rows) {
    above.length = row.level;
    above.push(row);
    // A phase by itself only says where something is, unless its name was asked for.
    const counts = row.kind !== "phase" || (look.text !== "" && filtersOf(look) === 1);
    if (counts && passes(row, look)) for (const phase of above) wanted.add(phase.id);
  }
  return wanted;
}

/** @param {Row[]} rows @param {Look} look @param {Person[]} people */
function sorted(rows, look, people) {
  const { col, down } = /** @type {NonNullable<Look["sort"]>} */ (look.sort);
  const names = new Map(people.map((person) => [person.id, person.name]));
  const order = { overdue: 0, lateToStart: 1, underWay: 2, ready: 3, waiting: 4, done: 5 };
  /** @param {Row} row @returns {number | string} */
  const key = (row) => {
    if (col === "name") return row.name.toLocaleLowerCase();
    if (col === "owner") return names.get(row.owner ?? "")?.toLocaleLowerCase() ?? "\uffff";
    if (col === "start") return row.start ?? Infinity;
    if (col === "finish") return row.start === null ? Infinity : row.finish;
    if (col === "length") return row.start === null ? Infinity : row.finish - row.start;
    return order[/** @type {keyof typeof order} */ (row.state ?? "waiting")] ?? 6;
  };
  return rows
    .filter((row) => row.kind !== "phase" && passes(row, look))
    .map((row, at) => ({ row, at, key: key(row) }))
    .sort((a, b) => {
      const by = typeof a.key === "string" ? a.key.localeCompare(String(b.key)) : a.key - /** @type {number} */ (b.key);
      return (down ? -by : by) || a.at - b.at;
    })
    .map(({ row }) => row);
}

/** Phases to fold so that levels above one are open. @param {Row[]} rows @param {number} level 0 folds everything */
export const foldedFrom = (rows, level) =>
  rows.filter((row) => row.kind === "phase" && row.level >= level).map((row) => row.id);
