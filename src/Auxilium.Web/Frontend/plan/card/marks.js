// @ts-check
// What the card shows besides dates: marks, the checklist, pages that belong to the task, and when it comes again.

/** @import { Card } from "../state/types.js" */
/** @import { Store } from "../state/store.js" */
/** @import { SendEdit } from "./sections.js" */
import { FIELDS } from "../fields/fields.js";
import { checkField, element, quietButton, textField } from "./fields.js";

/** @param {Store} store @param {Card} card @param {SendEdit} send */
export const markParts = (store, card, send) => FIELDS.flatMap((field) => field.card?.(card, send, store) ?? []);

/**
 * Lists of the card are saved as a whole. What was changed last counts until the card has heard of it, so that two changes in a row
 * do not undo each other.
 * @type {Map<string, { items: unknown[], sending: number, version: number }>}
 */
const changed = new Map();

/**
 * @template T @param {Store} store @param {Card} card @param {string} field @param {T[]} items as the card has them
 * @param {(items: T[], tell: (problem: string) => void) => void} send
 */
export function savedList(store, card, field, items, send) {
  const key = `${card.id}/${field}`;
  const last = changed.get(key);
  if (last && last.sending === 0 && card.version >= last.version) changed.delete(key);
  const now = () => /** @type {T[]} */ (changed.get(key)?.items ?? items);
  return {
    now,
    /** @param {(items: T[]) => T[]} change @param {(problem: string) => void} [tell] */
    change(change, tell = store.tell) {
      const entry = { items: change(now()), sending: (changed.get(key)?.sending ?? 0) + 1, version: card.version };
      changed.set(key, entry);
      send(/** @type {T[]} */ (entry.items), (problem) => {
        const latest = changed.get(key);
        if (problem) changed.delete(key);
        else if (latest) {
          latest.sending--;
          latest.version = store.project.version;
        }
        tell(problem);
      });
    },
  };
}

/** @param {Store} store @param {Card} card @param {SendEdit} send */
export function checklistParts(store, card, send) {
  const list = savedList(store, card, "checklist", card.checklist, (steps, tell) =>
    send({ type: "setChecklist", task: card.id, steps }, tell),
  );
  const rows = list.now().map((step, at) => {
    const tick = checkField(
      step.text,
      step.done,
      (done, tell) => list.change((steps) => steps.map((s, i) => (i === at ? { ...s, done } : s)), tell),
      `step ${at}`,
    );
    const up = quietButton("▴", () => list.change((steps) => swapped(steps, at)), `Move “${step.text}” up`);
    /** @type {HTMLButtonElement} */ (up).disabled = at === 0;
    const remove = quietButton("Remove", () => list.change((steps) => steps.toSpliced(at, 1)), `Remove “${step.text}”`);
    return element("li", { class: `step${step.done ? " is-done" : ""}` }, tick, up, remove);
  });
  return [
    ...(rows.length > 0 ? [element("ul", { class: "steps" }, ...rows)] : []),
    textField(
      "Another step",
      "",
      (text, tell) => text && list.change((steps) => [...steps, { text, done: false }], tell),
      { hint: "call the harbour" },
    ),
  ];
}

/** @template T @param {T[]} list @param {number} at */
const swapped = (list, at) => list.with(at - 1, list[at]).with(at, list[at - 1]);

/** @param {Store} store @param {Card} card @param {SendEdit} send */
export function pageParts(store, card, send) {
  const list = savedList(store, card, "references", card.references, (references, tell) =>
    send({ type: "setReferences", task: card.id, references }, tell),
  );
  const rows = list.now().map(({ address, title }, at) =>
    element(
      "li",
      { class: "reference" },
      element("a", { href: address, target: "_blank", rel: "noopener noreferrer" }, title || address),
      quietButton("Remove", () => list.change((all) => all.toSpliced(at, 1)), `Remove the link ${title || address}`),
    ),
  );
  return [
    ...(rows.length > 0 ? [element("ul", { class: "references" }, ...rows)] : []),
    textField(
      "Another page",
      "",
      (text, tell) => {
        const [, address, title] = /^(\S+)\s*(.*)$/.exec(text) ?? [];
        if (address) list.change((all) => [...all, { address, title }], tell);
      },
      { hint: "https://… and what it is called" },
    ),
  ];
}

/**
 * When a task comes again: its rule, and what can be done about it.
 * @param {Store} store
 * @param {Card} card
 * @param {SendEdit} send
 * @param {() => void} change
 */
export function repeatParts(store, card, send, change) {
  const { repeats } = card;
  if (card.inSeries)
    return [
      element("p", {}, "It is one of a task that repeats. It can be done, moved or skipped alone."),
      card.active
        ? quietButton("Skip this one", () => send({ type: "setActive", task: card.id, on: false }, store.tell))
        : quietButton("Take it up again", () => send({ type: "setActive", task: card.id, on: true }, store.tell)),
    ];
  if (!repeats) return card.kind === "phase" ? [] : [quietButton("Repeat…", change)];
  const words = `${repeats.text[0].toUpperCase()}${repeats.text.slice(1)}; ${repeats.count} made, up to ${repeats.made}.`;
  const stop = store.project.stops.find(({ task }) => task === card.id);
  return [
    element("p", {}, words),
    ...(stop
      ? [
          element("p", { class: "late" }, `The project runs on: there would be ${stop.more} more.`),
          quietButton(`Extend it by ${stop.more}`, () => send({ type: "extendSeries", task: card.id }, store.tell)),
          quietButton("It ends there", () => send({ type: "keepSeries", task: card.id }, store.tell)),
        ]
      : []),
    textField("Extend it to", "", (until, tell) => send({ type: "extendSeries", task: card.id, until }, tell), {
      hint: "a day, such as 30 July",
    }),
    quietButton("Change when it comes…", change),
    quietButton("Stop repeating", () => send({ type: "setRepeat", task: card.id, rule: null }, store.tell)),
  ];
}
