// @ts-check
// From a schedule and a viewport to shapes. Pure: what it draws depends on nothing else.

/** @import { Store } from "../state/store.js" */
/** @import { Row, Link } from "../state/types.js" */
/** @import { Scale } from "./scale.js" */
/** @import { Shape } from "./svg.js" */
import { firstWeekday } from "../state/view.js";
import { dayOf, finishDayOf } from "../state/time.js";
import {
  band,
  BAR,
  barShape,
  besideOf,
  endOf,
  labelOf,
  LEAST,
  LETTER,
  plannedShapes,
  startOf,
  tailShapes,
} from "./bar-shapes.js";
import { Between } from "./between.js";
import { linkPath, sideLinkPath } from "./link-path.js";

const TALL = 1200; // pixels in steps of which that is drawn what goes all the way down
const MARK = 5; // the least width of days off that is still worth hatching

/**
 * @typedef {{ first: number, last: number, left: number, right: number, height: number, bottom: number, seen: number }} Viewport rows and
 * pixels in sight, with some around; the bottom and what is seen are the lower and the left edge without
 */

/**
 * @param {Store} store
 * @param {Scale} scale
 * @param {Viewport} view
 * @returns {Record<"back" | "trays" | "planned" | "tails" | "links" | "names" | "bars" | "knobs" | "ghosts", Shape[]>}
 */
export function bodyShapes(store, scale, view) {
  const rows = store.shown.slice(view.first, view.last).map((row, i) => ({ row, at: view.first + i }));
  const bars = rows.filter(({ row }) => row.start !== null && row.kind !== "phase");
  const { bands, names } = bandShapes(store, scale, view);
  return {
    back: backShapes(store, scale, view, bands),
    trays: trayShapes(store, scale, view),
    planned: rows.flatMap(({ row, at }) => plannedShapes(store, row, at, scale)),
    tails: bars.flatMap(({ row, at }) => tailShapes(row, at, scale)),
    links: linkShapes(store, scale, view),
    names,
    bars: bars.map(({ row, at }) => barShape(store, row, at, scale)),
    knobs: knobShapes(store, scale),
    ghosts: [...ghostShapes(store, scale), ...dropShapes(store, scale, view)],
  };
}

/**
 * From where to where what goes all the way down is drawn: no further than what may come into sight soon, since all of it is painted.
 * @param {Scale} scale
 * @param {Viewport} view
 */
function upright(scale, { first, last, bottom, height }) {
  const y = Math.floor((first * scale.row) / TALL) * TALL;
  return { y, height: Math.min(height, Math.ceil((Math.max(last * scale.row, bottom) + 1) / TALL) * TALL) - y };
}

/** @param {Store} store @param {Scale} scale @param {Viewport} view @param {Shape[]} bands @returns {Shape[]} */
function backShapes(store, scale, view, bands) {
  /** @type {Shape[]} */ const shapes = [];
  const { y, height } = upright(scale, view);
  for (const { from, to, name } of store.closed) {
    const x = scale.xOfDay(dayOf(from));
    const width = scale.xOfDay(dayOf(to)) - x;
    if (x > view.right || x + width < view.left || width < MARK) continue;
    const parts = name ? [{ key: "name", tag: "title", at: {}, text: name }] : [];
    shapes.push({ key: `c${from}`, tag: "rect", at: { x, y, width, height, class: "closed" }, parts });
  }
  shapes.push(...bands);
  const firstDay = Math.max(scale.firstDay, scale.firstDay + Math.floor(view.left / scale.day / 7) * 7);
  for (let day = firstDay + firstWeekday(store.view); scale.day > 6 && scale.xOfDay(day) < view.right; day += 7) {
    const x = scale.xOfDay(day);
    shapes.push({ key: `g${day}`, tag: "line", at: { x1: x, y1: y, x2: x, y2: y + height, class: "grid-line" } });
  }
  for (let at = view.first; at < view.last; at++) {
    const line = (at + 1) * scale.row - 0.5;
    shapes.push({
      key: `r${at}`,
      tag: "line",
      at: { x1: view.left, y1: line, x2: view.right, y2: line, class: "row-line" },
    });
  }
  const today = scale.xOfDay(dayOf(store.project.today));
  shapes.push({
    key: "today",
    tag: "rect",
    at: { x: today, y, width: Math.max(3, scale.day), height, class: "today-column" },
  });
  if (store.project.finishBy !== null) {
    const x = scale.xOfDay(finishDayOf(store.project.finishBy) + 1);
    shapes.push({ key: "deadline", tag: "line", at: { x1: x, y1: y, x2: x, y2: y + height, class: "deadline-line" } });
  }
  return shapes;
}

/**
 * Named periods and other projects, as soft bands behind the rows, with their names at the foot of what is in sight.
 * @param {Store} store @param {Scale} scale @param {Viewport} view @returns {{ bands: Shape[], names: Shape[] }}
 */
function bandShapes(store, scale, view) {
  /** @type {Shape[]} */ const bands = [];
  /** @type {Shape[]} */ const names = [];
  /**
   * @param {string} key
   * @param {string} name
   * @param {[number, number]} ends
   * @param {{ y: number, height: number, class: string }} looks
   * @param {number} line
   */
  const add = (key, name, [x, end], looks, line) => {
    if (x > view.right || end < view.left) return;
    const from = Math.max(x, view.left);
    const band = { x: from, width: Math.max(3, Math.min(end, view.right) - from), ...looks };
    bands.push({ key, tag: "rect", at: band });
    names.push({ key, tag: "text", at: { x: Math.max(x, view.seen) + 6, y: line, class: "band-name" }, text: name });
  };
  if (store.view.periods)
    store.project.periods.forEach(({ name, from, to }, i) => {
      const ends = /** @type {[number, number]} */ ([scale.xOfDay(dayOf(from)), scale.xOfDay(dayOf(to))]);
      add(`p${i}`, name, ends, { ...upright(scale, view), class: "period" }, view.bottom - 10 - (i % 2) * 16);
    });
  if (store.view.others)
    store.others.forEach(({ id, name, start, finish }, i) => {
      const y = view.bottom - 62 - i * 24;
      add(`o${id}`, name, [scale.x(start), scale.x(finish)], { y, height: 20, class: "other" }, y + 14);
    });
  return { bands, names };
}

/** The names of the bands alone. @param {Store} store @param {Scale} scale @param {Viewport} view */
export const bandNames = (store, scale, view) => bandShapes(store, scale, view).names;

/** @param {Store} store @param {Scale} scale @param {Viewport} view @returns {Shape[]} */
function trayShapes(store, scale, view) {
  /** @type {Shape[]} */ const shapes = [];
  for (const { row, at, last } of store.shownPhases) {
    if (row.start === null || at >= view.last || last < view.first) continue;
    const inset = 3 * row.level;
    const left = scale.x(row.start) - 6 + inset;
    const right = Math.max(scale.x(row.finish), scale.x(row.start) + LEAST) + 6 - inset;
    const top = at * scale.row + 3;
    shapes.push({
      key: row.id,
      tag: "rect",
      at: { x: left, y: top, width: right - left, height: (last - at + 1) * scale.row - 6, rx: 8, class: "tray" },
    });
    const rule = { y: top + 10, height: 4, rx: 2 };
    const width = right - left - 12;
    shapes.push({
      key: `${row.id}/rule`,
      tag: "rect",
      at: { ...rule, x: left + 6, width: Math.max(2, width), class: "tray-rule" },
    });
    if (row.progress > 0) {
      const done = { ...rule, x: left + 6, width: Math.max(2, (width * row.progress) / 100), class: "tray-done" };
      shapes.push({ key: `${row.id}/done`, tag: "rect", at: done });
    }
    // Its own row, with the rule in it, is what it is taken by.
    shapes.push({
      key: `${row.id}/grip`,
      tag: "rect",
      at: { x: left, y: top, width: right - left, height: scale.row - 6, class: "tray-grip", "data-phase": row.id },
    });
    if (last === at && store.view.folded.includes(row.id)) shapes.push(...insideMarks(store, row, at, scale));
  }
  return shapes;
}

/**
 * What a folded phase holds, as thin marks on its line.
 * @param {Store} store
 * @param {Row} phase
 * @param {number} at
 * @param {Scale} scale
 * @returns {Shape[]}
 */
function insideMarks(store, phase, at, scale) {
  const first = store.position.get(phase.id) ?? 0;
  return store.rows.slice(first + 1, store.lastInside(first) + 1).flatMap((row) => {
    if (row.kind === "phase" || row.start === null) return [];
    const x = scale.x(row.start);
    const name = `inside-mark${row.critical ? " sets-finish" : ""}${row.state === "done" ? " is-finished" : ""}`;
    const width = row.kind === "milestone" ? 3 : Math.max(3, scale.x(row.finish) - x - 1);
    const rect = { x, y: band(at, scale) + 19, width, height: row.kind === "milestone" ? 6 : 4, rx: 1.5, class: name };
    return [{ key: `${phase.id}/${row.id}`, tag: "rect", at: rect }];
  });
}

/** @param {Store} store @param {Scale} scale @param {Viewport} view @returns {Shape[]} */
function linkShapes(store, scale, view) {
  /** @type {Shape[]} */ const shapes = [];
  /** By line. @type {Map<number, import("./between.js").Extent>} */ const extents = new Map();
  const extentOf = (/** @type {number} */ line) => {
    let extent = extents.get(line);
    if (extent === undefined) extents.set(line, (extent = extentAt(store, line, scale)));
    return extent;
  };
  for (const { link, from, to } of store.shownLinks) {
    if (Math.max(from, to) < view.first || Math.min(from, to) >= view.last) continue;
    const [before, after] = [store.shown[from], store.shown[to]];
    if (before.start === null || after.start === null) continue;
    const between = new Between(from, to, scale.row, extentOf);
    const path = pathOf(link, [before, from], [after, to], scale, between);
    const lit = store.lit === link.from || store.lit === link.to ? " is-lit" : "";
    const name = (link.setsFinish ? " sets-finish" : "") + lit;
    const key = `${link.from}>${link.to}`;
    shapes.push({ key: `${key}/hit`, tag: "path", at: { d: path.path, class: "link-hit", "data-link": key } });
    shapes.push({ key, tag: "path", at: { d: path.path, class: `link${name}` } });
    shapes.push({ key: `${key}/arrow`, tag: "path", at: { d: path.arrow, class: `arrow${name}` } });
  }
  return shapes;
}

/**
 * From where to where a bar and what stands beside it are drawn.
 * @param {Store} store
 * @param {number} line
 * @param {Scale} scale
 * @returns {import("./between.js").Extent}
 */
function extentAt(store, line, scale) {
  const row = store.shown[line];
  if (row.start === null || row.kind === "phase") return null;
  const end = endOf(row, line, scale).x;
  const label = labelOf(store, row);
  const beside = besideOf(row, line, scale);
  return [
    startOf(row, line, scale).x,
    label ? beside + label.length * LETTER : row.kind === "milestone" ? beside : end,
  ];
}

/** @param {Link} link @param {[Row, number]} before @param {[Row, number]} after @param {Scale} scale @param {Between} between */
function pathOf({ kind }, before, after, scale, between) {
  const fromStart = kind === "startToStart" || kind === "startToFinish";
  const toFinish = kind === "finishToFinish" || kind === "startToFinish";
  const from = fromStart ? startOf(...before, scale) : endOf(...before, scale);
  const to = toFinish ? endOf(...after, scale) : startOf(...after, scale);
  return fromStart || toFinish
    ? sideLinkPath(from, to, fromStart, toFinish, between)
    : linkPath(from, to, after[0].kind === "task", between);
}

/**
 * What the lit bar can be grabbed by: links from either end, and how far it is.
 * @param {Store} store
 * @param {Scale} scale
 * @returns {Shape[]}
 */
function knobShapes(store, scale) {
  const row = store.row(store.lit);
  const at = store.line.get(store.lit ?? "");
  if (!row || at === undefined || row.start === null || row.kind === "phase" || store.ghosts.length > 0) return [];
  const [from, to] = [startOf(row, at, scale).x, endOf(row, at, scale).x];
  const end = row.kind === "milestone" ? to + 16 : to;
  const y = band(at, scale) + 15;
  const of = { "data-knob-of": row.id };
  /** @param {string} key @param {number} cx @param {string} title @returns {Shape} */
  const knob = (key, cx, title) => ({
    key,
    tag: "circle",
    at: { ...of, cx, cy: y, r: 5, class: "knob", "data-knob": key },
    parts: [{ key: "title", tag: "title", at: {}, text: title }],
  });
  const knobs = [
    knob("start", from - 9, "Draw a link from the start"),
    knob("finish", end + 9, "Draw a link from the finish"),
  ];
  if (row.kind === "task" && to - from > 14) {
    const x = row.progress <= 0 ? from : row.doneTo === null ? to : Math.min(to, scale.x(row.doneTo));
    const d = `M${x - 5} ${y + 15}l5 -7l5 7z`;
    const title = { key: "title", tag: "title", at: {}, text: "Drag to say how far it is" };
    knobs.push({
      key: "progress",
      tag: "path",
      at: { ...of, d, class: "knob", "data-knob": "progress" },
      parts: [title],
    });
  }
  return knobs;
}

/**
 * Where dragged rows would go, and the link that is being drawn.
 * @param {Store} store
 * @param {Scale} scale
 * @param {Viewport} view
 * @returns {Shape[]}
 */
function dropShapes(store, scale, view) {
  /** @type {Shape[]} */ const shapes = [];
  const { drop, thread } = store;
  if (drop) {
    const y = drop.line * scale.row;
    const at = drop.into
      ? { x: view.left, y: y + 1, width: view.right - view.left, height: scale.row - 2, class: "drop-into" }
      : { x: view.left, y: y - 1.5, width: view.right - view.left, height: 3, class: "drop-line" };
    shapes.push({ key: "drop", tag: "rect", at });
  }
  if (thread) {
    const { lands, ...ends } = thread;
    shapes.push({ key: "thread", tag: "line", at: { ...ends, class: `thread${lands ? " lands" : ""}` } });
  }
  return shapes;
}

/** @param {Store} store @param {Scale} scale @returns {Shape[]} */
function ghostShapes(store, scale) {
  return store.ghosts.flatMap(({ id, line, start, finish, dragged }) => {
    const at = line ?? store.line.get(id);
    if (at === undefined) return [];
    const x = scale.x(start);
    const width = Math.max(LEAST, scale.x(finish) - x);
    const name = `ghost${dragged ? " is-dragged" : ""}`;
    return [{ key: id, tag: "rect", at: { x, y: band(at, scale) + 6, width, height: BAR, rx: 4, class: name } }];
  });
}
