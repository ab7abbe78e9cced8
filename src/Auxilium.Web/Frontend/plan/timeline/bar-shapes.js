// @ts-check
// What is drawn of one row: its bar or pennant, what stands beside it, its float, and where it was planned to be.

/** @import { Row } from "../state/types.js" */
/** @import { Store } from "../state/store.js" */
/** @import { Scale } from "./scale.js" */
/** @import { Shape } from "./svg.js" */
import { rowSentence } from "../list/columns.js";
import { fieldOf } from "../fields/fields.js";
import { tintOf } from "../fields/tint.js";
import { dayOf, finishDayOf, lastDayOf, short, span } from "../state/time.js";

export const BAR = 18;
export const LEAST = 6;
export const LETTER = 6.6; // pixels a letter beside a bar, near enough for lines to go past
const LINE = 30; // what is drawn of a row is this high, in the middle of it
const BESIDE = 14; // pixels between a bar and what stands beside it: the lines that leave the bar go down there

/**
 * Where records of the plan have a row: a thin bracket under its bar, below one another, each with a line of its own.
 * @param {Store} store
 * @param {Row} row
 * @param {number} at
 * @param {Scale} scale
 * @returns {Shape[]}
 */
export function plannedShapes(store, row, at, scale) {
  return store.behind.flatMap(({ key, name, style, of }, i) => {
    const dates = of(row);
    if (!dates) return [];
    const [from, to] = [scale.x(dates[0]), scale.x(dates[1])];
    // A milestone is a date: its bracket stands around it.
    const [left, right] = row.kind === "milestone" ? [from - 5, from + 5] : [from, Math.max(to, from + LEAST)];
    const y = band(at, scale) + 29.5 - (i % 2) * 2.5;
    const d = `M${left} ${y - 4.5}V${y}H${right}V${y - 4.5}`;
    const title = {
      key: "title",
      tag: "title",
      at: {},
      text: `${name}: ${span(dayOf(dates[0]), finishDayOf(dates[1]))}`,
    };
    return [{ key: `${row.id}/${key}`, tag: "path", at: { d, class: `planned style-${style}` }, parts: [title] }];
  });
}

/** A dotted tail to the latest finish, with a stop. @param {Row} row @param {number} at @param {Scale} scale @returns {Shape[]} */
export function tailShapes(row, at, scale) {
  if (row.lateFinish === null || row.state === "done") return [];
  const from = Math.max(scale.x(row.finish), scale.x(row.start ?? 0) + LEAST) + 2;
  const to = scale.x(row.lateFinish);
  if (to < from + 4) return [];
  const y = band(at, scale) + 20;
  return [
    { key: `${row.id}/tail`, tag: "path", at: { d: `M${from} ${y}L${to} ${y}`, class: "float-tail" } },
    { key: `${row.id}/stop`, tag: "line", at: { x1: to, y1: y - 4, x2: to, y2: y + 4, class: "float-stop" } },
  ];
}

/** The upper edge of what is drawn of a row. @param {number} at @param {Scale} scale */
export const band = (at, scale) => at * scale.row + (scale.row - LINE) / 2;

/** @param {Row} row @param {number} at @param {Scale} scale */
export function endOf(row, at, scale) {
  const x = Math.max(scale.x(row.finish), scale.x(row.start ?? 0) + (row.kind === "milestone" ? 0 : LEAST));
  return { x: row.kind === "phase" ? x + 6 : x, y: middle(at, scale) };
}

/** @param {Row} row @param {number} at @param {Scale} scale */
export function startOf(row, at, scale) {
  const x = scale.x(row.start ?? 0);
  return { x: row.kind === "phase" ? x - 6 : x, y: middle(at, scale) };
}

/** @param {number} at @param {Scale} scale */
export const middle = (at, scale) => band(at, scale) + 15;

/** @param {Store} store @param {Row} row @param {number} at @param {Scale} scale @returns {Shape} */
export function barShape(store, row, at, scale) {
  const parts = row.kind === "milestone" ? pennant(row, at, scale) : bar(store, row, at, scale);
  /** @type {Shape["at"]} */
  const group = { "data-bar": row.id, tabindex: -1, role: "img", "aria-label": rowSentence(store, row) };
  if (isNear(store, row.id)) group.class = "is-lit";
  const tint = store.view.colour === "state" ? null : tintOf(store, row, store.view.colour);
  if (tint) group[tint.name] = tint.value;
  const label = labelOf(store, row);
  if (label) parts.push(labelShape(label, row, at, scale));
  return { key: row.id, tag: "g", at: group, parts };
}

/** What stands beside a bar, by choice. @param {Store} store @param {Row} row */
export function labelOf(store, row) {
  const { label } = store.view;
  if (label === "none") return "";
  if (label !== "dates") return fieldOf(label).barLabel?.(store, row) ?? "";
  return row.start !== null && row.kind !== "milestone" ? span(dayOf(row.start), lastDayOf(row)) : "";
}

/**
 * Where it begins; behind the date of a milestone, which stands there already.
 * @param {Row} row
 * @param {number} at
 * @param {Scale} scale
 */
export const besideOf = (row, at, scale) =>
  endOf(row, at, scale).x + (row.kind === "milestone" ? Math.max(64, 28 + pennantLabel(row).length * LETTER) : BESIDE);

/** @param {string} label @param {Row} row @param {number} at @param {Scale} scale @returns {Shape} */
function labelShape(label, row, at, scale) {
  return {
    key: "beside",
    tag: "text",
    at: { x: besideOf(row, at, scale), y: band(at, scale) + 19, class: "mark-label beside" },
    text: label,
  };
}

/** @param {Store} store @param {Row} row @param {number} at @param {Scale} scale @returns {Shape[]} */
function bar(store, row, at, scale) {
  const x = scale.x(row.start ?? 0);
  const width = Math.max(LEAST, scale.x(row.finish) - x);
  const y = band(at, scale) + 6;
  const finished = row.state === "done" ? " is-finished" : "";
  const shade = row.state === "ready" ? " is-ready" : row.progress > 0 || row.started ? " is-begun" : "";
  const late = row.state === "overdue" || row.state === "lateToStart" ? " is-late" : "";
  const plum = row.critical ? " sets-finish" : "";
  const guess = row.length.endsWith("?") ? " guess-bar" : "";
  const name = `bar${shade}${late}${plum}${finished}${guess}`;
  const stretches = stretchesOf(row).map(([from, to]) => ({ x: scale.x(from), end: scale.x(to) }));
  /** @type {Shape[]} */ const parts = [];
  if (stretches.length > 1) {
    const thread = { x1: x, y1: y + BAR / 2, x2: x + width, y2: y + BAR / 2, class: `pause${plum}` };
    parts.push({ key: "thread", tag: "line", at: thread });
  }
  stretches.forEach((stretch, i) => {
    const wide = stretches.length > 1 ? Math.max(3, stretch.end - stretch.x) : width;
    parts.push({
      key: i === 0 ? "bar" : `bar${i}`,
      tag: "rect",
      at: { x: stretch.x, y, width: wide, height: BAR, rx: 4, class: name },
    });
    if (row.progress <= 0) return;
    const end = stretch.x + wide;
    const reached = finished ? end : Math.min(scale.x(row.doneTo ?? row.finish), end);
    if (i > 0 && reached <= stretch.x) return;
    const done = Math.max(2, reached - stretch.x - 3);
    const fill = {
      x: stretch.x + 1.5,
      y: y + 1.5,
      width: done,
      height: BAR - 3,
      rx: 2.5,
      class: `bar-done${finished}`,
    };
    parts.push({ key: i === 0 ? "done" : `done${i}`, tag: "rect", at: fill });
  });
  const used = store.used.get(row.id);
  if (used?.share != null) parts.push(usedMark(used, x, width, y));
  if (row.critical) {
    const keel = { x: x + 0.5, y: y + BAR - 3.5, width: width - 1, height: 4, rx: 1.5, class: "keel" };
    parts.push({ key: "keel", tag: "rect", at: keel });
  }
  if (row.fixedSides === "before" || row.fixedSides === "both") parts.push(bracket("from", x - 2, y, -3));
  if (row.fixedSides === "behind" || row.fixedSides === "both") parts.push(bracket("to", x + width + 2, y, 3));
  // Levelling sets a bar down a step.
  if (row.fixedSides === "level")
    parts.push({ key: "from", tag: "path", at: { d: `M${x - 10} ${y + 3}h4v6h4v6`, class: "bracket" } });
  if (row.deadline !== null) parts.push(deadlineMark(row.deadline, row.finish, at, scale));
  return parts;
}

/**
 * How much of the effort is used: a peg that stands on the bar, as far along as the hours are; with a head that is filled where they
 * are further than the work.
 * @param {import("../state/types.js").Used} used
 * @param {number} x
 * @param {number} width
 * @param {number} y
 * @returns {Shape}
 */
function usedMark({ share, isEating, said }, x, width, y) {
  const at = x + Math.min(1, share ?? 0) * width;
  const d = isEating ? `M${at} ${y + 1}l-5 -7h10z` : `M${at} ${y + 1}v-2.5a2.5 2.5 0 1 1 .01 0`;
  const title = { key: "title", tag: "title", at: {}, text: said };
  return { key: "used", tag: "path", at: { d, class: `used-mark${isEating ? " is-eating" : ""}` }, parts: [title] };
}

/** From when to when the work goes on. @param {Row} row @returns {[number, number][]} */
export function stretchesOf(row) {
  if (!row.stretches) return [[row.start ?? 0, row.finish]];
  const times = row.stretches.split(" ").map(Number);
  return times.flatMap((time, i) => (i % 2 === 0 ? [/** @type {[number, number]} */ ([time, times[i + 1]])] : []));
}

/**
 * A stop at the task's own deadline, broken when it is missed.
 * @param {number} deadline
 * @param {number} finish
 * @param {number} at
 * @param {Scale} scale
 * @returns {Shape}
 */
function deadlineMark(deadline, finish, at, scale) {
  const x = scale.x(deadline);
  const y = band(at, scale) + 4;
  const d = `M${x} ${y}v22M${x - 4} ${y}h8`;
  return { key: "deadline", tag: "path", at: { d, class: `deadline-mark${finish > deadline ? " is-missed" : ""}` } };
}

/**
 * Around a bar with a fixed date, as around the date in the list.
 * @param {string} key
 * @param {number} x
 * @param {number} y
 * @param {number} out
 * @returns {Shape}
 */
function bracket(key, x, y, out) {
  const d = `M${x} ${y - 2.5}h${out}v${BAR + 5}h${-out}`;
  return { key, tag: "path", at: { d, class: "bracket" } };
}

/** Its date, and how many of the tasks that serve it are left. @param {Row} row */
const pennantLabel = (row) =>
  row.gathersLeft > 0 ? `${short(lastDayOf(row))} · ${row.gathersLeft} left` : short(lastDayOf(row));

/** A pennant on a mast standing on its date. @param {Row} row @param {number} at @param {Scale} scale @returns {Shape[]} */
function pennant(row, at, scale) {
  const x = scale.x(row.start ?? 0);
  const y = band(at, scale) + 4;
  const name = (row.critical ? " sets-finish" : "") + (row.state === "done" ? " is-finished" : "");
  return [
    { key: "hit", tag: "rect", at: { x: x - 4, y, width: 22, height: 22, fill: "transparent" } },
    { key: "mast", tag: "line", at: { x1: x, y1: y, x2: x, y2: y + 22, class: `mast${name}` } },
    // What others deliver flies a square flag with a hole in it.
    {
      key: "flag",
      tag: "path",
      at: row.deliveredBy
        ? { d: `M${x} ${y + 1}h12v10h-12zM${x + 4} ${y + 4}v4h4v-4z`, class: `pennant is-outside${name}` }
        : { d: `M${x} ${y + 1}h14l-4 5l4 5h-14z`, class: `pennant${name}` },
    },
    {
      key: "label",
      tag: "text",
      at: { x: x + 20, y: y + 11, class: "mark-label" },
      text: pennantLabel(row),
    },
  ];
}

/** Whether a row is the lit one, or linked to it. @param {Store} store @param {string} id */
export function isNear(store, id) {
  const { lit } = store;
  if (lit === null) return false;
  return lit === id || store.linked(lit).has(id);
}
