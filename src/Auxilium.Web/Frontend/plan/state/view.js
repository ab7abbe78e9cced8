// @ts-check
// Which rows are shown, and in which order: folding, filters, sorting and grouping change what one sees and never the plan.

/** @import { Row, Person } from "./types.js" */
import { STATE_WORDS } from "../list/columns.js";
import { DAY, minutesOf } from "./time.js";

/**
 * @typedef {object} Look
 * @property {string[]} folded ids of phases whose rows are hidden
 * @property {string} text part of the name
 * @property {string} owner id of a person, "nobody", or "" for anyone
 * @property {string} team of the owner, "-" for none, or "" for any
 * @property {string} state one of the states, or "" for any
 * @property {string} labelled a label, "-" for none, or "" for any
 * @property {string} phase id of the phase it is in, or "" for any
 * @property {string} from the first day of a stretch that it falls into, as YYYY-MM-DD, or ""
 * @property {string} to the last one
 * @property {boolean} keyOnly
 * @property {boolean} hideDone
 * @property {boolean} milestones only these
 * @property {boolean} finishPath only what sets the finish
 * @property {{ col: string, down: boolean } | null} sort
 * @property {"" | "owner" | "team" | "state" | "label"} group what rows stand together by, instead of their phases
 * @property {{ key: string, width: number }[] | null} columns those of the list, from left to right; null for the usual ones
 * @property {boolean} wrap whether long names go on in a second line
 * @property {"none" | "own" | "owner" | "team" | "state" | "label"} rows what a row's colour tells
 * @property {"dates" | "iso" | "us"} weeks what the timeline calls a week
 * @property {"mon" | "sun" | "sat"} weekStart
 * @property {"none" | "name" | "owner" | "dates" | "label" | "progress"} label what stands beside a bar
 * @property {"state" | "owner" | "team" | "own" | "label"} colour what a bar's fill tells
 * @property {boolean} periods whether named periods are shown behind
 * @property {boolean} others whether other projects are
 */

/** The part of a look that shows every row in the plan's order. */
export const EVERYTHING = {
  text: "",
  owner: "",
  team: "",
  state: "",
  labelled: "",
  phase: "",
  from: "",
  to: "",
  keyOnly: false,
  hideDone: false,
  milestones: false,
  finishPath: false,
  sort: null,
  group: /** @type {Look["group"]} */ (""),
};

/** @returns {Look} */
export const plainLook = () => ({
  folded: [],
  ...EVERYTHING,
  columns: null,
  wrap: false,
  rows: "own",
  weeks: "dates",
  weekStart: "mon",
  label: "none",
  colour: "state",
  periods: true,
  others: false,
});

/** Which day of the week, from Monday, a week begins with. @param {Look} look */
export const firstWeekday = ({ weekStart }) => ({ mon: 0, sat: 5, sun: 6 })[weekStart];

/** How many filters are on. @param {Look} look */
export const filtersOf = (look) =>
  [
    look.text !== "",
    look.owner !== "",
    look.team !== "",
    look.state !== "",
    look.labelled !== "",
    look.phase !== "",
    look.from !== "" || look.to !== "",
    look.keyOnly,
    look.hideDone,
    look.milestones,
    look.finishPath,
  ].filter(Boolean).length;

/** Teams by the ids of who is in them. @typedef {Map<string, string>} Teams */

/** The team that a row is in by its owner. @param {Row} row @param {Teams} teams */
export const teamOf = (row, teams) => teams.get(row.owner ?? "") ?? "";

/**
 * Rows that are not saved yet are always shown, so that nothing typed is out of sight.
 * @param {Row} row
 * @param {Look} look
 * @param {Teams} teams
 */
export function passes(row, look, teams) {
  if (row.unsaved) return true;
  if (look.text !== "" && !row.name.toLocaleLowerCase().includes(look.text.toLocaleLowerCase())) return false;
  if (look.owner === "nobody" ? row.owner !== null || row.kind !== "task" : look.owner && row.owner !== look.owner)
    return false;
  if (look.team !== "" && (teamOf(row, teams) || "-") !== look.team) return false;
  if (!isInState(row, look.state)) return false;
  if (look.labelled !== "" && (row.label ?? "-") !== look.labelled) return false;
  if (look.keyOnly && !row.key) return false;
  if (look.hideDone && row.state === "done") return false;
  if (look.milestones && row.kind !== "milestone") return false;
  if (!isBetween(row, look)) return false;
  return !look.finishPath || row.critical;
}

/** @param {Row} row @param {string} state one of the states, "late" for those that need somebody now, "noDate", or "" for any */
function isInState(row, state) {
  if (state === "late") return row.state === "overdue" || row.state === "lateToStart";
  if (state === "noDate") return row.start === null;
  return state === "" || row.state === state;
}

/** Whether any of a row's days is one of those asked for. @param {Row} row @param {Look} look */
function isBetween(row, { from, to }) {
  if (from === "" && to === "") return true;
  if (row.start === null) return false;
  const begins = from === "" || row.finish > minutesOf(`${from}T00:00`) || row.start >= minutesOf(`${from}T00:00`);
  return begins && (to === "" || row.start < minutesOf(`${to}T00:00`) + DAY);
}

/** Ids of the rows inside a phase, at any depth. @param {Row[]} rows @param {string} phase */
export function insideOf(rows, phase) {
  const at = rows.findIndex((row) => row.id === phase);
  /** @type {Set<string>} */ const inside = new Set();
  for (let i = at + 1; at >= 0 && i < rows.length && rows[i].level > rows[at].level; i++) inside.add(rows[i].id);
  return inside;
}

/**
 * The rows to draw. With filters a phase is shown where it or something inside it passes; sorted, tasks stand in one list without
 * their phases; grouped, below a heading for each owner, state or label.
 * @param {Row[]} rows in the plan's order @param {Look} look @param {Person[]} people @param {Teams} teams
 * @returns {Row[]}
 */
export function shownRows(rows, look, people, teams) {
  const inside = look.phase === "" ? null : insideOf(rows, look.phase);
  const pass = (/** @type {Row} */ row) => passes(row, look, teams) && (!inside || row.unsaved || inside.has(row.id));
  if (look.group) return grouped(rows, look, people, teams, pass);
  if (look.sort) return sorted(leaves(rows, pass), look.sort, people);
  const folded = new Set(look.folded);
  const wanted = filtersOf(look) > 0 ? passing(rows, look, pass) : null;
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

/** @param {Row[]} rows @param {(row: Row) => boolean} pass */
const leaves = (rows, pass) => rows.filter((row) => row.kind !== "phase" && pass(row));

/** Those that pass, with the phases they are in. @param {Row[]} rows @param {Look} look @param {(row: Row) => boolean} pass */
function passing(rows, look, pass) {
  /** @type {Set<string>} */ const wanted = new Set();
  /** @type {Row[]} */ const above = [];
  for (const row of rows) {
    above.length = row.level;
    above.push(row);
    // A phase by itself only says where something is, unless its name was asked for.
    const counts = row.kind !== "phase" || (look.text !== "" && filtersOf(look) === 1);
    if (counts && pass(row)) for (const phase of above) wanted.add(phase.id);
  }
  return wanted;
}

const STATE_ORDER = { overdue: 0, lateToStart: 1, underWay: 2, ready: 3, waiting: 4, done: 5 };

/** @param {Row} row */
const stateOrder = (row) => STATE_ORDER[/** @type {keyof typeof STATE_ORDER} */ (row.state ?? "")] ?? 6;

/** @param {Row[]} rows @param {NonNullable<Look["sort"]>} sort @param {Person[]} people */
function sorted(rows, { col, down }, people) {
  const names = new Map(people.map((person) => [person.id, person.name]));
  /** @param {Row} row @returns {number | string} */
  const key = (row) => {
    if (col === "name") return row.name.toLocaleLowerCase();
    if (col === "owner") return names.get(row.owner ?? "")?.toLocaleLowerCase() ?? "\uffff";
    if (col === "label") return row.label?.toLocaleLowerCase() ?? "\uffff";
    if (col === "key") return row.key ? 0 : 1;
    if (col === "priority") return -row.priority;
    if (col === "deadline") return row.deadline ?? Infinity;
    if (col === "start") return row.start ?? Infinity;
    if (col === "finish") return row.start === null ? Infinity : row.finish;
    if (col === "length") return row.start === null ? Infinity : row.finish - row.start;
    return stateOrder(row);
  };
  return rows
    .map((row, at) => ({ row, at, key: key(row) }))
    .sort((a, b) => {
      const by = typeof a.key === "string" ? a.key.localeCompare(String(b.key)) : a.key - /** @type {number} */ (b.key);
      return (down ? -by : by) || a.at - b.at;
    })
    .map(({ row }) => row);
}

/** @param {Row[]} rows @param {Look} look @param {Person[]} people @param {Teams} teams @param {(row: Row) => boolean} pass */
function grouped(rows, look, people, teams, pass) {
  const order = look.sort ? sorted(leaves(rows, pass), look.sort, people) : leaves(rows, pass);
  const folded = new Set(look.folded);
  /** @type {Map<string, Row[]>} */ const groups = new Map();
  for (const row of order) {
    const key = groupOf(row, look.group, teams);
    const group = groups.get(key);
    if (group) group.push(row);
    else groups.set(key, [row]);
  }
  const names = new Map(people.map((person) => [person.id, person.name]));
  const titles = [...groups].map(([key, group]) => ({ key, group, title: titleOf(key, look.group, names) }));
  titles.sort((a, b) =>
    look.group === "state"
      ? stateOrder(a.group[0]) - stateOrder(b.group[0])
      : Number(a.key === "") - Number(b.key === "") || a.title.localeCompare(b.title),
  );
  return titles.flatMap(({ key, group, title }) => {
    const row = heading(`${look.group}:${key}`, title, group.length);
    return folded.has(row.id) ? [row] : [row, ...group];
  });
}

/** @param {Row} row @param {Look["group"]} by @param {Teams} teams */
function groupOf(row, by, teams) {
  if (by === "owner") return row.owner ?? "";
  if (by === "team") return teamOf(row, teams);
  if (by === "label") return row.label ?? "";
  return (row.start === null ? "" : row.state) ?? "";
}

/** @param {string} key @param {Look["group"]} by @param {Map<string, string>} names */
function titleOf(key, by, names) {
  if (by === "owner") return names.get(key) ?? "Nobody";
  if (by === "team") return key || "No team";
  if (by === "label") return key || "No label";
  return STATE_WORDS[key] ?? "No date";
}

/**
 * A line above the rows of a group: it is drawn like a row, and is none of the plan's.
 * @param {string} id
 * @param {string} title
 * @param {number} count
 * @returns {Row}
 */
function heading(id, title, count) {
  return { ...emptyRow(id, `${title} (${count})`), kind: "phase", heading: true };
}

/** A row with nothing known of it but its name. @param {string} id @param {string} name @returns {Row} */
export const emptyRow = (id, name) => ({
  id,
  name,
  parent: null,
  level: 0,
  no: "",
  kind: "task",
  length: "",
  owner: null,
  helpers: 0,
  after: "",
  start: null,
  finish: 0,
  doneTo: null,
  lateFinish: null,
  spare: null,
  progress: 0,
  critical: false,
  state: null,
  started: false,
  waitsFor: null,
  fixed: null,
  pinned: false,
  fixedSides: null,
  warning: null,
  stretches: null,
  deadline: null,
  off: false,
  note: false,
  key: false,
  colour: null,
  label: null,
  priority: 500,
  steps: null,
  references: 0,
  repeats: null,
});

/** Phases to fold so that levels above one are open. @param {Row[]} rows @param {number} level 0 folds everything */
export const foldedFrom = (rows, level) =>
  rows.filter((row) => row.kind === "phase" && row.level >= level).map((row) => row.id);
