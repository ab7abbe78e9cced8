// @ts-check
// Other projects: when they go on, shown above the plan on request.

/** @import { Store } from "../state/store.js" */
import { minutesOf } from "../state/time.js";

/** @param {Store} store @param {string} project the one that is open */
export function showOthers(store, project) {
  let isAsked = false;
  store.subscribe(() => {
    if (!store.view.others || isAsked) return;
    isAsked = true;
    void ask();
  });

  async function ask() {
    const answer = await fetch("/api/v1/projects").catch(() => null);
    /** @type {{ id: string, name: string, start: string, finish: string, tasks: number }[] | null} */
    const all = answer?.ok ? await answer.json().catch(() => null) : null;
    if (all === null) {
      isAsked = false;
      return;
    }
    store.others = all
      .filter(({ id, tasks }) => id !== project && tasks > 0)
      .map(({ id, name, start, finish }) => ({ id, name, start: minutesOf(start), finish: minutesOf(finish) }));
    store.changed();
  }
}
