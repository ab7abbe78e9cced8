// @ts-check
// Hours worked on the rows of the plan: as they were when it was opened, and again whenever they may have changed.

/** @import { Store } from "../state/store.js" */
import { onTimer } from "../../shared/timer.js";

const PAUSE = 1000; // milliseconds after the last edit

/** @param {Store} store @param {string} project @param {import("../state/types.js").Used[]} used */
export function followHours(store, project, used) {
  let version = store.project.version;
  /** @type {ReturnType<typeof setTimeout> | undefined} */ let timer;
  store.takeUsed(used);
  onTimer((_, said) => {
    store.say(said);
    void ask();
  });
  store.subscribe(() => {
    // Effort and progress may be others now; where nobody has worked, that changes nothing.
    if (store.project.version === version || store.used.size === 0) return;
    version = store.project.version;
    clearTimeout(timer);
    timer = setTimeout(() => void ask(), PAUSE);
  });

  async function ask() {
    const answer = await fetch(`/api/v1/projects/${project}/used`).catch(() => null);
    const told = answer?.ok ? await answer.json().catch(() => null) : null;
    if (told) store.takeUsed(told);
  }
}
