// @ts-check
// Now: what is ticked, moved or handed over is sent at once, and the line above says what it did.

import { sender } from "../shared/edits.js";
import { SaidLine } from "../shared/said.js";

const main = /** @type {HTMLElement} */ (document.getElementById("main"));
const line = new SaidLine("now");
const send = sender(main.dataset.token ?? "");
for (const item of /** @type {NodeListOf<HTMLElement>} */ (main.querySelectorAll(".now-task"))) listen(item);
for (const item of /** @type {NodeListOf<HTMLElement>} */ (main.querySelectorAll(".now-proposal"))) decide(item);
main.addEventListener("keydown", (event) => {
  const lines = /** @type {HTMLElement[]} */ ([...main.querySelectorAll(".now-list > li a strong")]).map(
    (name) => /** @type {HTMLElement} */ (name.closest("a")),
  );
  const at = lines.indexOf(/** @type {HTMLElement} */ (document.activeElement));
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (at < 0 || !step) return;
  event.preventDefault();
  lines[at + step]?.focus();
});
document.documentElement.dataset.ready = "true";

/** @param {HTMLElement} item */
function listen(item) {
  const { task = "" } = item.dataset;
  const tell = problemOf(item);
  item.addEventListener("change", (event) => {
    const input = /** @type {HTMLInputElement} */ (event.target);
    const text = input.value.trim();
    switch (input.dataset.act) {
      case "done":
        return void edit(input.checked ? { type: "finishTask", task } : { type: "reopenTask", task }, () => {
          input.checked = !input.checked;
        });
      case "move":
        if (text === "") return;
        return void edit({ type: "placeTask", task, start: text }, () => (input.value = ""));
      case "owner":
        if (text === "") return;
        return void edit({ type: "setOwner", task, owner: text }, () => (input.value = ""));
    }
  });

  item.addEventListener("click", (event) => {
    const { act, person } = /** @type {HTMLElement} */ (event.target).dataset;
    if (act === "take") void edit({ type: "takeTask", task, person }, () => {});
  });

  /** @param {object} what @param {() => void} undone shows it as it was, once it is taken back */
  async function edit(what, undone) {
    const done = await line.edit(send, item, what, tell, () => {
      undone();
      item.classList.remove("is-settled");
    });
    if (done) item.classList.add("is-settled");
  }
}

/** @param {HTMLElement} item */
function decide(item) {
  const { project, proposal } = item.dataset;
  const tell = problemOf(item);
  item.addEventListener("click", async (event) => {
    const { act } = /** @type {HTMLElement} */ (event.target).dataset;
    if (act !== "accept" && act !== "decline") return;
    const answer = await send("POST", `/api/v1/projects/${project}/proposals/${proposal}/${act}`);
    if ("problem" in answer) {
      tell(answer.problem);
      return;
    }
    const next = item.nextElementSibling ?? item.previousElementSibling;
    item.remove();
    line.say(act === "accept" ? "Accepted: the plan is changed." : "Declined: its author is told.");
    /** @type {HTMLElement | null} */ (next?.querySelector("button"))?.focus();
  });
}

/** @param {HTMLElement} item @returns {(problem: string) => void} */
function problemOf(item) {
  const line = /** @type {HTMLElement} */ (item.querySelector('[data-field="problem"]'));
  return (problem) => (line.textContent = problem);
}
