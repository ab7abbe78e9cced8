// @ts-check
// Month: the same tasks as bars over the days of a month. Dragging a bar moves it, as on the timeline.

/** @import { Store } from "../state/store.js" */
/** @import { Preview } from "../server/preview.js" */
/** @import { Actions } from "../commands/actions.js" */
/** @import { Row } from "../state/types.js" */
import { outsideMark } from "../fields/delivered-by.js";
import { ownerOf } from "../fields/owner.js";
import { rowSentence } from "../list/columns.js";
import { element, quietButton } from "../card/fields.js";
import { listenToHold } from "../timeline/hold.js";
import { firstWeekday } from "../state/view.js";
import { tintOf } from "../fields/tint.js";
import { DAY, dayOf, iso, isoWeek, lastDayOf, monthName, parts, short, usWeek } from "../state/time.js";

/** @param {Store} store @param {Preview} preview @param {Actions} actions @param {HTMLElement} frame @param {(id: string) => void} open */
export function drawMonth(store, preview, actions, frame, open) {
  let first = monthOf(dayOf(store.project.today));
  let drawn = "";
  /** While a bar is held, the sheet stays as it is. */
  let isHeld = false;

  const title = element("h2", { "aria-live": "polite" });
  const sheet = element("div", { class: "month-sheet" });
  const turn = (/** @type {number} */ by) => () => {
    first = monthOf(by > 0 ? first + 31 : first - 1);
    draw();
  };
  frame.append(
    element(
      "div",
      { class: "month-head" },
      quietButton("◂", turn(-1), "The month before"),
      title,
      quietButton("▸", turn(1), "The month after"),
      quietButton("This month", () => {
        first = monthOf(dayOf(store.project.today));
        draw();
      }),
    ),
    sheet,
  );
  store.subscribe(draw);
  draw();

  sheet.addEventListener("click", (event) => {
    const row = rowAt(event.target);
    if (row) open(row.id);
  });
  sheet.addEventListener("keydown", (event) => {
    const row = rowAt(event.target);
    const step = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: 7, ArrowUp: -7 }[event.key];
    if (!row || !step) return;
    event.preventDefault();
    if (event.ctrlKey || event.metaKey) move(row, step);
    else {
      const bars = [...sheet.querySelectorAll("[data-row]")].map((bar) => /** @type {HTMLElement} */ (bar));
      bars[bars.indexOf(/** @type {HTMLElement} */ (event.target)) + Math.sign(step)]?.focus();
    }
  });
  listenToHold(sheet, {
    grab(event) {
      const row = rowAt(event.target);
      const day = dayUnder(event);
      return row && row.start !== null && day !== null ? { row, from: day, day } : null;
    },
    follow(held, event) {
      isHeld = true;
      const day = dayUnder(event);
      if (day === null || day === held.day) return;
      held.day = day;
      mark(held.row, day - held.from);
      preview.ask(day === held.from ? null : editOf(held.row, day - held.from), held.row.id);
    },
    end() {
      isHeld = false;
      for (const cell of sheet.querySelectorAll(".is-target")) cell.classList.remove("is-target");
      preview.end();
    },
    drop({ row, from, day }) {
      if (day !== from) move(row, day - from);
    },
  });

  /** The days where a bar would lie. @param {Row} row @param {number} days later */
  function mark(row, days) {
    const [start, finish] = [dayOf(row.start ?? 0) + days, lastDayOf(row) + days];
    for (const cell of sheet.querySelectorAll("[data-day]")) {
      const at = Number(cell.getAttribute("data-day"));
      cell.classList.toggle("is-target", at >= start && at <= finish);
    }
  }

  /** @param {Row} row @param {number} days */
  const editOf = (row, days) => ({
    type: "placeTask",
    task: row.id,
    start: iso(dayOf(row.start ?? 0) + days),
    pin: false,
  });

  /** @param {Row} row @param {number} days */
  function move(row, days) {
    if (row.start === null) return;
    actions.send(editOf(row, days), row.id, {
      onDone: () =>
        requestAnimationFrame(() =>
          /** @type {HTMLElement | null} */ (sheet.querySelector(`[data-row="${row.id}"]`))?.focus(),
        ),
    });
  }

  /** @param {EventTarget | null} target */
  function rowAt(target) {
    return store.row(/** @type {Element} */ (target).closest("[data-row]")?.getAttribute("data-row"));
  }

  /** @param {PointerEvent} event @returns {number | null} */
  function dayUnder(event) {
    for (const cell of sheet.querySelectorAll("[data-day]")) {
      const box = cell.getBoundingClientRect();
      if (
        event.clientX >= box.left &&
        event.clientX < box.right &&
        event.clientY >= box.top &&
        event.clientY < box.bottom
      )
        return Number(cell.getAttribute("data-day"));
    }
    return null;
  }

  function draw() {
    if (isHeld) return;
    const last = monthOf(first + 31) - 1;
    const begins = firstWeekday(store.view);
    const [from, to] = [first - ((first - begins + 7) % 7), last - ((last - begins + 7) % 7) + 6];
    const rows = store.passing(
      (row) => row.kind !== "phase" && row.start !== null && dayOf(row.start) <= to && lastDayOf(row) >= from,
    );
    const now = JSON.stringify([
      first,
      begins,
      store.view.colour,
      store.view.periods && store.project.periods,
      store.project.today,
      store.closed.length,
      rows.map((row) => [row, ownerOf(store, row)]),
    ]);
    if (now === drawn) return;
    drawn = now;
    title.textContent = monthName(first);
    const focused = /** @type {HTMLElement | null} */ (document.activeElement)?.dataset.row;
    const names = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"]
      .map((_, i, days) => days[(i + begins) % 7])
      .map((day) => element("div", { class: "month-name" }, day));
    const weeks = [];
    for (let day = from; day <= to; day += 7) weeks.push(week(day, rows));
    sheet.replaceChildren(
      element("div", { class: "month-names", "aria-hidden": "true" }, element("div", {}), ...names),
      ...weeks,
    );
    if (focused) /** @type {HTMLElement | null} */ (sheet.querySelector(`[data-row="${focused}"]`))?.focus();
  }

  /** @param {number} begin @param {Row[]} rows */
  function week(begin, rows) {
    const here = rows
      .filter((row) => dayOf(row.start ?? 0) <= begin + 6 && lastDayOf(row) >= begin)
      .sort((a, b) => (a.start ?? 0) - (b.start ?? 0));
    /** By line: the last day that is taken on it. @type {number[]} */ const taken = [];
    const bars = here.map((row) => {
      const [start, finish] = [Math.max(begin, dayOf(row.start ?? 0)), Math.min(begin + 6, lastDayOf(row))];
      let line = taken.findIndex((until) => until < start);
      if (line < 0) line = taken.length;
      taken[line] = finish;
      return bar(row, start - begin, finish - start + 1, line, start > dayOf(row.start ?? 0), finish < lastDayOf(row));
    });
    const days = Array.from({ length: 7 }, (_, i) => dayCell(begin + i, taken.length));
    const count = store.view.weeks === "us" ? usWeek(begin + 6) : isoWeek(begin + 3);
    const number = element("div", { class: "month-week mute", title: `Week ${count}` }, `W${count}`);
    return element(
      "section",
      { class: "month-row", "aria-label": `Week from ${short(begin)}` },
      number,
      ...days,
      ...bars,
    );
  }

  /** @param {number} day @param {number} lines */
  function dayCell(day, lines) {
    const closed = store.closed.find((days) => days.from <= day * DAY && day * DAY < days.to);
    const names = ["month-day"];
    if (closed) names.push("is-closed");
    if (day === dayOf(store.project.today)) names.push("is-today");
    if (monthOf(day) !== first) names.push("is-other");
    const { date } = parts(day);
    const label = element("span", { class: "month-date" }, date === 1 ? short(day) : String(date));
    const cell = element("div", { class: names.join(" "), "data-day": String(day) }, label);
    const periods = store.view.periods ? store.project.periods : [];
    for (const { name, from } of periods.filter((period) => period.from <= day * DAY && day * DAY < period.to)) {
      cell.classList.add("in-period");
      cell.title = name;
      if (from === day * DAY || day % 7 === firstWeekday(store.view))
        cell.append(element("span", { class: "month-closed" }, name));
    }
    if (closed?.name) cell.append(element("span", { class: "month-closed" }, closed.name));
    cell.style.gridColumn = String(((day - firstWeekday(store.view) + 7) % 7) + 2);
    cell.style.gridRow = `1 / ${lines + 3}`;
    return cell;
  }

  /**
   * @param {Row} row
   * @param {number} column
   * @param {number} days
   * @param {number} line
   * @param {boolean} goesOn from the week before
   * @param {boolean} goesBeyond
   */
  function bar(row, column, days, line, goesOn, goesBeyond) {
    const owner = ownerOf(store, row);
    const names = ["month-bar"];
    if (row.kind === "milestone") names.push("is-milestone");
    if (row.critical) names.push("sets-finish");
    if (row.state === "done") names.push("is-finished");
    if (row.state === "overdue" || row.state === "lateToStart") names.push("is-late");
    if (goesOn) names.push("goes-on");
    if (goesBeyond) names.push("goes-beyond");
    const out = element(
      "button",
      {
        type: "button",
        class: names.join(" "),
        "data-row": row.id,
        title: rowSentence(store, row),
      },
      ...(row.kind === "milestone" ? [element("span", { class: "month-flag", "aria-hidden": "true" })] : []),
      ...outsideMark(row),
      element("span", { class: "month-words" }, row.name),
      ...(owner ? [element("span", { class: "mute" }, owner.initials)] : []),
    );
    const tint = store.view.colour === "state" ? null : tintOf(store, row, store.view.colour);
    if (tint) out.setAttribute(tint.name, tint.value);
    out.style.gridColumn = `${column + 2} / span ${days}`;
    out.style.gridRow = String(line + 2);
    return out;
  }
}

/** The first day of the month of a day. @param {number} day */
const monthOf = (day) => day - parts(day).date + 1;
