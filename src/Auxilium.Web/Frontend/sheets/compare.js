// @ts-check
// Compare: the baselines of a plan, and any two of now, a baseline and a past day side by side.

import { element, quietButton } from "../plan/card/fields.js";
import { dayFrom, dayOf, finishDayOf, minutesOf, short, span, withYear } from "../plan/state/time.js";
import { readDays } from "../shared/day-input.js";
import { PlanClient } from "./client.js";

/**
 * @typedef
 * {{ id: string, name: string, taken: string, isWhole: boolean, tasks: number, start: string, finish: string, driftMinutes: number,
 *   drift: string, isMeasure: boolean, isChosen: boolean }}
 * Baseline
 */
/**
 * @typedef
 * {{ key: string, title: string, start: string, finish: string, lengthMinutes: number, length: string, effortMinutes: number,
 *   progress: number, tasks: number, isWhole: boolean }}
 * Side
 */
/**
 * @typedef
 * {{ task: string, name: string, change: "moved" | "grew" | "new" | "dropped", said: string, isHere: boolean, startFrom: string | null,
 *   finishFrom: string | null, startTo: string | null, finishTo: string | null }}
 * Difference
 */
/**
 * @typedef
 * {{ from: Side, to: Side, start: string, finish: string, length: string, hoursWorked: number, sentence: string, rows: Difference[] }}
 * Comparison
 */

const MOST_ROWS = 200;

const content = /** @type {HTMLElement} */ (document.getElementById("content"));
const client = new PlanClient(draw);
const query = new URLSearchParams(location.search);
const sides = { from: query.get("from") ?? "", to: query.get("to") ?? "now" };
/** Which two are shown. */
const shown = { from: "now", to: "now" };
/** Rows that are shown, of very many. */
let most = MOST_ROWS;
await draw();
document.documentElement.dataset.ready = "true";

async function draw() {
  const baselines = await /** @type {Promise<Baseline[]>} */ (client.ask("/baselines"));
  const known = new Set(["now", ...baselines.map(({ id }) => `baseline:${id}`)]);
  const isGone = (/** @type {string} */ key) => key.startsWith("baseline:") && !known.has(key);
  const measure = baselines.find(({ isMeasure }) => isMeasure) ?? baselines[0];
  // What was chosen and is gone comes back with an undo.
  shown.from = sides.from !== "" && !isGone(sides.from) ? sides.from : measure ? `baseline:${measure.id}` : "now";
  shown.to = isGone(sides.to) ? "now" : sides.to;
  const focused = /** @type {HTMLElement | null} */ (document.activeElement)?.dataset.key;
  const parts = [remembered(baselines), choose(baselines)];
  try {
    const compared = await /** @type {Promise<Comparison>} */ (client.ask(`/comparison?${new URLSearchParams(shown)}`));
    parts.push(facts(compared), differences(compared));
  } catch (error) {
    parts.push(element("p", { class: "problem", role: "alert" }, /** @type {Error} */ (error).message));
  }
  content.replaceChildren(...parts);
  if (focused)
    /** @type {HTMLElement | null} */ (content.querySelector(`[data-key="${CSS.escape(focused)}"]`))?.focus();
}

/** The baselines, each with what can be done with it. @param {Baseline[]} baselines */
function remembered(baselines) {
  const problem = element("p", { class: "problem", role: "alert" });
  const tell = (/** @type {string} */ text) => void (problem.textContent = text);
  const parts = [element("h2", {}, "Baselines")];
  if (baselines.length === 0)
    parts.push(
      element(
        "p",
        {},
        "None yet. A baseline remembers when each task starts and finishes now, so that drift shows later.",
      ),
    );
  else parts.push(scrolled(listOf(baselines, tell)));
  if (client.rights !== "look") parts.push(taking(baselines), problem);
  return element("section", {}, ...parts);
}

/** @param {Baseline[]} baselines @param {(problem: string) => void} tell */
function listOf(baselines, tell) {
  const mayEdit = client.rights !== "look";
  const table = tableOf([
    "Measure",
    "Name",
    "Taken",
    "Tasks",
    "Finish",
    "Drift of the finish",
    ...(mayEdit ? ["Change"] : []),
  ]);
  for (const one of baselines) {
    const radio = /** @type {HTMLInputElement} */ (
      element("input", {
        type: "radio",
        name: "measure",
        value: one.id,
        "data-key": `measure ${one.id}`,
        "aria-label": `Measure drift against ${one.name}`,
      })
    );
    radio.checked = one.isMeasure;
    radio.disabled = !mayEdit;
    radio.addEventListener("change", () => void client.edit({ type: "setMeasure", baseline: one.id }, tell));
    const cells = [
      element("td", {}, radio),
      element("th", { scope: "row" }, one.name),
      element("td", {}, withYear(dayFrom(one.taken))),
      element("td", {}, one.isWhole ? String(one.tasks) : `${one.tasks}, chosen`),
      element("td", {}, short(finishDayOf(minutesOf(one.finish)))),
      element("td", {}, one.drift || "none"),
    ];
    if (mayEdit)
      cells.push(element("td", {}, element("div", { class: "actions" }, rename(one, tell), remove(one, tell))));
    table.body.append(element("tr", {}, ...cells));
  }
  return table.whole;
}

/** @param {Baseline} one @param {(problem: string) => void} tell */
function rename(one, tell) {
  const button = quietButton("Rename", ask, `Rename ${one.name}`);
  button.dataset.key = `rename ${one.id}`;
  return button;

  function ask() {
    const input = /** @type {HTMLInputElement} */ (
      element("input", { class: "input", "aria-label": `New name of ${one.name}`, maxlength: "80" })
    );
    input.value = one.name;
    const form = element("form", { class: "line-form" }, input, element("button", { class: "button" }, "Save"));
    form.addEventListener("submit", (event) => {
      event.preventDefault();
      void client.edit({ type: "renameBaseline", baseline: one.id, name: input.value }, tell);
    });
    form.addEventListener("keydown", (event) => {
      if (event.key !== "Escape") return;
      form.replaceWith(button);
      button.focus();
    });
    button.replaceWith(form);
    input.focus();
    input.select();
  }
}

/** @param {Baseline} one @param {(problem: string) => void} tell */
function remove(one, tell) {
  const button = quietButton(
    "Delete",
    () => void client.edit({ type: "deleteBaseline", baseline: one.id }, tell),
    `Delete ${one.name}`,
  );
  return button;
}

/** A new baseline, of the whole plan. @param {Baseline[]} baselines */
function taking(baselines) {
  const input = /** @type {HTMLInputElement} */ (
    element("input", { class: "input", maxlength: "80", autocomplete: "off", id: "baseline-name" })
  );
  input.placeholder = baselines.length === 0 ? "As agreed" : `Plan of ${withYear(dayFrom(client.today))}`;
  const problem = element("p", { class: "problem", role: "alert", id: "baseline-problem" });
  const form = element(
    "form",
    { class: "line-form", autocomplete: "off" },
    element("label", { class: "baseline-name" }, "Name", input),
    element("button", { class: "button button-strong" }, "Take baseline"),
    problem,
  );
  form.addEventListener("submit", (event) => {
    event.preventDefault();
    void client.edit({ type: "takeBaseline", name: input.value.trim() || input.placeholder }, (text) => {
      problem.textContent = text;
      if (text) input.setAttribute("aria-describedby", problem.id);
    });
  });
  return form;
}

/** Which two are compared. @param {Baseline[]} baselines */
function choose(baselines) {
  return element(
    "section",
    {},
    element("h2", {}, "Compare"),
    element("div", { class: "line-fields" }, side("from", "From", baselines), side("to", "To", baselines)),
  );
}

/** @param {"from" | "to"} which @param {string} label @param {Baseline[]} baselines */
function side(which, label, baselines) {
  const key = shown[which];
  const select = /** @type {HTMLSelectElement} */ (element("select", { class: "input", "data-key": which }));
  select.append(new Option("Now", "now"), ...baselines.map(({ id, name }) => new Option(name, `baseline:${id}`)));
  if (key.startsWith("version:")) select.append(new Option(`Version ${key.slice(8)}`, key));
  select.append(new Option("A past day…", "day:"));
  select.value = key.startsWith("day:") ? "day:" : key;
  select.addEventListener("change", () => take(select.value === "day:" ? `day:${client.today}` : select.value));
  const parts = [element("label", {}, label, select)];
  if (key.startsWith("day:")) {
    const day = /** @type {HTMLInputElement} */ (
      element("input", {
        class: "input",
        type: "text",
        "aria-label": `${label}: day`,
        "data-key": `${which} day`,
        name: `${which}-day`,
      })
    );
    day.value = withYear(dayFrom(key.slice(4)));
    const field = element("div", { class: "field" }, day);
    readDays(
      day,
      (on) => {
        if (on) take(`day:${on}`);
      },
      () => client.today,
    );
    parts.push(field);
  }
  return element("div", { class: "side" }, ...parts);

  /** @param {string} value */
  function take(value) {
    sides[which] = value;
    history.replaceState(null, "", `?${new URLSearchParams({ from: sides.from || shown.from, to: sides.to })}`);
    void draw();
  }
}

/** The facts of both, and by how much they differ. @param {Comparison} compared */
function facts({ from, to, start, finish, length, hoursWorked, sentence }) {
  const isSame = from.key === to.key;
  const table = tableOf(isSame ? ["", to.title] : ["", from.title, to.title, "Difference"]);
  const hours = (/** @type {number} */ minutes) => `${Math.round(minutes / 6) / 10} h`;
  const signed = (/** @type {number} */ number, /** @type {string} */ words) =>
    number === 0 ? "none" : `${number > 0 ? "+" : "−"}${words}`;
  const percent = (/** @type {number} */ share) => Math.round(share * 100);
  const points = percent(to.progress) - percent(from.progress);
  const effort = to.effortMinutes - from.effortMinutes;
  const tasks = to.tasks - from.tasks;
  const worked = (/** @type {Side} */ side) => (side.key === "now" ? hours(hoursWorked) : "");
  const dayOfStart = (/** @type {Side} */ side) => withYear(dayOf(minutesOf(side.start)));
  const dayOfFinish = (/** @type {Side} */ side) => withYear(finishDayOf(minutesOf(side.finish)));
  /** @type {[string, string, string, string][]} */
  const lines = [
    ["Start", dayOfStart(from), dayOfStart(to), start || "none"],
    ["Finish", dayOfFinish(from), dayOfFinish(to), finish || "none"],
    ["Length", from.length, to.length, length || "none"],
    ["Effort", hours(from.effortMinutes), hours(to.effortMinutes), signed(effort, hours(Math.abs(effort)))],
    ["Hours worked", worked(from), worked(to), ""],
    [
      "Progress",
      `${percent(from.progress)}%`,
      `${percent(to.progress)}%`,
      signed(points, `${Math.abs(points)} points`),
    ],
    ["Tasks", String(from.tasks), String(to.tasks), signed(tasks, String(Math.abs(tasks)))],
  ];
  for (const [name, was, now, difference] of lines)
    table.body.append(
      element(
        "tr",
        {},
        element("th", { scope: "row" }, name),
        ...(isSame ? [now] : [was, now, difference]).map((text) => element("td", {}, text)),
      ),
    );
  return element(
    "section",
    {},
    element("h2", {}, "Facts"),
    ...(isSame ? [] : [element("p", { class: "lead", id: "compared" }, sentence)]),
    scrolled(table.whole),
  );
}

/** Every row that differs, the largest difference first. @param {Comparison} compared */
function differences({ from, to, rows }) {
  if (from.key === to.key) return element("div");
  const title = element("h2", {}, "What differs");
  const behind = element(
    "a",
    { class: "button", href: `${client.plan}?behind=${encodeURIComponent(from.key === "now" ? to.key : from.key)}` },
    "Show it behind the bars",
  );
  if (rows.length === 0) return element("section", {}, title, element("p", {}, "No task differs."));
  const table = tableOf(["Task", "Difference", from.title, to.title]);
  for (const row of rows.slice(0, most))
    table.body.append(
      element(
        "tr",
        { "data-change": row.change },
        element(
          "th",
          { scope: "row" },
          row.isHere ? element("a", { href: `${client.plan}#${row.task}` }, row.name) : row.name,
        ),
        element("td", {}, row.said),
        element("td", {}, datesOf(row.startFrom, row.finishFrom)),
        element("td", {}, datesOf(row.startTo, row.finishTo)),
      ),
    );
  const parts = [title, element("p", {}, behind), scrolled(table.whole)];
  if (rows.length > most)
    parts.push(
      quietButton(`Show all ${rows.length}`, () => {
        most = rows.length;
        void draw();
      }),
    );
  return element("section", {}, ...parts);
}

/** @param {string | null} start @param {string | null} finish */
function datesOf(start, finish) {
  if (start === null || finish === null) return "";
  const first = dayOf(minutesOf(start));
  return span(first, Math.max(first, finishDayOf(minutesOf(finish))));
}

/** @param {string[]} heads */
function tableOf(heads) {
  const body = element("tbody");
  const head = element(
    "tr",
    {},
    ...heads.map((text) => element(text ? "th" : "td", text ? { scope: "col" } : {}, text)),
  );
  return { body, whole: element("table", { class: "compared" }, element("thead", {}, head), body) };
}

/** A wide table scrolls in itself. @param {HTMLElement} table */
function scrolled(table) {
  return element("div", { class: "scrolled", tabindex: "0", role: "group", "aria-label": "Table" }, table);
}
