// @ts-check
// One rule across the header: start, progress, today, finish, deadline, days to spare.

/** @import { Store } from "../state/store.js" */
import { dayOf, finishDayOf, short, withWeekday } from "../state/time.js";

/** @param {Store} store */
export function drawGauge(store) {
  const gauge = /** @type {HTMLElement} */ (document.getElementById("gauge"));
  const title = /** @type {HTMLElement} */ (document.getElementById("project-name"));
  let drawn = "";
  let width = 0;
  let typeface = "";
  new ResizeObserver(() => {
    width = gauge.clientWidth;
    const { fontSize, fontFamily } = getComputedStyle(gauge);
    typeface = `${fontSize} ${fontFamily}`;
    store.changed();
  }).observe(gauge);
  // Words have their real width only once the typeface is loaded.
  document.fonts.addEventListener("loadingdone", () => {
    drawn = "";
    store.changed();
  });
  store.subscribe(() => {
    const { version, ...facts } = store.project;
    const now = JSON.stringify([facts, width, store.rows.length === 0]);
    if (now === drawn || width === 0) return;
    drawn = now;
    if (title.textContent !== facts.name) title.textContent = facts.name;
    draw(gauge, store, width, typeface);
  });
}

/** @param {HTMLElement} gauge @param {Store} store @param {number} width of the gauge, in pixels @param {string} typeface and its size */
function draw(gauge, store, width, typeface) {
  const { start, finish, finishBy, fromFinish, today, progress, spare, isLate, fromToday, spareFromToday } =
    store.project;
  const isEmpty = store.rows.length === 0;
  const end = Math.max(finish, finishBy ?? 0, fromToday ?? 0, start + 1440);
  const at = (/** @type {number} */ time) => (100 * (time - start)) / (end - start);
  const planned = isEmpty ? "" : `Finish ${withWeekday(finishDayOf(finish))}`;
  const due = finishBy === null ? "" : `Deadline ${short(finishDayOf(finishBy))} · ${spare}`;
  const texts = {
    start: `${fromFinish ? "Latest start" : "Starts"} ${short(dayOf(start))}`,
    done: isEmpty ? "" : `${Math.floor(progress)}% done`,
    finish: isEmpty || fromToday === null ? planned : `${planned} · ${withWeekday(finishDayOf(fromToday))} from today`,
    deadline: finishBy === null || spareFromToday === null ? due : `${due} · ${spareFromToday} from today`,
  };
  const said = { ...texts, ...(fromToday === null ? {} : { ahead: "“from today” is if what is left starts today" }) };
  const middle = today + 720;
  const isNow = middle > start && middle < end;
  gauge.setAttribute(
    "aria-label",
    Object.values(said).filter(Boolean).join(", ") + (isNow ? `, today ${short(dayOf(today))}` : ""),
  );
  const done = part("gauge-done");
  done.style.width = `${(at(finish) * progress) / 100}%`;
  gauge.replaceChildren(part("gauge-rule"), done);
  if (isNow) tick("gauge-today", at(middle));
  if (!isEmpty) tick("gauge-finish-tick", at(finish));
  if (fromToday !== null) tick("gauge-ahead-tick", at(fromToday));
  if (finishBy !== null) tick("gauge-deadline-tick", at(finishBy));
  // Text is measured without asking the page, which would force a layout.
  let wide = widths(typeface, texts);
  // If there is no room for both finishes, only the label says the second.
  if (fromToday !== null && wide.start + wide.done + wide.finish + 3 * GAP > width) texts.finish = planned;
  if (spareFromToday !== null && wide.deadline > width) texts.deadline = due;
  wide = widths(typeface, texts);
  const places = settle(width, wide, at(finish) * (progress / 100), at(finish));
  // Its tick says so as well, where the word would lie under the deadline.
  if (isNow && !(places.isBelow && (width * at(middle)) / 100 + TODAY_WORD > width - wide.deadline))
    label("today", at(middle), "gauge-start below", "middle");
  label(texts.start, 0, "gauge-start", "left");
  if (texts.deadline) label(texts.deadline, 100, places.name(isLate ? "late" : "gauge-start"), "right");
  label(texts.done, 0, "gauge-percent", "left").style.left = `${places.done}px`;
  const finishes = label(texts.finish, 0, "gauge-finish", "left");
  finishes.style.left = `${places.finish}px`;
  if (fromToday !== null) finishes.title = "As planned, and if what is left starts today";

  /** @param {string} name */
  function part(name) {
    const element = document.createElement("div");
    element.className = name;
    return element;
  }

  /** @param {string} name @param {number} percent */
  function tick(name, percent) {
    const element = part(`gauge-tick ${name}`);
    element.style.left = `${percent}%`;
    gauge.append(element);
  }

  /** @param {string} text @param {number} percent @param {string} name @param {"left" | "middle" | "right"} hold */
  function label(text, percent, name, hold) {
    const element = part(`gauge-label ${name}`);
    element.textContent = text;
    if (hold === "right") element.style.right = "0";
    else element.style.left = `${percent}%`;
    if (hold === "middle") element.style.translate = "-50%";
    gauge.append(element);
    return element;
  }
}

/** @typedef {{ start: number, done: number, finish: number, deadline: number }} Widths pixels; 0 where nothing is written */

/** Pixels between two words. */
const GAP = 14;

/** Pixels that the word takes to the right of its tick, with some space. */
const TODAY_WORD = 30;

/** What words are measured with. @type {CanvasRenderingContext2D | null} */
let pen = null;

/** @param {string} typeface @param {Record<keyof Widths, string>} texts @returns {Widths} */
function widths(typeface, { start, done, finish, deadline }) {
  pen ??= document.createElement("canvas").getContext("2d");
  /** @param {string} text @param {number} weight */
  const wide = (text, weight) => {
    if (!pen || text === "") return 0;
    pen.font = `${weight} ${typeface}`;
    return pen.measureText(text).width;
  };
  return { start: wide(start, 400), done: wide(done, 700), finish: wide(finish, 700), deadline: wide(deadline, 400) };
}

/**
 * Puts the two middle labels near their marks without touching the outer ones.
 * @param {number} width
 * @param {Widths} wide
 * @param {number} doneAt percent
 * @param {number} finishAt percent
 */
export function settle(width, wide, doneAt, finishAt) {
  const all = wide.start + wide.done + wide.finish + wide.deadline + (wide.deadline ? 4 : 3) * GAP;
  // Where there is no room for all of them in a line, the deadline goes under the rule.
  const isBelow = wide.deadline > 0 && all > width;
  const last = width - (wide.deadline && !isBelow ? wide.deadline + GAP : 0);
  const finishLeft = Math.min((width * finishAt) / 100 - wide.finish / 2, last - wide.finish);
  const first = wide.start + GAP;
  const done = Math.max(first, Math.min((width * doneAt) / 100, finishLeft - wide.done - GAP));
  return {
    isBelow,
    done,
    finish: Math.max(finishLeft, done + wide.done + GAP),
    name: (/** @type {string} */ name) => (isBelow ? `${name} below` : name),
  };
}
