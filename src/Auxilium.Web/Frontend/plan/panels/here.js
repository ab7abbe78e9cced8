// @ts-check
// Who else has the plan open, in the head of the page and beside the rows they are on.

/** @import { Store } from "../state/store.js" */

/** @typedef {{ id: string, person: string, name: string, initials: string, hue: number, task: string | null }} Here */

/**
 * @param {Store} store
 * @param {string} me
 * @returns {(here: Here[], ours: string) => void} shows who is there now; ours is the id of this page
 */
export function showHere(store, me) {
  /** @type {Here[]} */ let others = [];

  store.subscribe(mark);
  return show;

  /** @param {Here[]} here @param {string} ours */
  function show(here, ours) {
    others = here.filter(({ id }) => id !== ours);
    const faces = /** @type {HTMLElement} */ (document.getElementById("here"));
    const people = [...new Map(others.filter(({ person }) => person !== me).map((one) => [one.person, one])).values()];
    faces.hidden = people.length === 0;
    faces.setAttribute(
      "aria-label",
      people.length === 0 ? "" : `Also here: ${people.map(({ name }) => name).join(", ")}`,
    );
    faces.replaceChildren(
      ...people.slice(0, 6).map(({ initials, name, hue }) => face(initials, hue, name)),
      ...(people.length > 6 ? [document.createTextNode(`+${people.length - 6}`)] : []),
    );
    mark();
  }

  /** Shows who is on which row, beside the rows: at the line that each is on now. */
  function mark() {
    const layer = document.querySelector("#list .list-body");
    if (!layer) return;
    /** @type {Map<string, Here[]>} */ const on = new Map();
    for (const one of others) {
      if (!one.task || !store.line.has(one.task)) continue;
      on.set(one.task, [...(on.get(one.task) ?? []), one]);
    }
    const badges = /** @type {HTMLElement[]} */ ([...layer.querySelectorAll(".here-badge")]);
    for (const badge of badges) if (!on.has(badge.dataset.on ?? "")) badge.remove();
    for (const [task, here] of on) {
      const [{ initials, hue }] = here;
      const names = [...new Set(here.map(({ name }) => name))];
      const title = names.length === 1 ? `${names[0]} is here` : `${names.join(", ")} are here`;
      let badge = badges.find((known) => known.dataset.on === task);
      if (badge?.title !== title) {
        badge?.remove();
        badge = face(names.length === 1 ? initials : `${initials} +${names.length - 1}`, hue, title);
        badge.classList.add("here-badge");
        badge.dataset.on = task;
        layer.append(badge);
      }
      badge.style.top = `${(store.line.get(task) ?? 0) * store.rowHeight}px`;
    }
  }
}

/** @param {string} initials @param {number} hue @param {string} title */
function face(initials, hue, title) {
  const mark = document.createElement("span");
  mark.className = "initials";
  mark.dataset.hue = String(hue);
  mark.title = title;
  mark.setAttribute("aria-hidden", "true");
  mark.textContent = initials;
  return mark;
}
