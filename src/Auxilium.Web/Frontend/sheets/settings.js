// @ts-check
// Settings of a project: its dates, its hours, and the calendars it goes by.

import { areaField, checkField, choiceField, element, keepTyped, quietButton, textField } from "../plan/card/fields.js";
import { dayFrom, dayOf, finishDayOf, minutesOf, withYear } from "../plan/state/time.js";
import { CalendarEditor } from "./calendar-editor.js";
import { PlanClient } from "./client.js";
import { inTurn, ownFieldParts } from "./own-fields.js";

/** @import { PlanCalendar } from "./calendar-editor.js" */
/** @import { OwnField } from "../plan/state/types.js" */
/**
 * @typedef {object} PlanDocument
 * @property {{ name: string, note: string, status: string, colour: string | null, priority: number, scheduleFrom: "start" | "finish",
 * start: string | null, finish: string | null, finishBy: string | null,
 * floatTo: string, statusDate: string | null, moveUnfinishedWork: boolean, calendar: string | null, hoursPerDay: number, daysPerWeek:
 * number, criticalFloat: string, periods: { name: string, from: string, to: string }[], fields: OwnField[] }} project
 * @property {PlanCalendar[]} calendars
 * @property {{ id: string, name: string, calendar: string | null }[]} people
 */

/** @type {[string, string][]} */
const STATUSES = [
  ["proposed", "proposed"],
  ["active", "active"],
  ["onHold", "on hold"],
  ["finished", "finished"],
];

/** @type {[string, string][]} */
const COLOURS = [
  ["", "none"],
  ["sand", "sand"],
  ["moss", "moss"],
  ["sky", "sky"],
  ["rose", "rose"],
  ["lilac", "lilac"],
];

/** How many days a week the project calendar worked when last drawn. @type {number | null} */ let weekDays = null;
/** @type {OwnField[]} */ let ownFields = [];
const setFields = inTurn(
  () => ownFields,
  (fields, tell) => client.edit({ type: "setFields", fields }, tell),
);
const content = /** @type {HTMLElement} */ (document.getElementById("content"));
const client = new PlanClient(draw);
const editor = new CalendarEditor(client);
await draw();
document.documentElement.dataset.ready = "true";

async function draw() {
  const plan = await /** @type {Promise<PlanDocument>} */ (client.ask("/plan"));
  const title = document.getElementById("project-name");
  if (title) title.textContent = plan.project.name;
  const question = weekQuestion(plan);
  const settings = element(
    "div",
    { class: "settings" },
    group("Project", facts(plan)),
    group("Dates", dates(plan)),
    group("Work", [...work(plan), ...question]),
  );
  const periods = group("Named periods", periodFields(plan));
  ownFields = plan.project.fields;
  const fields = group("Fields", ownFieldParts(ownFields, setFields, client.tell, setOwnFact));
  const calendars = group("Calendars", [editor.draw(plan.calendars, plan.project.calendar), ...people(plan)]);
  keepTyped(content, () => content.replaceChildren(settings, fields, periods, calendars, ...end()));
}

/** @type {import("./own-fields.js").SetValue} */
function setOwnFact(field, value, tell) {
  void client.edit({ type: "setProjectOwn", field, value }, tell);
}

/** Where whoever coordinates the project keeps it for others to start from, or ends it. */
function end() {
  if (client.rights !== "edit") return [];
  const ways = [
    ["template", "Save as template"],
    ["close", "Archive or delete this project"],
  ];
  return ways.map(([path, title]) => element("p", {}, element("a", { href: `${client.plan}/${path}` }, title)));
}

/** When the project calendar got other days, asks what a week is from now on: lengths in weeks go by that. @param {PlanDocument} plan */
function weekQuestion({ project, calendars }) {
  const was = weekDays;
  const now = (weekDays = workingDays(calendars, project.calendar));
  if (was === null || was === now || now === 0 || now === project.daysPerWeek) return [];
  const question = element("div", { class: "field", role: "alert" });
  const days = `${now} ${now === 1 ? "day" : "days"}`;
  question.append(
    element(
      "p",
      {},
      `The project calendar works ${days} a week now. Is a week of work ${days}, too, instead of ${project.daysPerWeek}?`,
    ),
    quietButton(
      `A week is ${days}`,
      () =>
        void client.edit({ type: "setWorkUnits", hoursPerDay: project.hoursPerDay, daysPerWeek: now }, (problem) =>
          client.tell(problem),
        ),
    ),
    quietButton(`A week stays ${project.daysPerWeek} days`, () => question.remove()),
  );
  return [question];
}

/** Days of the week on which a calendar works. @param {PlanDocument["calendars"]} calendars @param {string | null} id */
function workingDays(calendars, id) {
  const days = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"];
  /** @param {string} day @returns {string[]} */
  const workOn = (day) => {
    for (let at = calendars.find((c) => c.id === id); at; at = calendars.find((c) => c.id === at?.base))
      if (at.week[day] !== undefined) return at.week[day];
    return id === null && day !== "sat" && day !== "sun" ? ["09:00-18:00"] : [];
  };
  return days.filter((day) => workOn(day).length > 0).length;
}

/** @param {string} title @param {HTMLElement[]} fields */
function group(title, fields) {
  return element("section", { class: "setting-group" }, element("h2", {}, title), ...fields);
}

/** @param {PlanDocument} plan */
function facts({ project }) {
  const send = (/** @type {object} */ edit, /** @type {(p: string) => void} */ tell) => void client.edit(edit, tell);
  return [
    textField("Name", project.name, (name, tell) => send({ type: "renameProject", name }, tell)),
    choiceField("Status", STATUSES, project.status, (status, tell) => send({ type: "setProjectStatus", status }, tell)),
    choiceField("Colour", COLOURS, project.colour ?? "", (colour, tell) =>
      send({ type: "setProjectColour", colour: colour || null }, tell),
    ),
    textField("Priority", String(project.priority), (text, tell) => {
      const priority = Number(text);
      if (text.trim() === "" || !Number.isInteger(priority))
        tell("Priority is a whole number from 0 to 1000; 500 is usual.");
      else send({ type: "setProjectPriority", priority }, tell);
    }),
    areaField("Note", project.note, (note, tell) => send({ type: "setProjectNote", note }, tell)),
  ];
}

/** @param {PlanDocument} plan */
function dates({ project }) {
  const near = (project.start ?? project.finish ?? client.today).slice(0, 10);
  const fromStart = project.scheduleFrom === "start";
  const anchor = fromStart ? startDay(project.start) : finishDay(project.finish);
  const send = (/** @type {object} */ edit, /** @type {(p: string) => void} */ tell) =>
    void client.edit(edit, tell, near);
  return [
    choiceField(
      "Plan from",
      [
        ["start", "the start date"],
        ["finish", "the date it must be finished"],
      ],
      project.scheduleFrom,
      (from, tell) => {
        if (from === "finish")
          send({ type: "setProjectFinish", finish: project.finish ?? project.finishBy ?? near }, tell);
        else send({ type: "setProjectStart", start: project.start ?? near }, tell);
      },
    ),
    textField(fromStart ? "Start" : "Must be finished", anchor, (day, tell) =>
      send(fromStart ? { type: "setProjectStart", start: day } : { type: "setProjectFinish", finish: day }, tell),
    ),
    textField(
      "Deadline",
      finishDay(project.finishBy),
      (day, tell) => send({ type: "setFinishBy", finishBy: day || null }, tell),
      { hint: "none" },
    ),
    textField(
      "Status date",
      startDay(project.statusDate),
      (day, tell) =>
        send(
          {
            type: "setStatusDate",
            statusDate: day || null,
            moveUnfinishedWork: day !== "" && project.moveUnfinishedWork,
          },
          tell,
        ),
      { hint: "none" },
    ),
    checkField("Move unfinished work to after the status date", project.moveUnfinishedWork, (on, tell) =>
      send({ type: "setStatusDate", statusDate: project.statusDate ?? client.today, moveUnfinishedWork: on }, tell),
    ),
  ];
}

/** @param {PlanDocument} plan */
function work({ project, calendars }) {
  const send = (/** @type {object} */ edit, /** @type {(p: string) => void} */ tell) => void client.edit(edit, tell);
  const number = (/** @type {string} */ text) => Number(text.replace(",", "."));
  const units = (/** @type {number} */ hours, /** @type {number} */ days, /** @type {(p: string) => void} */ tell) =>
    Number.isFinite(hours) && Number.isFinite(days)
      ? send({ type: "setWorkUnits", hoursPerDay: hours, daysPerWeek: days }, tell)
      : tell("Type a number, such as 7.5.");
  return [
    choiceField(
      "Calendar",
      [["", "Plain weekdays"], .../** @type {[string, string][]} */ (calendars.map((c) => [c.id, c.name]))],
      project.calendar ?? "",
      (id, tell) => send({ type: "setProjectCalendar", calendar: id || null }, tell),
    ),
    textField("Hours in a working day", String(project.hoursPerDay), (text, tell) =>
      units(number(text), project.daysPerWeek, tell),
    ),
    textField("Days in a working week", String(project.daysPerWeek), (text, tell) =>
      units(project.hoursPerDay, number(text), tell),
    ),
    textField("Critical with float up to", project.criticalFloat, (text, tell) =>
      send({ type: "setCriticality", criticalFloat: text || "0d", floatTo: project.floatTo }, tell),
    ),
    choiceField(
      "Float counts to",
      [
        ["projectFinish", "the finish as planned"],
        ["finishBy", "the deadline"],
      ],
      project.floatTo,
      (to, tell) => send({ type: "setCriticality", criticalFloat: project.criticalFloat, floatTo: to }, tell),
    ),
  ];
}

/** @param {PlanDocument} plan */
function people({ people: all, calendars }) {
  if (all.length === 0) return [];
  const choices = /** @type {[string, string][]} */ (calendars.map((c) => [c.id, c.name]));
  return [
    element("h3", {}, "Who works by which"),
    element(
      "div",
      { class: "people-calendars" },
      ...all.map(({ id, name, calendar }) =>
        choiceField(
          name,
          [["", "the project’s"], ...choices],
          calendar ?? "",
          (chosen, tell) => void client.edit({ type: "setPersonCalendar", person: id, calendar: chosen || null }, tell),
        ),
      ),
    ),
  ];
}

/** Stretches of days that are good to know of: shown behind the plan. @param {PlanDocument} plan */
function periodFields({ project: { periods } }) {
  const set = (/** @type {typeof periods} */ all, /** @type {(p: string) => void} */ tell) =>
    void client.edit({ type: "setPeriods", periods: all }, tell);
  const rows = periods.map((period, at) => {
    const change = (/** @type {Partial<typeof period>} */ part, /** @type {(p: string) => void} */ tell) =>
      set(periods.with(at, { ...period, ...part }), tell);
    return element(
      "fieldset",
      { class: "period-row" },
      element("legend", {}, period.name),
      textField("Name", period.name, (name, tell) => change({ name }, tell), { key: `period ${at} name` }),
      dayField("From", period.from, (from, tell) => change({ from }, tell), `period ${at} from`),
      dayField("To", period.to, (to, tell) => change({ to }, tell), `period ${at} to`),
      quietButton("Remove", () => set(periods.toSpliced(at, 1), client.tell), `Remove ${period.name}`),
    );
  });
  const another = textField(
    "Another period",
    "",
    (name, tell) => name && set([...periods, { name, from: client.today, to: client.today }], tell),
    { hint: "its name, such as Festival week" },
  );
  return [
    element("p", { class: "hint" }, "Shown softly behind the plan. They close nothing: closures belong in a calendar."),
    ...rows,
    another,
  ];
}

/**
 * A day, typed as people type it.
 * @param {string} label
 * @param {string} value YYYY-MM-DD
 * @param {import("../plan/card/fields.js").Send} send
 * @param {string} key
 */
function dayField(label, value, send, key) {
  const text = value === "" ? "" : withYear(dayFrom(value));
  const hint = "a day, such as 12 May";
  return textField(label, text, (day, tell) => (day ? send(day, tell) : tell("Give a day, such as 12 May.")), {
    key,
    hint,
  });
}

/** @param {string | null} instant */
function startDay(instant) {
  return instant ? withYear(dayOf(minutesOf(instant))) : "";
}

/** @param {string | null} instant */
function finishDay(instant) {
  return instant ? withYear(finishDayOf(minutesOf(instant))) : "";
}
