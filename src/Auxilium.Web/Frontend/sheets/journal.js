// @ts-check
// Journal: who changed what, when, and what it did; with the way back where it still applies.

/** @import { Run } from "../plan/state/types.js" */
import { element, quietButton } from "../plan/card/fields.js";
import { readDays } from "../shared/day-input.js";
import { dayOfMoment, timeOfMoment } from "../shared/moments.js";
import { PlanClient } from "./client.js";

/**
 * @typedef
 * {{ id: number, at: string, version: number, personId: string, person: string, sentence: Run[], moved: number, takesBack: number | null,
 *   stands: boolean }}
 * Entry
 */

const content = /** @type {HTMLElement} */ (document.getElementById("content"));
const client = new PlanClient(draw);
let person = "";
let task = new URLSearchParams(location.search).get("task") ?? "";
/** @type {Map<string, string>} */ const people = new Map();
/** @type {{ id: string, name: string }[]} */ let tasks = [];
await findTasks();
await draw();
document.documentElement.dataset.ready = "true";

async function findTasks() {
  const plan = await /** @type {Promise<{ tasks: { id: string, name: string }[] }>} */ (client.ask("/plan"));
  tasks = plan.tasks.map(({ id, name }) => ({ id, name }));
}

async function draw() {
  const page = await ask(null);
  for (const entry of page.entries) people.set(entry.personId, entry.person);
  const list = element("ol", { class: "journal" });
  addEntries(list, page.entries, "");
  const empty = element(
    "p",
    { class: "lead" },
    person || task
      ? "No edit matches: choose another person or task."
      : "No edits yet: each will be listed here, with a button to take it back.",
  );
  content.replaceChildren(filters(), ...(page.entries.length > 0 ? [list] : [empty]), ...more(list, page));
}

/** @param {number | null} before @returns {Promise<{ entries: Entry[], next: number | null }>} */
function ask(before) {
  const query = new URLSearchParams();
  if (before !== null) query.set("before", String(before));
  if (task) query.set("task", task);
  if (person) query.set("person", person);
  return client.ask(`/journal?${query}`);
}

function filters() {
  const who = choice("Person", [["", "Everybody"], ...people], person, (value) => (person = value));
  const what = choice(
    "Task",
    [["", "Every task"], ...tasks.map(({ id, name }) => [id, name])],
    task,
    (value) => (task = value),
  );
  return element("div", { class: "line-fields" }, who, what, asItWas());
}

/** A day, at the end of which the plan is shown as it was. */
function asItWas() {
  const day = /** @type {HTMLInputElement} */ (
    element("input", { class: "input", name: "as-it-was", placeholder: "12 May", autocomplete: "off" })
  );
  const label = element("label", {}, "Show the plan as it was on", day);
  readDays(
    day,
    (on) => {
      if (on) location.href = `${client.plan}?on=${on}`;
    },
    () => client.today,
  );
  return label;
}

/** @param {string} label @param {string[][]} options @param {string} value @param {(value: string) => void} take */
function choice(label, options, value, take) {
  const select = /** @type {HTMLSelectElement} */ (element("select", { class: "input", "aria-label": label }));
  select.append(...options.map(([option, words]) => new Option(words, option)));
  select.value = value;
  select.addEventListener("change", () => {
    take(select.value);
    void draw();
  });
  return element("label", {}, label, select);
}

/** @param {HTMLElement} list @param {Entry[]} entries @param {string} day of the entry before them */
function addEntries(list, entries, day) {
  for (const entry of entries) {
    const on = dayOfMoment(entry.at);
    if (on !== day) list.append(element("li", { class: "journal-day" }, element("h2", {}, on)));
    day = on;
    list.append(line(entry));
  }
}

/** @param {Entry} entry */
function line(entry) {
  const sentence = element(
    "p",
    {},
    ...entry.sentence.map(({ text, strong }) => element(strong ? "strong" : "span", {}, text)),
  );
  const problem = element("p", { class: "problem", role: "alert" });
  const words = element(
    "div",
    { class: "journal-words" },
    element("p", { class: "mute" }, `${timeOfMoment(entry.at)} · ${entry.person}`),
    sentence,
    problem,
  );
  const out = element(
    "li",
    { class: `journal-entry${entry.stands ? "" : " is-gone"}`, "data-entry": String(entry.id) },
    words,
  );
  const said = entry.sentence.map(({ text }) => text).join("");
  out.append(
    element(
      "a",
      {
        class: "button button-quiet",
        href: `${client.plan}?version=${entry.version}`,
        "aria-label": `The plan after this: ${said}`,
      },
      "As it was then",
    ),
  );
  if (entry.stands) {
    const label = entry.takesBack === null ? "Take back" : "Do again";
    out.append(quietButton(label, () => void takeBack(entry, problem), `${label}: ${said}`));
  } else out.append(element("span", { class: "mute" }, "Taken back"));
  return out;
}

/** @param {Entry} entry @param {HTMLElement} problem @param {boolean} [overrule] */
async function takeBack(entry, problem, overrule = false) {
  await client.takeBack(
    entry.id,
    (text, conflict) => {
      problem.textContent = text;
      if (conflict)
        problem.append(
          " ",
          quietButton("Take it back all the same", () => void takeBack(entry, problem, true)),
        );
    },
    overrule,
  );
}

/** @param {HTMLElement} list @param {{ entries: Entry[], next: number | null }} page @returns {HTMLElement[]} */
function more(list, page) {
  if (page.next === null) return [];
  let next = page.next;
  const button = quietButton("Show earlier ones", async () => {
    const earlier = await ask(next);
    addEntries(list, earlier.entries, "");
    if (earlier.next === null) button.remove();
    else next = earlier.next;
  });
  return [button];
}
