// @ts-check
// What the rows of the plan cost, for those who may know: asked for while it is shown, and again after edits.

/** @import { Store } from "../state/store.js" */
const PAUSE = 700; // milliseconds after the last edit

/** @param {Store} store @param {string} project @param {() => boolean} isShown whether any of it is */
export function followSpending(store, project, isShown) {
  let version = -1;
  /** @type {ReturnType<typeof setTimeout> | undefined} */ let timer;
  const look = () => {
    if (store.project.version === version || !isShown()) return;
    const pause = version < 0 ? 0 : PAUSE;
    version = store.project.version;
    clearTimeout(timer);
    timer = setTimeout(() => void ask(), pause);
  };
  store.subscribe(look);
  look();
  document.addEventListener("money-changed", () => {
    version = -1;
    look();
  });

  async function ask() {
    const answer = await fetch(`/api/v1/projects/${project}/money`).catch(() => null);
    const told = answer?.ok ? await answer.json().catch(() => null) : null;
    if (told) store.takeMoney(told);
  }
}
