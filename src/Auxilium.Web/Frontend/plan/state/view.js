// @ts-check
// Which rows are shown, and in which order: folding, filters, sorting and grouping change the view and never the plan.

/** @import { Row } from "./types.js" */
/** @import { Around } from "../fields/field.js" */
import { FIELDS, fieldOf, USUAL_FACTS } from "../fields/fields.js";
import { DAY, minutesOf } from "./time.js";

/**
 * @typedef {object} View
 * @property {string[]} folded ids of phases whose rows are hidden
 * @property {string} text part of the name
 * @property {Record<string, string>} only by field: the value that rows have, as its filter names it; none for any
 * @property {string} phase id of the phase it is in, or "" for any
 * @property {string} from the first day of a stretch that it falls into, as YYYY-MM-DD, or ""
 * @property {string} to the last one
 * @property {boolean} keyOnly
 * @property {boolean} hideDone
 * @property {boolean} milestones only these
 * @property {boolean} finishPath only what sets the finish
 * @property {{ col: string, down: boolean } | null} sort
 * @property {string} group the field that rows stand together by, instead of their phases; "" for those
 * @property {{ key: string, width: number }[] | null} columns those of the list, from left to right; null for the usual ones
 * @property {boolean} wrap whether long names go on in a second line
 * @property {string} rows the field that a row's colour tells; "none" for no colour
 * @property {"dates" | "iso" | "us"} weeks what the timeline calls a week
 * @property {"mon" | "sun" | "sat"} weekStart
 * @property {string} label the field that stands beside a bar, or "dates"; "none" for nothing
 * @property {string} colour the field that a bar's fill tells
 * @property {boolean} periods whether named periods are shown behind
 * @property {boolean} others whether other projects are
 * @property {"right" | "down"} tree which way the outline goes as a tree
 * @property {boolean} treeCosts whether the outline says what things cost instead of how much work they are
 * @property {string[] | null} baselines ids of those that are drawn behind the bars; null for the measure alone
 */

/** The part of a view that shows every row in the plan's order. */
export const EVERYTHING = {
  text: "",
  only: /** @type {Record<string, string>} */ ({}),
  phase: "",
  from: "",
  to: "",
  keyOnly: false,
  hideDone: false,
  milestones: false,
  finishPath: false,
  sort: null,
  group: "",
};

/** The day that weeks begin with, where nobody chose another. @type {View["weekStart"]} */ let usualWeekStart = "mon";

/** @param {string | undefined} day as the organisation has it */
export function useWeekStart(day) {
  if (day === "mon" || day === "sat" || day === "sun") usualWeekStart = day;
}

/** @returns {View} */
export const plainView = () => ({
  folded: [],
  ...EVERYTHING,
  columns: null,
  wrap: false,
  rows: "colour",
  weeks: "dates",
  weekStart: usualWeekStart,
  label: "none",
  colour: "state",
  periods: true,
  others: false,
  baselines: null,
  tree: "right",
  treeCosts: false,
});

/** Which day of the week, from Monday, a week begins with. @param {View} view */
export const firstWeekday = ({ weekStart }) => ({ mon: 0, sat: 5, sun: 6 })[weekStart];

/** How many filters are on. @param {View} view */
export const filtersOf = (view) =>
  [
    view.text !== "",
    ...Object.values(view.only).map((value) => value !== ""),
    view.phase !== "",
    view.from !== "" || view.to !== "",
    view.keyOnly,
    view.hideDone,
    view.milestones,
    view.finishPath,
  ].filter(Boolean).length;

/**
 * Rows that are not saved yet are always shown, so that nothing typed is out of sight.
 * @param {Row} row
 * @param {View} view
 * @param {Around} around
 */
export function passes(row, view, around) {
  if (row.unsaved) return true;
  if (view.text !== "" && !row.name.toLocaleLowerCase().includes(view.text.toLocaleLowerCase())) return false;
  for (const [key, value] of Object.entries(view.only))
    if (value !== "" && !fieldOf(key).filter?.holds(row, value, around)) return false;
  if (view.keyOnly && !row.key) return false;
  if (view.hideDone && row.state === "done") return false;
  if (view.milestones && row.kind !== "milestone") return false;
  if (!isBetween(row, view)) return false;
  return !view.finishPath || row.critical;
}

/** Whether any of a row's days is one of those asked for. @param {Row} row @param {View} view */
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
 * their phases; grouped, below a heading for each value of a field.
 * @param {Row[]} rows in the plan's order @param {View} view @param {Around} around
 * @returns {Row[]}
 */
export function shownRows(rows, view, around) {
  const inside = view.phase === "" ? null : insideOf(rows, view.phase);
  const pass = (/** @type {Row} */ row) => passes(row, view, around) && (!inside || row.unsaved || inside.has(row.id));
  if (view.group) return grouped(rows, view, around, pass);
  if (view.sort) return sorted(leaves(rows, pass), view.sort, around);
  const folded = new Set(view.folded);
  const wanted = filtersOf(view) > 0 ? passing(rows, view, pass) : null;
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

/** Those that pass, with the phases they are in. @param {Row[]} rows @param {View} view @param {(row: Row) => boolean} pass */
function passing(rows, view, pass) {
  /** @type {Set<string>} */ const wanted = new Set();
  /** @type {Row[]} */ const above = [];
  for (const row of rows) {
    above.length = row.level;
    above.push(row);
    // A phase by itself only says where something is, unless its name was asked for.
    const counts = row.kind !== "phase" || (view.text !== "" && filtersOf(view) === 1);
    if (counts && pass(row)) for (const phase of above) wanted.add(phase.id);
  }
  return wanted;
}

/** @param {Row[]} rows @param {NonNullable<View["sort"]>} sort @param {Around} around */
function sorted(rows, { col, down }, around) {
  const order = fieldOf(col).order ?? (() => 0);
  return rows
    .map((row, at) => ({ row, at, key: order(row, around) }))
    .sort((a, b) => {
      const by = typeof a.key === "string" ? a.key.localeCompare(String(b.key)) : a.key - /** @type {number} */ (b.key);
      return (down ? -by : by) || a.at - b.at;
    })
    .map(({ row }) => row);
}

/** @param {Row[]} rows @param {View} view @param {Around} around @param {(row: Row) => boolean} pass */
function grouped(rows, view, around, pass) {
  const order = view.sort ? sorted(leaves(rows, pass), view.sort, around) : leaves(rows, pass);
  const by = fieldOf(view.group).group;
  if (!by) return order;
  const folded = new Set(view.folded);
  /** @type {Map<string, Row[]>} */ const groups = new Map();
  for (const row of order) {
    const key = by.of(row, around);
    const group = groups.get(key);
    if (group) group.push(row);
    else groups.set(key, [row]);
  }
  const titles = [...groups].map(([key, group]) => ({ key, group, title: by.title(key, around) }));
  titles.sort((a, b) =>
    by.rank
      ? by.rank(a.group[0], around) - by.rank(b.group[0], around)
      : Number(a.key === "") - Number(b.key === "") || a.title.localeCompare(b.title),
  );
  return titles.flatMap(({ key, group, title }) => {
    const row = heading(`${view.group}:${key}`, title, group.length);
    return folded.has(row.id) ? [row] : [row, ...group];
  });
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
  .../** @type {Pick<Row, "key" | "colour" | "label" | "priority" | "deliveredBy" | "serves" | "role" | "sourceId">} */ (
    USUAL_FACTS
  ),
  own: null,
  steps: null,
  references: 0,
  repeats: null,
  plannedStart: null,
  plannedFinish: null,
  drift: 0,
  driftSaid: null,
  effort: 0,
  ownEffort: null,
  with: null,
  gathers: 0,
  gathersLeft: 0,
});

/** Phases to fold so that levels above one are open. @param {Row[]} rows @param {number} level 0 folds everything */
export const foldedFrom = (rows, level) =>
  rows.filter((row) => row.kind === "phase" && row.level >= level).map((row) => row.id);

/** A view as it was kept, perhaps by an older version. @param {Record<string, any> | undefined} kept @returns {View} */
export function viewIn(kept) {
  if (!kept || !Array.isArray(kept.folded ?? [])) return plainView();
  const { owner, team, state, labelled, ...rest } = kept;
  const view = { ...plainView(), ...rest };
  // Filters by a field once had names of their own, and a row's own colour was no field.
  const filters = Object.entries({ owner, team, state, label: labelled, ...rest.only });
  view.only = Object.fromEntries(filters.filter(([, value]) => value));
  if (view.rows === "own") view.rows = "colour";
  if (view.colour === "own") view.colour = "colour";
  const known = new Set(["", "none", "dates", ...FIELDS.map(({ key }) => key)]);
  const named = [view.group, view.rows, view.colour, view.label, view.sort?.col ?? "", ...Object.keys(view.only)];
  return named.every((key) => known.has(key)) ? view : { ...plainView(), folded: view.folded };
}
