// @ts-check
// My week: what is ticked and typed is sent at once, and the line above says what it did.

import { sender } from "../shared/edits.js";
import { sentence, SaidLine } from "../shared/said.js";
import { percentOf, shareOf } from "../shared/percent.js";
import { runsOn, startTimer, stopTimer } from "../shared/timer.js";

const main = /** @type {HTMLElement} */ (document.getElementById("main"));
const line = new SaidLine("week");
const say = line.say.bind(line);

document.getElementById("print")?.addEventListener("click", () => print());
for (const item of /** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll(".week-task"))) listen(item);

/** @param {HTMLElement} item */
function listen(item) {
  const { project = "", task = "" } = item.dataset;
  const address = `/api/v1/projects/${project}`;
  const field = (/** @type {string} */ name) =>
    /** @type {HTMLInputElement} */ (item.querySelector(`[data-field="${name}"]`));
  const problem = (/** @type {string} */ text) => {
    const place = field("problem");
    if (place) place.textContent = text;
    else say(text);
  };

  document.addEventListener("auxilium-timer", () => {
    const button = item.querySelector('[data-act="timer"]');
    if (!button) return;
    const before = button.textContent ?? "";
    button.textContent = runsOn(project, task) ? "Stop timer" : "Start timer";
    button.setAttribute("aria-label", (button.getAttribute("aria-label") ?? "").replace(before, button.textContent));
  });
  item.addEventListener("change", (event) => {
    const input = /** @type {HTMLInputElement} */ (event.target);
    const text = input.value.trim();
    switch (input.dataset.act) {
      case "done":
        return void edit(input.checked ? { type: "finishTask", task } : { type: "reopenTask", task }, () => {
          input.checked = !input.checked;
        });
      case "progress": {
        const percent = percentOf(text);
        if (percent === null) return problem("Type how much is done, from 0 to 100%, such as 40.");
        return void edit({ type: "reportProgress", task, progress: shareOf(percent) }, back(input));
      }
      case "left":
        return void edit({ type: "setRemaining", task, remaining: inHours(text) }, back(input));
      case "hours":
        return void send("PUT", `/tasks/${task}/hours`, { day: main.dataset.today, hours: text }).then(
          (answer) => answer && say(`${answer.text} worked today: saved.`),
        );
    }
  });
  item.addEventListener("click", (event) => {
    const { act } = /** @type {HTMLElement} */ (event.target).dataset;
    if (act === "timer")
      void (runsOn(project, task) ? stopTimer() : startTimer(project, task)).then((told) => say(told));
    if (act === "comment") void comment();
    if (act === "look") void look();
    if (act === "cannot") void cannot();
  });

  // What has begun stays begun: its rest goes on later.
  const later = () =>
    item.dataset.begun === "true"
      ? { type: "resumeTask", task, on: field("start").value }
      : { type: "placeTask", task, start: field("start").value };

  async function comment() {
    const text = field("comment").value.trim();
    if (text === "") return problem("Type what there is to say first.");
    if (!(await send("POST", `/tasks/${task}/comments`, { text }))) return;
    field("comment").value = "";
    say("Your comment is on the task.");
  }

  async function look() {
    const answer = await send("POST", "/edits?preview=true", body(later()));
    if (answer) field("would").textContent = sentence(answer.ripple.sentence);
  }

  async function cannot() {
    const answer = await send("POST", "/edits", { ...body(later()), note: field("why").value.trim() });
    if (!answer) return;
    field("would").textContent = answer.sentence ?? sentence(answer.ripple.sentence);
    say(answer.proposal ? "The coordinator is told, with what it would move, and decides." : "Moved.");
  }

  /** @param {object} what @param {() => void} undone shows it as it was, once it is taken back */
  const edit = (what, undone) => line.edit(sender(main.dataset.token ?? ""), item, what, problem, undone);

  /** Shows in a field what was there before. @param {HTMLInputElement} input */
  function back(input) {
    const before = input.defaultValue;
    input.defaultValue = input.value;
    return () => {
      input.value = before;
      input.defaultValue = before;
    };
  }

  /** @param {object} what */
  const body = (what) => ({ id: crypto.randomUUID(), baseVersion: Number(item.dataset.version), edit: what });

  /** @param {string} method @param {string} path @param {object} content @returns {Promise<any>} nothing when it was refused */
  async function send(method, path, content) {
    problem("");
    const told = await sender(main.dataset.token ?? "")(method, address + path, content);
    if ("problem" in told) return problem(told.problem);
    if (typeof told.version === "number") item.dataset.version = String(told.version);
    return told;
  }
}

/** A number alone is hours here: the server reads the rest. @param {string} text */
const inHours = (text) => (/^[\d.,½¼¾\s]+$/.test(text) ? `${text}h` : text);
