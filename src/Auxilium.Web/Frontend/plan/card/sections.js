// @ts-check
// What the card of a task shows and edits: its fixed dates, its work, its progress, why it is there.

/** @import { Card } from "../state/types.js" */
/** @import { Store } from "../state/store.js" */
import { percentOf, shareOf } from "../../shared/percent.js";
import { runsOn, startTimer, stopTimer } from "../../shared/timer.js";
import { dayOf, finishDayOf, minutesOf, parts, short, span, timeIn } from "../state/time.js";
import { checkField, choiceField, element, quietButton, textField } from "./fields.js";

/** @typedef {(edit: object, tell: (problem: string) => void) => void} SendEdit */

/** @type {[string, string][]} */
const FIXED = [
  ["", "Free: its links decide"],
  ["startNoEarlierThan", "Not before"],
  ["startNoLaterThan", "No later than"],
  ["mustStartOn", "Exactly on"],
  ["finishNoEarlierThan", "Finish not before"],
  ["finishNoLaterThan", "Finish no later than"],
  ["mustFinishOn", "Finish exactly on"],
  ["asLateAsPossible", "As late as it can"],
  ["asSoonAsPossible", "As soon as it can"],
  ["pinned", "Pinned"],
];

/** Where the measure has a task, and how far it has drifted from there. @param {Store} store @param {Card} card */
export function plannedParts(store, card) {
  const measure = store.project.baselines.find(({ id }) => id === store.project.measure);
  const row = store.row(card.id);
  if (!measure || !row || row.start === null) return [];
  const { plannedStart: from, plannedFinish: to } = row;
  const planned =
    from === null || to === null
      ? `Not in “${measure.name}”: it is new since then.`
      : `In “${measure.name}”: ${span(dayOf(from), Math.max(dayOf(from), finishDayOf(to)))}. ` +
        (row.driftSaid === null ? "It still finishes as planned." : `It now finishes ${row.driftSaid}.`);
  return [element("p", { class: "hint planned-words" }, planned)];
}

/** @param {Card} card */
export function whyParts(card) {
  if (!card.active || card.start === null) return [element("p", {}, "It is inactive, so it has no dates.")];
  const steps = element("ol", { class: "why" });
  for (const { sentence } of card.why) steps.append(element("li", {}, sentence));
  const parts = [steps, element("p", { class: "why-finish" }, card.whyFinish)];
  for (const warning of card.warnings) parts.push(element("p", { class: "late" }, warning));
  if (card.totalFloat !== null)
    parts.push(
      element("p", { class: "mute" }, `Float: ${card.totalFloat} in all, ${card.freeFloat} before it moves another.`),
    );
  return parts;
}

/** @param {Store} store @param {Card} card @param {SendEdit} send */
export function dateParts(store, card, send) {
  const task = card.id;
  const ofFinish = /^(finish|mustFinish)/.test(card.fixedKind ?? "");
  const date = shown(store, card.fixedDate, ofFinish);
  const parts = [
    choiceField("Fixed date", FIXED, card.fixedKind ?? "", (kind, tell) => {
      const start = /^(finish|mustFinish)/.test(kind) ? card.finish : card.start;
      const day = card.fixedDate ?? start;
      if (kind === "") send({ type: "setConstraint", task, kind: null }, tell);
      else if (kind === "pinned") send({ type: "pinTask", task, start: day }, tell);
      else if (/Possible$/.test(kind)) send({ type: "setConstraint", task, kind }, tell);
      else send({ type: "setConstraint", task, kind, date: day }, tell);
    }),
  ];
  if (card.fixedKind === "pinned") {
    const finish = shown(store, card.pinnedFinish, true);
    parts.push(
      textField("Pinned to", date, (start, tell) =>
        send({ type: "pinTask", task, start, finish: card.pinnedFinish }, tell),
      ),
      textField(
        "until",
        finish,
        (to, tell) => send({ type: "pinTask", task, start: card.fixedDate, finish: to || null }, tell),
        {
          hint: "its length decides",
        },
      ),
    );
  } else if (card.fixedDate !== null)
    parts.push(
      textField("Day", date, (day, tell) =>
        send({ type: "setConstraint", task, kind: card.fixedKind, date: day }, tell),
      ),
    );
  parts.push(deadline(store, card, send));
  return parts;
}

/** @param {Store} store @param {Card} card @param {SendEdit} send */
export function deadline(store, card, send) {
  return textField(
    "Deadline",
    shown(store, card.deadline, true),
    (day, tell) => send({ type: "setDeadline", task: card.id, deadline: day || null }, tell),
    { hint: "none" },
  );
}

/** @param {Store} store @param {Card} card @param {SendEdit} send */
export function workParts(store, card, send) {
  const task = card.id;
  const calendars = /** @type {[string, string][]} */ (card.calendars.map(({ id, name }) => [id, name]));
  const parts = [
    choiceField("Calendar", [["", "The project’s, or its owner’s"], ...calendars], card.calendar ?? "", (id, tell) =>
      send({ type: "setTaskCalendar", task, calendar: id || null }, tell),
    ),
    checkField("Goes on round the clock", card.aroundTheClock, (on, tell) =>
      send({ type: "setAroundTheClock", task, on }, tell),
    ),
  ];
  parts.push(
    textField(
      "Effort of all",
      card.effort ?? "",
      (text, tell) => send({ type: "setEffort", task, effort: text || null }, tell),
      {
        hint: card.effortHours ? `${card.effortHours}h, by length and shares` : "6h",
      },
    ),
  );
  if (card.kind === "milestone") return parts;
  return [
    textField("Length", card.length, (length, tell) => send({ type: "setLength", task, length }, tell), {
      hint: "3d, or 3d? for a guess",
    }),
    rangeField(card, send),
    ...parts,
    element("h3", {}, "Pauses"),
    ...pauses(store, card, send),
  ];
}

/** @param {Card} card @param {SendEdit} send */
function rangeField(card, send) {
  const { estimate } = card;
  const value = estimate ? `${estimate.low}, ${estimate.likely}, ${estimate.high}` : "";
  return textField(
    "It may take",
    value,
    (text, tell) => {
      const lengths = text.split(/\s*(?:,|;|–|\bto\b)\s*/).filter(Boolean);
      if (lengths.length === 0) send({ type: "setEstimate", task: card.id, estimate: null }, tell);
      else if (lengths.length === 3)
        send(
          { type: "setEstimate", task: card.id, estimate: { low: lengths[0], likely: lengths[1], high: lengths[2] } },
          tell,
        );
      else tell("Type three lengths: at best, most likely and at worst, such as 3d, 5d, 10d.");
    },
    { hint: "at best, likely, at worst: 3d, 5d, 10d" },
  );
}

/** @param {Store} store @param {Card} card @param {SendEdit} send */
function pauses(store, card, send) {
  const set = (/** @type {{ after: string, for: string }[]} */ splits, /** @type {(p: string) => void} */ tell) =>
    send({ type: "setSplits", task: card.id, splits }, tell);
  const rows = card.splits.map((split, at) =>
    element(
      "fieldset",
      { class: "link-row" },
      element("legend", {}, `Pause ${at + 1}`),
      textField("After work of", split.after, (after, tell) => set(card.splits.with(at, { ...split, after }), tell), {
        key: `after ${at}`,
      }),
      textField("it pauses for", split.for, (time, tell) => set(card.splits.with(at, { ...split, for: time }), tell), {
        key: `for ${at}`,
      }),
      quietButton("Remove", () => set(card.splits.toSpliced(at, 1), store.tell), `Remove pause ${at + 1}`),
    ),
  );
  const another = textField(
    "Another pause",
    "",
    (text, tell) => {
      const match = /^(.+?)\s+after\s+(.+)$/i.exec(text);
      if (!match) tell("Type how long, and after how much work, such as 2d after 1d.");
      else set([...card.splits, { after: match[2], for: match[1] }], tell);
    },
    { hint: "2d after 1d" },
  );
  return [...rows, another];
}

/** Hours worked beside the work that was to be, and the timer. @param {Store} store @param {Card} card @param {string} project */
export function hoursParts(store, card, project) {
  const used = store.used.get(card.id);
  const words = used ? `${used.said}.` : "Nobody has entered hours yet.";
  const parts = [
    element("p", { class: `hours-used${used?.isEating ? " late" : ""}` }, `${used?.isEating ? "▲ " : ""}${words}`),
  ];
  if (card.kind === "phase" || store.whyNot !== null) return parts;
  const button = quietButton("", () => {
    const before = runsOn(project, card.id);
    const turned = before ? stopTimer() : startTimer(project, card.id);
    void turned.then((said) => {
      if (runsOn(project, card.id) === before) store.tell(said);
    });
  });
  const name = () => {
    button.textContent = runsOn(project, card.id) ? "Stop timer" : "Start timer";
    // The card is drawn anew after each edit: what is no longer in it is told no more.
    if (!button.isConnected && button.dataset.drawn) document.removeEventListener("auxilium-timer", name);
    button.dataset.drawn = "true";
  };
  name();
  document.addEventListener("auxilium-timer", name);
  return [...parts, element("div", { class: "actions" }, button)];
}

/** @param {Store} store @param {Card} card @param {SendEdit} send */
export function progressParts(store, card, send) {
  const task = card.id;
  const parts = [
    textField("Percent done", String(card.progress), (text, tell) => {
      const percent = percentOf(text);
      if (percent === null) tell("Type a percentage from 0 to 100, such as 40.");
      else send({ type: "reportProgress", task, progress: shareOf(percent) }, tell);
    }),
    textField(
      "Started on",
      shown(store, card.actualStart, false),
      (on, tell) => send(on ? { type: "startTask", task, on } : { type: "reportProgress", task, progress: 0 }, tell),
      { hint: "not started" },
    ),
    textField(
      "Finished on",
      shown(store, card.actualFinish, true),
      (on, tell) => send(on ? { type: "finishTask", task, on } : { type: "reopenTask", task }, tell),
      { hint: "not finished" },
    ),
  ];
  if (card.actualStart !== null && card.actualFinish === null)
    parts.push(
      textField(
        "Work left",
        card.remaining ?? "",
        (left, tell) => send({ type: "setRemaining", task, remaining: left || null }, tell),
        {
          hint: "what length and progress say",
        },
      ),
    );
  return parts;
}

/**
 * A date as one would type it; with its hour where that is not where the day begins or ends.
 * @param {Store} store
 * @param {string | null} instant
 * @param {boolean} ofFinish
 */
function shown(store, instant, ofFinish) {
  if (instant === null) return "";
  const minutes = minutesOf(instant);
  const day = ofFinish ? finishDayOf(minutes) : dayOf(minutes);
  const usual = ofFinish ? store.project.dayEnd : store.project.dayStart;
  const hour = minutes - day * 1440 === usual ? "" : ` ${timeIn(minutes, day)}`;
  return `${short(day)} ${parts(day).year}${hour}`;
}
