// @ts-check
// The line above a plan as it was: which day is shown, and what can be done with it.

import { sender } from "../../shared/edits.js";

/** @param {HTMLElement} line @param {string} project @param {string} token */
export function showPast(line, project, token) {
  const slider = /** @type {HTMLInputElement | null} */ (document.getElementById("past-day"));
  if (slider) {
    /** @type {{ name: string, version: number }[]} */ const days = JSON.parse(slider.dataset.days ?? "[]");
    const told = /** @type {HTMLOutputElement} */ (document.getElementById("past-day-name"));
    slider.addEventListener("input", () => {
      const { name } = days[Number(slider.value)];
      told.value = name;
      slider.setAttribute("aria-valuetext", name);
    });
    slider.addEventListener("change", () => {
      const { version } = days[Number(slider.value)];
      location.search = `?version=${version}`;
    });
  }
  document.getElementById("past-take")?.addEventListener("click", () => void take());

  /** Takes what is shown as a baseline of the plan as it is now. */
  async function take() {
    const words = /** @type {HTMLElement} */ (document.getElementById("past-words"));
    const name =
      words.querySelector("strong")?.textContent?.replace("The plan as it was on ", "As it was on ") ?? "As it was";
    const version = Number(line.dataset.version);
    const answer = await sender(token)("POST", `/api/v1/projects/${project}/edits`, {
      id: crypto.randomUUID(),
      baseVersion: version,
      edit: { type: "takePastBaseline", name, version },
    });
    words.setAttribute("role", "status");
    words.textContent =
      "problem" in answer ? answer.problem : `Taken as the baseline “${name}”. Rename it or delete it in Compare.`;
  }
}
