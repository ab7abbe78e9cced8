// @ts-check
// Now: what is ticked, moved or handed over is sent at once, and the line above says what it did.

import { sender } from "../shared/edits.js";

const main = /** @type {HTMLElement} */ (document.getElementById("main"));
const said = /** @type {HTMLElement} */ (document.getElementById("now-said"));
const undo = /** @type {HTMLButtonElement} */ (document.getElementById("now-undo"));
const send = sender(main.dataset.token ?? "");
/** Takes back what was last done here. @type {(() => void) | null} */ let takeBack = null;
undo.addEventListener("click", () => takeBack?.());
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
  const { project = "", task = "" } = item.dataset;
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

  /** @param {object} what @param {() => void} undone shows it as it was, once it is taken back */
  async function edit(what, undone) {
    tell("");
    const path = `/api/v1/projects/${project}/edits`;
    const body = { id: crypto.randomUUID(), baseVersion: Number(item.dataset.version) };
    const answer = await send("POST", path, { ...body, edit: what });
    if ("problem" in answer) {
      tell(answer.problem);
      return;
    }
    item.classList.add("is-settled");
    if (!answer.ripple) return say(answer.sentence ? `Proposed to the coordinator: ${answer.sentence}` : "Saved.");
    item.dataset.version = String(answer.version);
    say(sentence(answer.ripple.sentence), async () => {
      const taken = await send("POST", path, { ...body, id: crypto.randomUUID(), takeBack: "lastEdit" });
      if ("problem" in taken) {
        tell(taken.problem);
        return;
      }
      undone();
      item.classList.remove("is-settled");
      say(sentence(taken.ripple.sentence));
    });
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
    say(act === "accept" ? "Accepted: the plan is changed." : "Declined: its author is told.");
    /** @type {HTMLElement | null} */ (next?.querySelector("button"))?.focus();
  });
}

/** @param {HTMLElement} item @returns {(problem: string) => void} */
function problemOf(item) {
  const line = /** @type {HTMLElement} */ (item.querySelector('[data-field="problem"]'));
  return (problem) => (line.textContent = problem);
}

/** @param {{ text: string }[]} runs */
function sentence(runs) {
  return runs.map((run) => run.text).join("");
}

/** @param {string} text @param {(() => void) | null} [undoIt] takes back what is said */
function say(text, undoIt = null) {
  said.textContent = text;
  takeBack = undoIt;
  undo.hidden = undoIt === null;
}
