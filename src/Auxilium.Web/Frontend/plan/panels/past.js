// @ts-check
// The line above a plan as it was: which day is shown, and what can be done with it.

/** @import { Store } from "../state/store.js" */
/** @import { Outbox } from "../server/outbox.js" */

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
    const body = {
      id: crypto.randomUUID(),
      baseVersion: Number(line.dataset.version),
      edit: { type: "takePastBaseline", name, version: Number(line.dataset.version) },
    };
    const answer = await fetch(`/api/v1/projects/${project}/edits`, {
      method: "POST",
      headers: { "Content-Type": "application/json", "X-Auxilium-Token": token },
      body: JSON.stringify(body),
    }).catch(() => null);
    const content = await answer?.json().catch(() => null);
    words.setAttribute("role", "status");
    words.textContent = answer?.ok
      ? `Taken as the baseline “${name}”. Rename it or delete it in Compare.`
      : (content?.detail ?? "The server does not answer, so nothing was taken: try again in a moment.");
  }
}
