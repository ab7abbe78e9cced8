// @ts-check
// The dates above the timeline.

/** @import { Project } from "../types.js" */
/** @import { Scale } from "./scale.js" */
/** @import { Shape } from "./svg.js" */
import { dayOf, finishDayOf, monthName, parts, short } from "../time.js";

const WORD = 6.4; // pixels a letter, near enough to keep words apart

/** @param {Project} project @param {Scale} scale @param {number} left @param {number} right @returns {Shape[]} */
export function headShapes(project, scale, left, right) {
  /** @type {Shape[]} */ const shapes = [];
  const first = Math.max(scale.firstDay, scale.firstDay + Math.floor(left / scale.day) - 31);
  const last = Math.min(scale.lastDay, scale.firstDay + Math.ceil(right / scale.day) + 1);
  /** @type {[number, number][]} */ const taken = [];

  const today = dayOf(project.today);
  const tab = scale.xOfDay(today) + scale.day / 2;
  taken.push([tab - 24, tab + 24]);
  shapes.push(
    rect("today-tab", tab - 22, 3, 44, 20, "today-tab", 6),
    text("today-word", tab, 17, "today", "today-word", "middle"),
  );
  if (project.finishBy !== null) {
    const x = scale.xOfDay(finishDayOf(project.finishBy) + 1);
    const clash = Math.abs(x - tab) < 54;
    const from = clash ? Math.max(x, tab + 26) : x - 26;
    taken.push([from - 2, from + 54]);
    shapes.push(text("deadline-word", from, 17, "deadline", "deadline-word", "start"));
  }
  // Months give way to the two words above, which say more.
  for (let day = first; day <= last; day++) {
    const { date, weekday } = parts(day);
    if (date === 1 || day === first) month(day);
    if (scale.name === "days") dayTick(day, weekday, date);
    else if (weekday === 0 && scale.name === "weeks") tick(day, short(day));
    else if (date === 1 && scale.name === "months") tick(day, "");
  }
  return shapes;

  /** @param {number} day */
  function month(day) {
    const name = monthName(day);
    const start = scale.xOfDay(day);
    const inNext = day - parts(day).date + 32;
    const next = scale.xOfDay(inNext - parts(inNext).date + 1);
    let x = Math.max(start, left) + 5;
    const width = name.length * WORD + 8;
    for (const [from, to] of taken.toSorted((a, b) => a[0] - b[0])) if (x < to && x + width > from) x = to + 6;
    if (x + width >= next) return;
    shapes.push(text(`m${day}`, x, 17, name, "month", "start"));
    taken.push([x, x + width]);
  }

  /** @param {number} day @param {string} label */
  function tick(day, label) {
    const x = scale.xOfDay(day);
    shapes.push(line(`t${day}`, x, 26, x, 46));
    if (label) shapes.push(text(`w${day}`, x + 5, 40, label, "", "start"));
  }

  /** @param {number} day @param {number} weekday @param {number} date */
  function dayTick(day, weekday, date) {
    const x = scale.xOfDay(day);
    shapes.push(line(`t${day}`, x, weekday === 0 ? 26 : 32, x, 46));
    shapes.push(text(`w${day}`, x + scale.day / 2, 40, `${"MTWTFSS"[weekday]} ${date}`, "", "middle"));
  }
}

/** @param {string} key @param {number} x @param {number} y @param {string} words @param {string} name @param {string} anchor @returns {Shape} */
const text = (key, x, y, words, name, anchor) => ({
  key,
  tag: "text",
  at: { x, y, class: name, "text-anchor": anchor },
  text: words,
});

/** @param {string} key @param {number} x @param {number} y @param {number} width @param {number} height @param {string} name @param {number} rx @returns {Shape} */
const rect = (key, x, y, width, height, name, rx) => ({
  key,
  tag: "rect",
  at: { x, y, width, height, rx, class: name },
});

/** @param {string} key @param {number} x1 @param {number} y1 @param {number} x2 @param {number} y2 @returns {Shape} */
const line = (key, x1, y1, x2, y2) => ({ key, tag: "line", at: { x1, y1, x2, y2, class: "grid-line" } });
