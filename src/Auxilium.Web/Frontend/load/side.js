// @ts-check
// What stands beside the grid: one day or week of somebody, with the tasks on it and the ways out of what is too much.

import { element, quietButton } from "../plan/card/fields.js";
import { iso, withWeekday } from "../plan/state/time.js";
import { firstDay, hours, isOver, pastDays } from "./model.js";

/** @import { Column, LoadAnswer, LoadPerson, LoadTeam, Work } from "./model.js" */
/** @import { LoadServer } from "./server.js" */
/** @import { Run } from "../plan/state/types.js" */
/**
 * @typedef {object} Way
 * @property {string} kind
 * @property {string} label
 * @property {object} edit
 * @property {Run[]} sentence
 * @property {{ name: string, before: number, after: number }[]} people
 */

export class LoadSide {
  #frame = element("aside", { class: "load-side", "aria-label": "The chosen day", hidden: "" });
  /** @type {LoadServer} */ #server;
  /** @type {() => void} */ #close;

  /** @param {LoadServer} server @param {() => void} close gives the focus back */
  constructor(server, close) {
    this.#server = server;
    this.#close = close;
    this.#frame.addEventListener("keydown", (event) => {
      if (event.key === "Escape") this.close();
    });
  }

  get element() {
    return this.#frame;
  }

  get isOpen() {
    return !this.#frame.hidden;
  }

  close() {
    this.#frame.hidden = true;
    this.#close();
  }

  /** Draws what is chosen. @param {LoadAnswer} answer @param {LoadPerson} person @param {Column} column @param {boolean} [focus] */
  show(answer, person, column, focus = true) {
    const start = firstDay(answer);
    const days = [];
    for (let day = column.first; day <= column.last; day++)
      if ((person.load[day] ?? 0) >= 0.5 || (person.capacity[day] ?? 0) > 0) days.push(day);
    const heading = element("h2", { tabindex: "-1" }, `${person.name}, ${column.name}`);
    this.#frame.replaceChildren(
      element(
        "div",
        { class: "load-side-head" },
        heading,
        quietButton("Close", () => this.close()),
      ),
      ...(days.length === 0
        ? [element("p", { class: "mute" }, `${person.name} does not work then, and has nothing to do.`)]
        : days.map((day) => this.#day(answer, person, start, day, days.length > 1))),
    );
    this.#frame.hidden = false;
    if (focus) heading.focus();
  }

  /** @param {LoadAnswer} answer @param {LoadPerson} person @param {number} start @param {number} day @param {boolean} isOne of several */
  #day(answer, person, start, day, isOne) {
    const [load, capacity] = [person.load[day] ?? 0, person.capacity[day] ?? 0];
    const over = day >= pastDays(answer) && isOver(load, capacity);
    const much = `${hours(load)} of ${hours(capacity)} h`;
    const part = element("section", { class: `load-day-part${over ? " is-over" : ""}` });
    if (isOne) part.append(element("h3", {}, withWeekday(start + day)));
    part.append(element("p", {}, over ? `${much}: overbooked by ${hours(load - capacity)} h.` : `${much}.`));
    const list = element("ul", { class: "load-tasks" });
    for (const work of person.work) {
      const minutes = work.minutes[day - work.first] ?? 0;
      if (minutes >= 0.5) list.append(this.#task(answer, person, work, start + day, minutes, over));
    }
    const elsewhere = person.elsewhere?.[day] ?? 0;
    if (elsewhere >= 0.5)
      list.append(element("li", {}, `${hours(elsewhere)} h elsewhere, in projects that you cannot see`));
    part.append(list);
    return part;
  }

  /**
   * The people of a team then, each with what they have to do.
   * @param {LoadAnswer} answer @param {LoadTeam} team @param {Column} column
   * @param {(person: LoadPerson) => void} pick one of them
   */
  showTeam(answer, team, column, pick) {
    const sum = (/** @type {number[]} */ list) => list.slice(column.first, column.last + 1).reduce((a, b) => a + b, 0);
    const much = (/** @type {{ load: number[], capacity: number[] }} */ of) =>
      `${hours(sum(of.load))} of ${hours(sum(of.capacity))} h`;
    const heading = element("h2", { tabindex: "-1" }, `${team.name}, ${column.name}`);
    const list = element("ul", { class: "load-tasks" });
    for (const person of answer.people.filter(({ id }) => team.people.includes(id)))
      list.append(
        element(
          "li",
          { class: "load-way" },
          `${person.name}: ${much(person)}`,
          quietButton("Show", () => pick(person), `Show ${person.name}, ${column.name}`),
        ),
      );
    this.#frame.replaceChildren(
      element(
        "div",
        { class: "load-side-head" },
        heading,
        quietButton("Close", () => this.close()),
      ),
      element("p", {}, `${much(team)} together.`),
      list,
    );
    this.#frame.hidden = false;
    heading.focus();
  }

  /**
   * @param {LoadAnswer} answer @param {LoadPerson} person @param {Work} work
   * @param {number} day @param {number} minutes @param {boolean} over
   */
  #task(answer, person, work, day, minutes, over) {
    const project = answer.projects.find(({ id }) => id === work.project);
    const where = this.#server.project === work.project ? "" : ` in ${project?.name ?? "another project"}`;
    const line = element(
      "li",
      {},
      element(
        "span",
        {},
        `${hours(minutes)} h `,
        element("a", { href: `/projects/${work.project}#${work.task}` }, work.name),
        where,
      ),
    );
    if (!over || !work.start) return line;
    const ways = element("div", { class: "load-ways", role: "status" });
    const ask = quietButton(
      "Ways out",
      () => void this.#ways(ways, person, work, day),
      `Ways out by changing ${work.name}`,
    );
    line.append(element("div", { class: "actions" }, ask), ways);
    return line;
  }

  /** @param {HTMLElement} frame @param {LoadPerson} person @param {Work} work @param {number} day */
  async #ways(frame, person, work, day) {
    frame.textContent = "Looking…";
    try {
      const ways = await /** @type {Promise<Way[]>} */ (
        this.#server.post(work.project, `/tasks/${work.task}/ways-out`, { person: person.id, day: iso(day) })
      );
      if (ways.length === 0) {
        frame.textContent = `Nothing that can be done with ${work.name} helps ${person.name} that day.`;
        return;
      }
      frame.replaceChildren(element("ol", {}, ...ways.map((way) => this.#way(frame, work, way))));
      frame.querySelector("button")?.focus();
    } catch (error) {
      frame.textContent = /** @type {Error} */ (error).message;
    }
  }

  /** @param {HTMLElement} frame @param {Work} work @param {Way} way */
  #way(frame, work, way) {
    const accept = element(
      "button",
      { type: "button", class: "button", "aria-label": `Accept: ${way.label}` },
      "Accept",
    );
    accept.addEventListener("click", async () => {
      const problem = await this.#server.edit(work.project, way.edit);
      if (problem) frame.append(element("p", { class: "problem", role: "alert" }, problem));
    });
    const said = way.people
      .map(({ name, before, after }) => `${name} overbooked by ${hours(after)} h instead of ${hours(before)} h`)
      .join(", ");
    return element(
      "li",
      {},
      element("div", { class: "load-way" }, element("b", {}, way.label), accept),
      element("p", {}, way.sentence.map(({ text }) => text).join("")),
      element("p", { class: "mute" }, `${said}.`),
    );
  }
}
