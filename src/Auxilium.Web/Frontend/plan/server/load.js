// @ts-check
// Who has how much to do, fetched once the plan is drawn and again after edits: marks tasks whose owner is overbooked while they are
// on, and says beside each name that can be picked who is free then.

/** @import { Store } from "../state/store.js" */
/** @import { Timeline } from "../timeline/timeline.js" */
/** @import { LoadAnswer } from "../../load/model.js" */
import { hours, isOver, pastDays } from "../../load/model.js";
import { element } from "../card/fields.js";
import { part } from "../../shared/part.js";
import { dayFrom, dayOf, finishDayOf, iso } from "../state/time.js";

const PAUSE = 1000; // milliseconds after the last edit
const MOST_DAYS = 790;

/**
 * @param {Store} store @param {Timeline} timeline @param {HTMLElement} board
 * @param {string} project
 * @returns {() => void} shows the load under the timeline, or hides it
 */
export function followLoad(store, timeline, board, project) {
  if (store.rights === "shared" || store.rights === "past")
    return () => store.tell("This shows the plan only, and nobody’s load.");
  document.head.append(element("link", { rel: "stylesheet", href: "/load.css" }));
  const histogram = part(
    async () => {
      const { makeHistogram } = await import("../panels/histogram.js");
      const loads = { answer: () => answer, listen: (/** @type {() => void} */ act) => void listeners.push(act) };
      return makeHistogram(store, timeline, board, loads, project);
    },
    (said) => store.tell(said),
  );
  /** @type {LoadAnswer | null} */ let answer = null;
  /** @type {(() => void)[]} */ const listeners = [];
  let version = -1;
  /** @type {ReturnType<typeof setTimeout> | undefined} */ let timer;
  store.subscribe(() => {
    if (store.project.version === version) return;
    version = store.project.version;
    clearTimeout(timer);
    timer = setTimeout(() => void ask(), PAUSE);
  });
  version = store.project.version;
  void ask();
  document.addEventListener("focusin", ({ target }) => {
    if (target instanceof HTMLInputElement && target.getAttribute("list") === "people") offerFree();
  });
  return () => void histogram((turn) => turn());

  async function ask() {
    const [from, to] = extent(store);
    const told = await fetch(`/api/v1/load?projects=${project}&from=${iso(from)}&to=${iso(to)}`).catch(() => null);
    answer = told?.ok ? await told.json().catch(() => null) : answer;
    if (!answer) return;
    const over = overbooked(answer, project);
    if ([...over].join() !== [...store.overbooked].join()) {
      store.overbooked = over;
      store.changed();
    }
    for (const act of listeners) act();
  }

  /** Beside each name: how much time they have while the current task is on. */
  function offerFree() {
    const row = store.row(store.current?.id);
    if (!answer || !row || row.start === null) return;
    const first = dayFrom(answer.from);
    const [from, to] = [dayOf(row.start) - first, Math.max(dayOf(row.start), finishDayOf(row.finish)) - first];
    for (const option of /** @type {HTMLOptionElement[]} */ ([
      ...(document.getElementById("people")?.children ?? []),
    ])) {
      const person = answer.people.find(({ name }) => name === option.value);
      let free = 0;
      for (let day = from; person && day <= to; day++)
        free += Math.max(0, (person.capacity[day] ?? 0) - (person.load[day] ?? 0));
      option.label = person
        ? `${person.name}: ${free < 0.5 ? "no time then" : `${hours(free)} h free then`}`
        : option.value;
    }
  }
}

/** The days that the plan is about, from today or its start on. @param {Store} store @returns {[number, number]} */
function extent({ rows, project }) {
  const today = dayOf(project.today);
  let [from, to] = [today, today + 60];
  for (const { start, finish } of rows) {
    if (start === null) continue;
    from = Math.min(from, dayOf(start));
    to = Math.max(to, dayOf(finish));
  }
  return [from, Math.min(to, from + MOST_DAYS)];
}

/** By task: on how many days its owner has too much to do while it is on, in words. @param {LoadAnswer} answer @param {string} project */
function overbooked(answer, project) {
  const past = pastDays(answer);
  /** @type {Map<string, string>} */ const found = new Map();
  for (const { id, name, load, capacity, work } of answer.people)
    for (const { project: of, task, first, minutes } of work) {
      if (of !== project) continue;
      const days = minutes.filter(
        (much, at) => much > 0 && first + at >= past && isOver(load[first + at] ?? 0, capacity[first + at] ?? 0),
      ).length;
      if (days > 0)
        found.set(`${task} ${id}`, `${name} is overbooked on ${days === 1 ? "a day" : `${days} days`} while it is on`);
    }
  return found;
}
