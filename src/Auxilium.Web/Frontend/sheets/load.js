// @ts-check
// Load: who has how much to do, in one project or in all, and what to do about it.

import { assignmentOf } from "../plan/card/people.js";
import { choiceField, element, quietButton } from "../plan/card/fields.js";
import { dayFrom, iso } from "../plan/state/time.js";
import { LoadGrid } from "../load/grid.js";
import { columnsOf, firstDay, overDays, pastDays, rowsOf } from "../load/model.js";
import { LoadServer } from "../load/server.js";
import { LoadSide } from "../load/side.js";
import { part } from "../shared/part.js";

/** @import { Column, LoadAnswer, LoadPerson, LoadRow, Scale, Work } from "../load/model.js" */
/** @import { Run } from "../plan/state/types.js" */

const PERIODS = /** @type {[string, string][]} */ ([
  ["13", "3 months"],
  ["52", "1 year"],
  ["104", "2 years"],
]);
const BACK = 7;

const content = /** @type {HTMLElement} */ (document.getElementById("content"));
const server = new LoadServer(reload);
const state = {
  /** @type {Scale} */ scale: "day",
  weeks: 13,
  /** @type {"all" | "over"} */ show: "all",
  team: "",
};
/** @type {Set<string>} */ const open = new Set();
/** @type {LoadAnswer} */ let answer = { from: "", to: "", today: "", projects: [], people: [], teams: [], open: [] };
/** @type {{ row: LoadRow, column: Column } | null} */ let chosen = null;
let asked = 0;

const levelling = part(
  () => import("../load/levelling.js"),
  (said) => server.say([{ text: said, strong: false }], false),
);
const grid = new LoadGrid({ fold, pick, drag, title, movable });
const side = new LoadSide(server, () => chosen && grid.focus(chosen.row.key));
const summary = element("p", { class: "lead", role: "status" });
const tools = element("div", { class: "load-tools" });
content.append(summary, tools, element("div", { class: "load-page" }, grid.element, side.element));
await reload();
document.documentElement.dataset.ready = "true";

async function reload() {
  const first = dayFrom(server.today) - (dayFrom(server.today) % 7) - BACK;
  answer = await server.load(iso(first), iso(first + state.weeks * 7 - 1));
  draw();
  const person = chosen && answer.people.find(({ id }) => id === chosen?.row.person?.id);
  if (person && chosen && side.isOpen) side.show(answer, person, chosen.column, false);
}

function draw() {
  summary.textContent =
    answer.people.length === 0
      ? "Nobody is on this plan yet. Give a task an owner, and their work stands here."
      : `${peopleSaid()}${teamsSaid()}`;
  drawTools();
  show();
}

function show() {
  const start = firstDay(answer);
  const columns = columnsOf(start, dayFrom(answer.to) - start + 1, state.scale, dayFrom(answer.today));
  grid.show(rowsOf(answer, open, state.show, state.team), columns, state.scale, pastDays(answer));
}

function drawTools() {
  const scales = element("div", { class: "load-scales", role: "group", "aria-label": "Columns" });
  for (const [scale, words] of /** @type {[Scale, string][]} */ ([
    ["day", "Days"],
    ["week", "Weeks"],
    ["month", "Months"],
  ])) {
    const button = quietButton(words, () => {
      state.scale = scale;
      draw();
    });
    button.setAttribute("aria-pressed", String(state.scale === scale));
    scales.append(button);
  }
  const teams = answer.teams.map(({ name }) => /** @type {[string, string]} */ ([`team ${name}`, name]));
  const who = choiceField(
    "Who",
    [["all", "Everybody"], ["over", "Who is overbooked"], ...teams],
    state.team ? `team ${state.team}` : state.show,
    (value) => {
      state.show = value === "over" ? "over" : "all";
      state.team = value.startsWith("team ") ? value.slice(5) : "";
      show();
    },
  );
  const period = choiceField("Period", PERIODS, String(state.weeks), (value) => {
    state.weeks = Number(value);
    void reload();
  });
  const actions = element("div", { class: "actions" });
  const projects = answer.projects.filter(({ mayEdit, id }) => mayEdit && (!server.project || id === server.project));
  if (projects.length > 0) {
    const level = element("button", { type: "button", class: "button button-strong" }, "Level…");
    level.addEventListener("click", () =>
      levelling(async ({ openLevelling }) => {
        await openLevelling(server, answer, projects);
        level.focus();
      }),
    );
    actions.append(level);
  }
  const focused = /** @type {HTMLElement | null} */ (document.activeElement);
  const at = focused && tools.contains(focused) ? (focused.textContent ?? "") : null;
  tools.replaceChildren(scales, who, period, actions);
  if (at !== null)
    /** @type {HTMLElement | undefined} */ (
      [...tools.querySelectorAll("button, select")].find((b) => b.textContent === at)
    )?.focus();
}

/** Who is overbooked, on how many days. */
function peopleSaid() {
  const over = answer.people.filter(({ load, capacity }) => overDays(load, capacity, pastDays(answer)) > 0);
  if (over.length === 0) return "Nobody is overbooked.";
  const days = over.reduce((sum, { load, capacity }) => sum + overDays(load, capacity, pastDays(answer)), 0);
  const who = over.length === 1 ? `${over[0]?.name} is` : `${over.length} people are`;
  return `${who} overbooked on ${days === 1 ? "1 day" : `${days} days`}.`;
}

function teamsSaid() {
  const teams = answer.teams
    .filter(({ load, capacity }) => overDays(load, capacity, pastDays(answer)) > 0)
    .map(({ name }) => name);
  if (teams.length === 0) return "";
  return ` As a team, ${listed(teams)} ${teams.length === 1 ? "has" : "have"} more to do than time.`;
}

/** @param {string[]} names */
function listed(names) {
  return names.length < 2 ? names.join("") : `${names.slice(0, -1).join(", ")} and ${names.at(-1)}`;
}

/** @param {LoadRow} row */
function fold(row) {
  if (!open.delete(row.key)) open.add(row.key);
  show();
}

/** @param {LoadRow} row @param {Column} column */
function pick(row, column) {
  chosen = { row, column };
  if (row.person) side.show(answer, row.person, column);
  else if (row.team) side.showTeam(answer, row.team, column, (person) => side.show(answer, person, column));
  else fold(row);
}

/** What stands under a name. @param {LoadRow} row */
function title(row) {
  switch (row.kind) {
    case "team":
      return row.team?.people.length === 1 ? "1 person" : `${row.team?.people.length ?? 0} people`;
    case "person": {
      const days = row.person ? overDays(row.person.load, row.person.capacity, pastDays(answer)) : 0;
      return days > 0 ? `overbooked on ${days === 1 ? "1 day" : `${days} days`}` : (row.person?.role ?? "");
    }
    case "task":
      return server.project === row.work?.project
        ? ""
        : (answer.projects.find(({ id }) => id === row.work?.project)?.name ?? "");
    case "open":
      return `${row.role?.work.length ?? 0} to be taken`;
    default:
      return "in projects that you cannot see";
  }
}

/** @param {LoadRow} row */
function movable(row) {
  return row.work?.start != null && answer.projects.some(({ id, mayEdit }) => id === row.work?.project && mayEdit);
}

/**
 * A task is dragged, by days and over another person: what that would do is said and shown before it is let go.
 * @param {LoadRow} row @param {number} days @param {LoadRow | null} to @param {boolean} done
 */
async function drag(row, days, to, done) {
  const mine = ++asked;
  const { work } = row;
  if (!work?.start) return;
  /** @type {object[]} */ const edits = [];
  try {
    if (to?.person && row.person) edits.push(await giveEdit(work, row.person, to.person));
  } catch (error) {
    if (mine !== asked) return;
    show();
    server.say([{ text: /** @type {Error} */ (error).message, strong: false }], false);
    return;
  }
  if (days !== 0)
    edits.push({ type: "placeTask", task: work.task, start: iso(dayFrom(work.start.slice(0, 10)) + days) });
  if (edits.length === 0) {
    if (!done) return;
    show();
    server.say([{ text: "Nothing changed.", strong: false }], false);
    return;
  }
  const edit = edits.length === 1 ? edits[0] : { type: "together", edits };
  if (!edit) return;
  if (done) {
    await server.edit(work.project, edit);
    show();
    return;
  }
  try {
    const { ripple, load } = await server.preview(work.project, edit);
    if (mine !== asked) return;
    server.say([{ text: "If you let go: ", strong: false }, ...ripple.sentence, ...changed(load)], false);
    preview(load);
  } catch (error) {
    if (mine === asked) server.say([{ text: /** @type {Error} */ (error).message, strong: false }], false);
  }
}

/**
 * The edit that gives somebody's part of a task to another: the owner's part is the task itself, a helper's only the help.
 * @param {Work} work @param {LoadPerson} from @param {LoadPerson} to
 */
async function giveEdit({ project, task }, from, to) {
  const people = await server.peopleOn(project, task);
  if (people[0]?.id === from.id) return { type: "setOwner", task, owner: to.name };
  const assignments = people.map((one) => assignmentOf(one.id === from.id ? { ...one, id: to.id } : one));
  return { type: "setAssignments", task, assignments };
}

/** Whose days would become overbooked, or no longer be. @param {import("../load/server.js").LoadChange[]} load @returns {Run[]} */
function changed(load) {
  const [after, past] = [loadAfter(load), pastDays(answer)];
  /** @type {Run[]} */ const runs = [];
  for (const person of answer.people) {
    const now = after.get(person.id);
    if (!now) continue;
    const [before, then] = [overDays(person.load, person.capacity, past), overDays(now, person.capacity, past)];
    if (before === then) continue;
    runs.push({
      text: ` ${person.name} would be overbooked on ${then} ${then === 1 ? "day" : "days"} instead of ${before}.`,
      strong: true,
    });
  }
  return runs;
}

/** @param {import("../load/server.js").LoadChange[]} load @returns {Map<string, number[]>} */
function loadAfter(load) {
  /** @type {Map<string, number[]>} */ const after = new Map();
  const start = firstDay(answer);
  for (const { person, day, minutes } of load) {
    const of = answer.people.find(({ id }) => id === person);
    if (!of) continue;
    const list = after.get(person) ?? [...of.load];
    after.set(person, list);
    const at = dayFrom(day) - start;
    if (at >= 0 && at < list.length) list[at] = (list[at] ?? 0) + minutes;
  }
  return after;
}

/** Shows the load as it would be, until the next answer. @param {import("../load/server.js").LoadChange[]} load */
function preview(load) {
  const after = loadAfter(load);
  grid.overlay((row) => {
    const list = row.kind === "person" && row.person ? after.get(row.person.id) : undefined;
    return list ? (day) => list[day] ?? 0 : null;
  });
}
