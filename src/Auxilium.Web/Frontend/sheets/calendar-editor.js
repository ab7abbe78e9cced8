// @ts-check
// The calendars of a plan: which there are, and one of them with its week, its days off and its year.

/** @import { PlanClient } from "./client.js" */
import { choiceField, element, quietButton, textField } from "../plan/card/fields.js";
import { dayFrom, withYear } from "../plan/state/time.js";
import { yearSheet } from "./year.js";

/** @typedef {{ from: string, to: string, name: string, work: string[] }} Exception */
/** @typedef {{ id: string, name: string, base: string | null, week: Record<string, string[]>, exceptions: Exception[] }} PlanCalendar */

const WEEK = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"];
const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

export class CalendarEditor {
  #client;
  /** Made anew at each drawing, so that what it held can be kept. */ #frame = element("div", { class: "calendars" });
  /** @type {PlanCalendar[]} */ #calendars = [];
  /** @type {string | null} */ #project = null;
  /** @type {string | null} */ #open = null;
  #year;

  /** @param {PlanClient} client */
  constructor(client) {
    this.#client = client;
    this.#year = Number(client.today.slice(0, 4));
  }

  /** @param {PlanCalendar[]} calendars @param {string | null} project the one that the project goes by */
  draw(calendars, project) {
    this.#calendars = calendars;
    this.#project = project;
    if (!calendars.some((c) => c.id === this.#open))
      this.#open = calendars.find((c) => c.id === project)?.id ?? calendars[0]?.id ?? null;
    this.#frame = element("div", { class: "calendars" });
    this.#fill();
    return this.#frame;
  }

  #fill() {
    const calendar = this.#calendars.find((c) => c.id === this.#open);
    const tabs = element("div", { class: "calendar-tabs", role: "group", "aria-label": "Calendars" });
    for (const { id, name } of this.#calendars) {
      const button = quietButton(id === this.#project ? `${name} (the project’s)` : name, () => this.#choose(id));
      button.setAttribute("aria-pressed", String(id === this.#open));
      tabs.append(button);
    }
    this.#frame.replaceChildren(tabs, this.#maker());
    if (calendar) this.#frame.append(this.#sheet(calendar));
    else
      this.#frame.append(
        element(
          "p",
          { class: "empty" },
          "The project goes by plain weekdays, 9 to 1 and 2 to 6. Make a calendar to change that.",
        ),
      );
  }

  /** @param {string} id */
  #choose(id) {
    this.#open = id;
    this.#fill();
  }

  #maker() {
    const frame = element("div", { class: "calendar-new" });
    void fetch("/api/v1/calendars/ready-made")
      .then((answer) => answer.json())
      .then((/** @type {PlanCalendar[]} */ ready) => {
        /** @type {[string, string][]} */
        const options = [
          ["", "choose one to begin from"],
          ...ready.map((c) => /** @type {[string, string]} */ ([c.id, c.name])),
        ];
        frame.append(
          choiceField("New calendar", options, "", (id, tell) => {
            const chosen = ready.find((c) => c.id === id);
            if (chosen) void this.#make(chosen, tell);
          }),
        );
      });
    return frame;
  }

  /** @param {PlanCalendar} ready @param {(problem: string) => void} tell */
  async #make(ready, tell) {
    const taken = (/** @type {string} */ id, /** @type {string} */ name) =>
      this.#calendars.some((c) => c.id === id || c.name.toLowerCase() === name.toLowerCase());
    let [id, name] = [ready.id, ready.name];
    for (let n = 2; taken(id, name); n++) [id, name] = [`${ready.id}-${n}`, `${ready.name} ${n}`];
    const before = this.#open;
    this.#open = id;
    if (!(await this.#save({ ...ready, id, name }, tell))) this.#open = before;
  }

  /** @param {PlanCalendar} calendar */
  #sheet(calendar) {
    const others = this.#calendars
      .filter((c) => c.id !== calendar.id)
      .map((c) => /** @type {[string, string]} */ ([c.id, c.name]));
    const save = (/** @type {Partial<PlanCalendar>} */ change, /** @type {(p: string) => void} */ tell) =>
      void this.#save({ ...calendar, ...change }, tell);
    const problem = element("p", { class: "problem", role: "alert" });
    const year = element("div", { class: "year-frame" });
    void this.#drawYear(calendar, year);
    return element(
      "div",
      { class: "calendar-sheet" },
      element(
        "div",
        { class: "calendar-facts" },
        textField("Name of the calendar", calendar.name, (name, tell) => save({ name }, tell)),
        choiceField("Builds on", [["", "nothing"], ...others], calendar.base ?? "", (base, tell) =>
          save({ base: base || null }, tell),
        ),
        element("h3", {}, "The week"),
        ...WEEK.map((day, at) => this.#weekday(calendar, day, DAYS[at], save)),
        element("h3", {}, "Days off and extra days"),
        ...this.#exceptions(calendar, save),
        quietButton(
          "Remove this calendar",
          () =>
            void this.#client.edit(
              { type: "removeCalendar", calendar: calendar.id },
              (text) => (problem.textContent = text),
            ),
        ),
        problem,
      ),
      year,
    );
  }

  /**
   * @param {PlanCalendar} calendar
   * @param {string} day
   * @param {string} label
   * @param {(change: Partial<PlanCalendar>, tell: (p: string) => void) => void} save
   */
  #weekday(calendar, day, label, save) {
    const work = calendar.week[day];
    const value = work === undefined ? "" : work.length === 0 ? "off" : work.join(", ");
    return textField(
      label,
      value,
      (text, tell) => {
        const { [day]: _, ...rest } = calendar.week;
        const work = text === "" ? [] : [text];
        save({ week: text === "" && calendar.base ? rest : { ...rest, [day]: work } }, tell);
      },
      { hint: calendar.base ? "as what it builds on" : "off" },
    );
  }

  /** @param {PlanCalendar} calendar @param {(change: Partial<PlanCalendar>, tell: (p: string) => void) => void} save */
  #exceptions(calendar, save) {
    const { exceptions } = calendar;
    const list = element("ul", { class: "days-off" });
    exceptions.forEach(({ from, to, name, work }, at) => {
      const when = from === to ? readable(from) : `${readable(from)} to ${readable(to)}`;
      const what = work.length > 0 ? `${name || "extra"}, ${work.join(", ")}` : name || "off";
      const remove = quietButton(
        "Remove",
        () => save({ exceptions: exceptions.toSpliced(at, 1) }, this.#client.tell),
        `Remove ${what} on ${when}`,
      );
      list.append(element("li", {}, element("span", {}, `${when}: ${what}`), remove));
    });
    return [list, this.#another(calendar, save), this.#holidays(calendar, save)];
  }

  /** @param {PlanCalendar} calendar @param {(change: Partial<PlanCalendar>, tell: (p: string) => void) => void} save */
  #another(calendar, save) {
    return textField(
      "Another day",
      "",
      (text, tell) => save({ exceptions: [...calendar.exceptions, /** @type {any} */ ({ typed: text })] }, tell),
      { hint: "31 May Founders’ day" },
    );
  }

  /** @param {PlanCalendar} calendar @param {(change: Partial<PlanCalendar>, tell: (p: string) => void) => void} save */
  #holidays(calendar, save) {
    const frame = element("div");
    void fetch("/api/v1/holidays")
      .then((answer) => answer.json())
      .catch(() => [])
      .then((/** @type {{ id: string, name: string }[]} */ sets) => {
        /** @type {[string, string][]} */
        const options = [
          ["", `choose a country for ${this.#year}`],
          ...sets.map((s) => /** @type {[string, string]} */ ([s.id, s.name])),
        ];
        frame.append(
          choiceField("Public holidays", options, "", (id, tell) => {
            if (id) void this.#addHolidays(calendar, id, save, tell);
          }),
        );
      });
    return frame;
  }

  /**
   * @param {PlanCalendar} calendar
   * @param {string} set
   * @param {(change: Partial<PlanCalendar>, tell: (p: string) => void) => void} save
   * @param {(p: string) => void} tell
   */
  async #addHolidays(calendar, set, save, tell) {
    /** @type {{ day: string, name: string }[] | null} */
    const days = await fetch(`/api/v1/holidays/${set}?from=${this.#year}&to=${this.#year}`)
      .then((answer) => (answer.ok ? answer.json() : null))
      .catch(() => null);
    if (days === null) {
      tell("The server does not answer, so it cannot say which days these are. Try again in a moment.");
      return;
    }
    const known = new Set(calendar.exceptions.filter((e) => e.from === e.to && e.work.length === 0).map((e) => e.from));
    const added = days
      .filter(({ day }) => !known.has(day))
      .map(({ day, name }) => ({ from: day, to: day, name, work: [] }));
    if (added.length === 0) tell(`All of them are in this calendar already for ${this.#year}.`);
    else save({ exceptions: [...calendar.exceptions, ...added] }, tell);
  }

  /** @param {PlanCalendar} calendar @param {HTMLElement} frame */
  async #drawYear(calendar, frame) {
    const step = (/** @type {number} */ by) => {
      this.#year = Math.min(2100, Math.max(1990, this.#year + by));
      this.#fill();
    };
    try {
      const year = await this.#client.post(`/calendars/year?year=${this.#year}`, calendar);
      const head = element(
        "div",
        { class: "year-head" },
        quietButton("‹", () => step(-1), "The year before"),
        element("h3", {}, String(this.#year)),
        quietButton("›", () => step(1), "The year after"),
      );
      frame.replaceChildren(head, yearSheet(/** @type {any} */ (year)));
    } catch (error) {
      frame.replaceChildren(element("p", { class: "problem", role: "alert" }, /** @type {Error} */ (error).message));
    }
  }

  /** @param {PlanCalendar} calendar @param {(problem: string) => void} tell */
  #save(calendar, tell) {
    return this.#client.edit({ type: "saveCalendar", calendar }, tell);
  }
}

/** @param {string} day */
const readable = (day) => withYear(dayFrom(day));
