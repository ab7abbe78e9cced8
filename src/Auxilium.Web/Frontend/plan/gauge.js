// @ts-check
// One rule across the header: start, progress, today, finish, deadline, days to spare.

/** @import { Store } from "./store.js" */
import { dayOf, finishDayOf, short, withWeekday } from "./time.js";

/** @param {Store} store */
export function drawGauge(store) {
  const gauge = /** @type {HTMLElement} */ (document.getElementById("gauge"));
  const title = /** @type {HTMLElement} */ (document.getElementById("project-name"));
  let drawn = "";
  let width = 0;
  new ResizeObserver(() => {
    width = gauge.clientWidth;
    store.changed();
  }).observe(gauge);
  store.subscribe(() => {
    const now = JSON.stringify([store.project, width, store.rows.length === 0]);
    if (now === drawn) return;
    drawn = now;
    title.textContent = store.project.name;
    draw(gauge, store);
  });
}

/** @param {HTMLElement} gauge @param {Store} store */
function draw(gauge, store) {
  const { start, finish, finishBy, fromFinish, today, progress, spare, isLate } = store.project;
  const isEmpty = store.rows.length === 0;
  const end = Math.max(finish, finishBy ?? 0, start + 1440);
  const at = (/** @type {number} */ time) => (100 * (time - start)) / (end - start);
  const texts = {
    start: `${fromFinish ? "Latest start" : "Starts"} ${short(dayOf(start))}`,
    done: isEmpty ? "" : `${Math.floor(progress)} % done`,
    finish: isEmpty ? "" : `Finish ${withWeekday(finishDayOf(finish))}`,
    deadline: finishBy === null ? "" : `Deadline ${short(finishDayOf(finishBy))} · ${spare}`,
  };
  const middle = today + 720;
  const isNow = middle > start && middle < end;
  gauge.setAttribute(
    "aria-label",
    Object.values(texts).filter(Boolean).join(", ") + (isNow ? `, today ${short(dayOf(today))}` : ""),
  );
  const done = part("gauge-done");
  done.style.width = `${(at(finish) * progress) / 100}%`;
  gauge.replaceChildren(part("gauge-rule"), done);
  if (isNow) {
    tick("gauge-today", at(middle));
    label("today", at(middle), "gauge-start below", "middle");
  }
  if (!isEmpty) tick("gauge-finish-tick", at(finish));
  if (finishBy !== null) tick("gauge-deadline-tick", at(finishBy));
  const startLabel = label(texts.start, 0, "gauge-start", "left");
  const deadline = texts.deadline ? label(texts.deadline, 100, isLate ? "late" : "gauge-start", "right") : null;
  const percent = label(texts.done, 0, "gauge-percent", "left");
  const finishLabel = label(texts.finish, 0, "gauge-finish", "left");
  settle(gauge.clientWidth, startLabel, percent, finishLabel, deadline, at(finish) * (progress / 100), at(finish));

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

/** Puts the two middle labels near their marks without touching the outer ones. @param {number} width @param {HTMLElement} start @param {HTMLElement} percent @param {HTMLElement} finish @param {HTMLElement | null} deadline @param {number} doneAt @param {number} finishAt */
function settle(width, start, percent, finish, deadline, doneAt, finishAt) {
  const gap = 14;
  const all = [start, percent, finish, deadline].reduce((sum, label) => sum + (label ? label.offsetWidth + gap : 0), 0);
  // Where there is no room for all of them in a line, the deadline goes under the rule.
  if (deadline && all > width) {
    deadline.classList.add("below");
    deadline = null;
  }
  const last = width - (deadline ? deadline.offsetWidth + gap : 0);
  const finishLeft = Math.min((width * finishAt) / 100 - finish.offsetWidth / 2, last - finish.offsetWidth);
  const first = start.offsetWidth + gap;
  const percentLeft = Math.max(first, Math.min((width * doneAt) / 100, finishLeft - percent.offsetWidth - gap));
  percent.style.left = `${percentLeft}px`;
  finish.style.left = `${Math.max(finishLeft, percentLeft + percent.offsetWidth + gap)}px`;
}
