// @ts-check
// Forecast: when the plan may really be finished, from thousands of runs.

import { choiceField, element, quietButton, textField } from "../plan/card/fields.js";
import { dayOf, finishDayOf, minutesOf, parts, short, withWeekday } from "../plan/state/time.js";
import { svgElement } from "../plan/timeline/svg.js";
import { PlanClient } from "./client.js";

/** @typedef {{ id: string, outline: string, name: string, chance: number }} TaskChance */
/** @typedef {{ date: string, chance: number }} Chance */
/**
 * @typedef {object} Forecast
 * @property {number} runs
 * @property {Chance} planned
 * @property {Chance | null} finishBy
 * @property {{ percent: number, finish: string }[]} confidences
 * @property {{ day: string, runs: number }[]} days
 * @property {TaskChance[]} deadlines
 * @property {TaskChance[]} tasks
 * @property {number} ranges
 */

const MOST_TASKS = 15;
const CHART = { width: 960, height: 236, foot: 26, top: 36 };

const content = /** @type {HTMLElement} */ (document.getElementById("content"));
const client = new PlanClient(() => run());
let [runs, seed, spread] = [10_000, 1, "pertBeta"];
/** @type {AbortController | null} */ let running = null;

const result = element("div", { id: "forecast", "aria-live": "polite" });
const bar = /** @type {HTMLProgressElement} */ (
  element("progress", { max: "1", value: "0", "aria-label": "Runs done" })
);
const stop = quietButton("Stop", () => running?.abort());
const state = element("p", { class: "mute", role: "status" });
content.append(
  element(
    "p",
    { class: "lead" },
    "Each run draws a length for every task that has a range, and calculates the whole plan again.",
  ),
  element(
    "div",
    { class: "forecast-how" },
    textField("Runs", String(runs), (text, tell) => {
      const number = Number(text.replace(/[\s,.]/g, ""));
      if (!Number.isInteger(number) || number < 1 || number > 100_000) tell("Type a number of runs from 1 to 100,000.");
      else {
        runs = number;
        tell("");
        void run();
      }
    }),
    textField("Seed", String(seed), (text, tell) => {
      if (!/^-?\d{1,9}$/.test(text)) tell("Type a whole number: the same one gives the same runs.");
      else {
        seed = Number(text);
        tell("");
        void run();
      }
    }),
    choiceField(
      "Spread",
      [
        ["pertBeta", "Most near the likely length"],
        ["triangular", "Straight up and down"],
      ],
      spread,
      (kind, tell) => {
        spread = kind;
        tell("");
        void run();
      },
    ),
    element("div", { class: "forecast-progress" }, bar, stop),
  ),
  state,
  result,
);
await run();
document.documentElement.dataset.ready = "true";

async function run() {
  running?.abort();
  const mine = (running = new AbortController());
  const of = seed;
  stop.hidden = false;
  state.textContent = "Running…";
  try {
    await client.lines(`/forecast?runs=${runs}&seed=${of}&spread=${spread}`, mine.signal, (line) => {
      if (line.progress !== undefined) bar.value = line.progress;
      if (line.problem) state.textContent = line.problem;
      if (line.forecast) {
        bar.value = 1;
        state.textContent = `${line.forecast.runs.toLocaleString("en")} runs with seed ${of}.`;
        draw(line.forecast);
      }
    });
  } catch (error) {
    if (mine === running) state.textContent = mine.signal.aborted ? "Stopped." : /** @type {Error} */ (error).message;
  }
  if (mine === running) stop.hidden = true;
}

/** @param {Forecast} forecast */
function draw(forecast) {
  /** @type {HTMLElement[]} */ const drawn = [];
  if (forecast.ranges === 0)
    drawn.push(
      element(
        "p",
        { class: "empty" },
        "No task has a range of lengths yet, so every run is the same. " +
          "Give the uncertain ones a range on their card: at best, likely, at worst.",
        element("a", { class: "button", href: client.plan }, "Go to the plan"),
      ),
    );
  drawn.push(facts(forecast), chart(forecast), confidences(forecast));
  if (forecast.deadlines.length > 0) drawn.push(chances("Chance of each deadline", forecast.deadlines, "made in"));
  drawn.push(chances("What sets the finish, and how often", forecast.tasks.slice(0, MOST_TASKS), "in"));
  result.replaceChildren(...drawn);
}

/** @param {Forecast} forecast */
function facts({ planned, finishBy, confidences: all }) {
  const at = (/** @type {number} */ share) => day(all.find((c) => c.percent === share)?.finish ?? "");
  const list = element("dl", { class: "facts" });
  const add = (/** @type {string} */ term, /** @type {string} */ text) =>
    list.append(element("div", {}, element("dt", {}, term), element("dd", {}, text)));
  add("As planned", `${day(planned.date)}: made in ${percent(planned.chance)} of the runs`);
  if (finishBy) add("Deadline", `${day(finishBy.date)}: made in ${percent(finishBy.chance)} of the runs`);
  add("As likely as not", at(50));
  add("Nine times in ten", at(90));
  return list;
}

/** How many runs finish on each day, with the share that is finished by then. @param {Forecast} forecast */
function chart({ days, runs: all, planned, finishBy, confidences: confident }) {
  const { width, height, foot, top } = CHART;
  const first = dayOf(minutesOf(`${days[0].day}T00:00`));
  const last = Math.max(first + 6, dayOf(minutesOf(`${days[days.length - 1].day}T00:00`)));
  const step = width / (last - first + 1);
  const most = Math.max(...days.map((d) => d.runs));
  const x = (/** @type {number} */ d) => (d - first) * step;
  const y = (/** @type {number} */ share) => top + (height - top - foot) * (1 - share);
  const svg = svgElement("svg");
  for (const [name, value] of Object.entries({ viewBox: `0 0 ${width} ${height}`, class: "chart", role: "img" }))
    svg.setAttribute(name, value);
  svg.setAttribute(
    "aria-label",
    `Finishes between ${short(first)} and ${short(last)}; ` +
      `half of the runs by ${day(confident.find((c) => c.percent === 50)?.finish ?? "")}.`,
  );
  const draw = (/** @type {string} */ tag, /** @type {Record<string, string | number>} */ at, text = "") => {
    const shape = svgElement(tag);
    for (const [name, value] of Object.entries(at)) shape.setAttribute(name, String(value));
    if (text) shape.textContent = text;
    svg.append(shape);
  };
  let done = 0;
  let path = `M0 ${y(0)}`;
  for (const { day: text, runs: count } of days) {
    const d = dayOf(minutesOf(`${text}T00:00`));
    draw("rect", {
      x: x(d) + step * 0.12,
      y: y(count / most),
      width: Math.max(1, step * 0.76),
      height: y(0) - y(count / most),
      rx: 2,
      class: "chart-bar",
    });
    path += `H${x(d)}`;
    done += count;
    path += `L${x(d + 1)} ${y(done / all)}`;
  }
  draw("path", { d: `${path}H${width}`, class: "chart-line" });
  draw("line", { x1: 0, y1: y(0), x2: width, y2: y(0), class: "chart-axis" });
  const ticks = Math.max(1, Math.ceil((last - first + 1) / 9));
  for (let d = first; d <= last; d += ticks)
    draw("text", { x: x(d) + step / 2, y: height - 8, class: "chart-word", "text-anchor": "middle" }, short(d));
  for (const [instant, name, word] of /** @type {[string, string, string][]} */ ([
    [planned.date, "chart-planned", "planned"],
    ...(finishBy ? [[finishBy.date, "chart-deadline", "deadline"]] : []),
  ])) {
    const d = finishDayOf(minutesOf(instant)) + 1;
    if (d < first || d > last + 1) continue;
    draw("line", { x1: x(d), y1: name === "chart-planned" ? 2 : 18, x2: x(d), y2: y(0), class: name });
    draw(
      "text",
      {
        x: x(d) + (d > last - 2 ? -5 : 5),
        y: name === "chart-planned" ? 12 : 28,
        class: "chart-word",
        "text-anchor": d > last - 2 ? "end" : "start",
      },
      word,
    );
  }
  const figure = element("figure", { class: "chart-frame" });
  figure.append(
    svg,
    element(
      "figcaption",
      { class: "mute" },
      "Bars: how many runs finish on a day. Line: the share that is finished by then.",
    ),
  );
  return figure;
}

/** @param {Forecast} forecast */
function confidences({ confidences: all }) {
  const table = element("table", { class: "moves" });
  const head = element(
    "tr",
    {},
    element("th", { scope: "col" }, "Confidence"),
    element("th", { scope: "col" }, "Finished by"),
  );
  table.append(element("thead", {}, head));
  const body = element("tbody");
  for (const { percent: share, finish } of all.filter((c) => c.percent % 10 === 0 || c.percent > 90))
    body.append(element("tr", {}, element("td", {}, `${share}%`), element("td", {}, day(finish))));
  table.append(body);
  return element("section", {}, element("h2", {}, "The finish for every confidence"), table);
}

/** @param {string} title @param {TaskChance[]} tasks @param {string} words */
function chances(title, tasks, words) {
  const list = element("ol", { class: "chances" });
  for (const { id, outline, name, chance } of tasks) {
    const meter = element("span", { class: "chance-bar", "aria-hidden": "true" });
    meter.style.setProperty("--share", String(chance));
    list.append(
      element(
        "li",
        {},
        element("a", { href: `${client.plan}#${id}` }, `${outline} ${name}`),
        meter,
        element("span", {}, `${words} ${percent(chance)}`),
      ),
    );
  }
  return element("section", {}, element("h2", {}, title), list);
}

/** @param {string} instant */
function day(instant) {
  const d = finishDayOf(minutesOf(instant));
  return `${withWeekday(d)} ${parts(d).year}`;
}

/** @param {number} share */
function percent(share) {
  return share > 0 && share < 0.01
    ? "under 1%"
    : share < 1 && share > 0.99
      ? "over 99%"
      : `${Math.round(share * 100)}%`;
}
