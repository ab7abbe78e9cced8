// @ts-check
// The dates above the timeline.

/** @import { Project } from "../state/types.js" */
/** @import { Scale } from "./scale.js" */
/** @import { Shape } from "./svg.js" */
import { DAY, dayOf, finishDayOf, isoWeek, monthName, parts, short, usWeek, withWeekday } from "../state/time.js";

const WORD = 6.4; // pixels a letter, near enough to keep words apart

/**
 * @param {Project} project
 * @param {Scale} scale
 * @param {number} left
 * @param {number} right
 * @param {"dates" | "iso" | "us"} [weeks]
 * @param {number} [begins] the day of the week, from Monday, that weeks begin with
 * @returns {Shape[]}
 */
export function headShapes(project, scale, left, right, weeks = "dates", begins = 0) {
  // Numbered weeks begin where their numbering has it.
  const firstOfWeek = weeks === "us" ? 6 : weeks === "iso" ? 0 : begins;
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
    const { date, weekday, month: inYear } = parts(day);
    if (scale.name === "years") {
      if ((date === 1 && inYear === 0) || day === first) title(day, String(parts(day).year), yearEnd(day));
      if (date === 1 && inYear % 3 === 0) tick(day, scale.day > 0.6 ? `Q${inYear / 3 + 1}` : "");
      continue;
    }
    if (scale.name === "hours" ? weekday === firstOfWeek || day === first : date === 1 || day === first) {
      if (scale.name === "hours") title(day, monthName(day), scale.xOfDay(day - ((weekday - firstOfWeek + 7) % 7) + 7));
      else title(day, monthName(day), monthEnd(day));
    }
    if (scale.name === "hours") hours(day);
    else if (scale.name === "days") dayTick(day, weekday, date);
    else if (scale.name === "weeks" || (scale.name === "months" && scale.day * 7 > 24)) week(day, weekday);
    else if (date === 1) tick(day, "");
  }
  return shapes;

  /** @param {number} day @param {string} name @param {number} next where the next one begins */
  function title(day, name, next) {
    let x = Math.max(scale.xOfDay(day), left) + 5;
    const width = name.length * WORD + 8;
    for (const [from, to] of taken.toSorted((a, b) => a[0] - b[0])) if (x < to && x + width > from) x = to + 6;
    if (x + width >= next) return;
    shapes.push(text(`m${day}`, x, 17, name, "month", "start"));
    taken.push([x, x + width]);
  }

  /** @param {number} day */
  function monthEnd(day) {
    const inNext = day - parts(day).date + 32;
    return scale.xOfDay(inNext - parts(inNext).date + 1);
  }

  /** @param {number} day */
  function yearEnd(day) {
    let next = day + 1;
    while (parts(next).year === parts(day).year) next += 1;
    return scale.xOfDay(next);
  }

  /** A week by its first day or by its number. @param {number} day @param {number} weekday */
  function week(day, weekday) {
    if (weekday !== firstOfWeek) return;
    const room = scale.day * 7;
    const name = weeks === "dates" ? short(day) : `W${weeks === "iso" ? isoWeek(day) : usWeek(day)}`;
    tick(day, name.length * WORD + 6 < room ? name : "");
  }

  /** The hours of a working day, as many as there is room for. @param {number} day */
  function hours(day) {
    const x = scale.xOfDay(day);
    shapes.push(line(`t${day}`, x, 22, x, 46));
    const count = (scale.dayEnd - scale.dayStart) / 60;
    const step = [1, 2, 3, 4, 6, 12].find((every) => (scale.day / count) * every > 44) ?? 12;
    shapes.push(text(`w${day}`, x + 5, 40, withWeekday(day), "day-word", "start"));
    for (let hour = Math.ceil(scale.dayStart / 60) + step; hour < scale.dayEnd / 60; hour += step) {
      const at = scale.x(day * DAY + hour * 60);
      if (at - x < 76) continue;
      shapes.push(
        line(`t${day}/${hour}`, at, 36, at, 46),
        text(`h${day}/${hour}`, at + 3, 40, `${hour}:00`, "", "start"),
      );
    }
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
    shapes.push(line(`t${day}`, x, weekday === firstOfWeek ? 26 : 32, x, 46));
    shapes.push(text(`w${day}`, x + scale.day / 2, 40, `${"MTWTFSS"[weekday]} ${date}`, "", "middle"));
  }
}

/**
 * @param {string} key
 * @param {number} x
 * @param {number} y
 * @param {string} words
 * @param {string} name
 * @param {string} anchor
 * @returns {Shape}
 */
const text = (key, x, y, words, name, anchor) => ({
  key,
  tag: "text",
  at: { x, y, class: name, "text-anchor": anchor },
  text: words,
});

/**
 * @param {string} key
 * @param {number} x
 * @param {number} y
 * @param {number} width
 * @param {number} height
 * @param {string} name
 * @param {number} rx
 * @returns {Shape}
 */
const rect = (key, x, y, width, height, name, rx) => ({
  key,
  tag: "rect",
  at: { x, y, width, height, rx, class: name },
});

/** @param {string} key @param {number} x1 @param {number} y1 @param {number} x2 @param {number} y2 @returns {Shape} */
const line = (key, x1, y1, x2, y2) => ({ key, tag: "line", at: { x1, y1, x2, y2, class: "grid-line" } });
