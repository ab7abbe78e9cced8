// @ts-check
// Levelling: who, when and how far; what that would do; and all, some or none of it accepted.

import { element, quietButton } from "../plan/card/fields.js";
import { dayFrom, finishDayOf, minutesOf, withWeekday } from "../plan/state/time.js";
import { hours, overDays, pastDays } from "./model.js";

/** @import { LoadAnswer, LoadProject } from "./model.js" */
/** @import { LoadServer } from "./server.js" */
/**
 * @typedef {object} Moved
 * @property {string} task
 * @property {string} outline
 * @property {string} name
 * @property {string} startBefore
 * @property {string} start
 * @property {string} finish
 * @property {boolean} isDelayed
 * @property {string} reason
 */
/** @typedef {{ person: string, name: string, before: number, after: number, daysBefore: number, daysAfter: number }} Balance */
/** @typedef {{ task: string, until: string }} Delay */
/** @typedef {{ name: string, day: string, loadMinutes: number, capacityMinutes: number }} Unsolved */
/**
 * @typedef {object} Proposal
 * @property {{ delays: Delay[] } | null} edit
 * @property {string} sentence
 * @property {Balance[]} people
 * @property {Moved[]} moved
 * @property {Unsolved[]} unsolved
 */

/**
 * Asks in a dialog, until it is closed.
 * @param {LoadServer} server @param {LoadAnswer} answer @param {LoadProject[]} projects those that the person may edit
 * @returns {Promise<void>}
 */
export function openLevelling(server, answer, projects) {
  const dialog = /** @type {HTMLDialogElement} */ (
    element("dialog", { class: "panel levelling", "aria-labelledby": "levelling-title" })
  );
  const close = quietButton("Close", () => dialog.close());
  const result = element("div", { "aria-live": "polite" });
  const form = formOf(server, answer, projects, result);
  dialog.append(
    element("h2", { id: "levelling-title" }, "Level"),
    element(
      "p",
      { class: "mute" },
      "Finds which tasks to start later, so that nobody has more to do than time. Nothing changes until you accept it.",
    ),
    form,
    result,
    element("div", { class: "actions" }, release(server, projects, form, result, dialog), close),
  );
  document.body.append(dialog);
  dialog.showModal();
  return new Promise((resolve) =>
    dialog.addEventListener("close", () => {
      dialog.dispatchEvent(new Event("left"));
      dialog.remove();
      resolve();
    }),
  );
}

/** @param {LoadServer} server @param {LoadAnswer} answer @param {LoadProject[]} projects @param {HTMLElement} result */
function formOf(server, answer, projects, result) {
  const form = /** @type {HTMLFormElement} */ (element("form", {}));
  const project = element("select", { class: "input", name: "project" });
  for (const { id, name } of projects) project.append(element("option", { value: id }, name));
  const people = element("fieldset", {}, element("legend", {}, "Who"));
  const draw = () => {
    const of = /** @type {HTMLSelectElement} */ (project).value;
    const theirs = answer.people.filter(({ work }) => work.some((w) => w.project === of && w.start));
    const anyOver = theirs.some(({ load, capacity }) => overDays(load, capacity, pastDays(answer)) > 0);
    people.replaceChildren(
      element("legend", {}, "Who"),
      ...theirs.map(({ id, name, load, capacity }) => {
        const days = overDays(load, capacity, pastDays(answer));
        const box = /** @type {HTMLInputElement} */ (element("input", { type: "checkbox", name: "person", value: id }));
        box.checked = days > 0 || !anyOver;
        const words = days > 0 ? `${name} (overbooked on ${days === 1 ? "1 day" : `${days} days`})` : name;
        return element("label", { class: "check" }, box, words);
      }),
      ...teamButtons(answer, people),
      ...(theirs.length === 0 ? [element("p", { class: "mute" }, "Nobody has anything to do in it.")] : []),
    );
  };
  project.addEventListener("change", draw);
  draw();
  const problem = element("p", { class: "problem", role: "alert" });
  const go = element("button", { class: "button button-strong" }, "Find a proposal");
  form.append(
    ...(projects.length > 1 ? [element("label", { class: "field" }, "Project", project)] : []),
    people,
    element(
      "fieldset",
      {},
      element("legend", {}, "How far"),
      radio("mode", "withinFloat", "Within float: the finish and deadlines stay", true),
      radio("mode", "asLongAsItTakes", "As long as it takes", false),
    ),
    element(
      "fieldset",
      {},
      element("legend", {}, "When"),
      dayField("from", "From", answer.today),
      dayField("to", "To", ""),
      element("label", { class: "check" }, checked("wholeDays"), "Delayed tasks start with a day"),
    ),
    problem,
    element("div", { class: "actions" }, go),
  );
  /** @type {AbortController | null} */ let running = null;
  form.addEventListener("submit", (event) => {
    event.preventDefault();
    const data = new FormData(form);
    const chosen = data.getAll("person").map(String);
    problem.textContent = chosen.length === 0 ? "Nobody is chosen: choose whose work is to be levelled." : "";
    if (chosen.length === 0) return;
    running?.abort();
    running = new AbortController();
    const of = /** @type {HTMLSelectElement} */ (project).value;
    void find(server, of, bodyOf(data, chosen), result, problem, running);
  });
  return form;
}

/** Choose the people of one team. @param {LoadAnswer} answer @param {HTMLElement} people */
function teamButtons(answer, people) {
  return answer.teams.map(({ name, people: ids }) =>
    quietButton(
      name,
      () => {
        for (const box of /** @type {NodeListOf<HTMLInputElement>} */ (people.querySelectorAll("[name=person]")))
          box.checked = ids.includes(box.value);
      },
      `Only ${name}`,
    ),
  );
}

/** @param {FormData} data @param {string[]} people */
function bodyOf(data, people) {
  const day = (/** @type {string} */ name) => (data.get(name) ? { [name]: String(data.get(name)) } : {});
  return {
    mode: String(data.get("mode")),
    people,
    wholeDays: data.has("wholeDays"),
    timeLimit: 3,
    ...day("from"),
    ...day("to"),
  };
}

/**
 * @param {LoadServer} server @param {string} project @param {object} body
 * @param {HTMLElement} result @param {HTMLElement} problem @param {AbortController} running
 */
async function find(server, project, body, result, problem, running) {
  const bar = /** @type {HTMLProgressElement} */ (
    element("progress", { max: "1", value: "0", "aria-label": "Search" })
  );
  const stop = quietButton("Cancel", () => running.abort());
  result.replaceChildren(bar, element("div", { class: "actions" }, stop));
  result.closest("dialog")?.addEventListener("left", () => running.abort(), { once: true });
  try {
    await server.lines(project, "/levelling", body, running.signal, (line) => {
      if (line.progress !== undefined) bar.value = line.progress;
      if (line.proposal) draw(server, project, line.proposal, result);
    });
  } catch (error) {
    result.replaceChildren();
    if (!running.signal.aborted) problem.textContent = /** @type {Error} */ (error).message;
  }
}

/** @param {LoadServer} server @param {string} project @param {Proposal} proposal @param {HTMLElement} result */
function draw(server, project, proposal, result) {
  const parts = [element("p", { class: "lead", tabindex: "-1" }, proposal.sentence)];
  if (proposal.people.length > 0) parts.push(balances(proposal.people));
  const { edit } = proposal;
  if (edit) parts.push(choice(server, project, proposal, edit.delays, result));
  if (proposal.unsolved.length > 0) {
    const list = element("ul", { class: "effects" });
    for (const { name, day, loadMinutes, capacityMinutes } of proposal.unsolved.slice(0, 8))
      list.append(
        element(
          "li",
          {},
          `${name}, ${withWeekday(dayFrom(day))}: ${hours(loadMinutes)} of ${hours(capacityMinutes)} h`,
        ),
      );
    if (proposal.unsolved.length > 8) list.append(element("li", {}, `and ${proposal.unsolved.length - 8} more days`));
    parts.push(
      element("h3", {}, "What starting later does not solve"),
      element("p", { class: "mute" }, "Choose such a day on the page to see other ways out."),
      list,
    );
  }
  result.replaceChildren(...parts);
  /** @type {HTMLElement} */ (parts[0]).focus();
}

/** @param {Balance[]} people */
function balances(people) {
  const rows = people.map(({ name, before, after, daysBefore, daysAfter }) =>
    element(
      "tr",
      {},
      element("th", { scope: "row" }, name),
      element("td", {}, `${hours(before)} h on ${daysBefore} d`),
      element("td", {}, after < 0.5 ? "none" : `${hours(after)} h on ${daysAfter} d`),
    ),
  );
  return table(["Who", "Overbooked now", "Overbooked then"], rows);
}

/** @param {LoadServer} server @param {string} project @param {Proposal} proposal @param {Delay[]} delays @param {HTMLElement} result */
function choice(server, project, proposal, delays, result) {
  const effect = element("p", { role: "status" });
  const accept = element("button", { type: "button", class: "button button-strong" });
  /** @type {HTMLInputElement[]} */ const boxes = [];
  let asked = 0;
  const chosen = () => {
    const tasks = new Set(boxes.filter((box) => box.checked).map((box) => box.value));
    return delays.filter(({ task }) => tasks.has(task));
  };
  const changed = async () => {
    const now = chosen();
    accept.textContent =
      now.length === delays.length ? `Accept all ${delays.length}` : `Accept ${now.length} of ${delays.length}`;
    accept.toggleAttribute("disabled", now.length === 0);
    const mine = ++asked;
    if (now.length === 0 || now.length === delays.length) {
      effect.textContent = "";
      return;
    }
    const { ripple } = await server.preview(project, { type: "delayTasks", delays: now }).catch((error) => ({
      ripple: { sentence: [{ text: error.message }] },
    }));
    if (mine === asked) effect.textContent = ripple.sentence.map(({ text }) => text).join("");
  };
  const rows = proposal.moved.map(({ task, outline, name, startBefore, start, finish, isDelayed, reason }) => {
    const label = `${outline} ${name}`;
    const box = /** @type {HTMLInputElement} */ (
      element("input", { type: "checkbox", value: task, "aria-label": `Delay ${label}` })
    );
    box.checked = true;
    box.addEventListener("change", () => void changed());
    if (isDelayed) boxes.push(box);
    return element(
      "tr",
      {},
      element("td", {}, ...(isDelayed ? [box] : [])),
      element("th", { scope: "row" }, label),
      element("td", {}, day(startBefore)),
      element("td", {}, day(start)),
      element("td", {}, withWeekday(finishDayOf(minutesOf(finish)))),
      element("td", {}, reason),
    );
  });
  accept.addEventListener("click", async () => {
    const problem = await server.edit(project, { type: "delayTasks", delays: chosen() });
    if (problem) effect.textContent = problem;
    else result.closest("dialog")?.close();
  });
  void changed();
  return element(
    "div",
    {},
    table(["Delay", "Task", "Starts now", "Then", "Finishes then", "Why"], rows),
    effect,
    element("div", { class: "actions" }, accept),
  );
}

/**
 * Takes back what levelling delayed.
 * @param {LoadServer} server @param {LoadProject[]} projects
 * @param {HTMLFormElement} form @param {HTMLElement} result @param {HTMLDialogElement} dialog
 */
function release(server, projects, form, result, dialog) {
  return quietButton("Release levelling", async () => {
    const project = String(new FormData(form).get("project") ?? projects[0]?.id);
    const problem = await server.edit(project, { type: "releaseLevelling" });
    if (problem) result.replaceChildren(element("p", { class: "problem", role: "alert" }, problem));
    else dialog.close();
  });
}

/** @param {string} time */
const day = (time) => withWeekday(dayFrom(time.slice(0, 10)));

/** @param {string[]} heads @param {HTMLElement[]} rows */
function table(heads, rows) {
  const head = element("tr", {}, ...heads.map((text) => element("th", { scope: "col" }, text)));
  return element(
    "div",
    {
      class: "wide",
      tabindex: "0",
      role: "region",
      "aria-label": heads[0] === "Who" ? "Who is overbooked" : "What would move",
    },
    element("table", { class: "plain" }, element("thead", {}, head), element("tbody", {}, ...rows)),
  );
}

/** @param {string} name @param {string} value @param {string} words @param {boolean} on */
function radio(name, value, words, on) {
  const input = /** @type {HTMLInputElement} */ (element("input", { type: "radio", name, value }));
  input.checked = on;
  return element("label", { class: "check" }, input, words);
}

/** @param {string} name */
function checked(name) {
  const input = /** @type {HTMLInputElement} */ (element("input", { type: "checkbox", name }));
  input.checked = true;
  return input;
}

/** @param {string} name @param {string} words @param {string} value */
function dayField(name, words, value) {
  const input = /** @type {HTMLInputElement} */ (element("input", { type: "date", name, class: "input" }));
  input.value = value;
  return element("label", { class: "check" }, words, input);
}
