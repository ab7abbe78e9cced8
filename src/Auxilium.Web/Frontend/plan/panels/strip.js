// @ts-check
// The bottom line: what the last edit did, in a sentence, with the way back.

/** @import { Store } from "../state/store.js" */
/** @import { Outbox } from "../server/outbox.js" */
/** @import { Run, Move, Ripple } from "../state/types.js" */
import { offerOf } from "./series-offer.js";
import { dayOf, finishDayOf, minutesOf, withWeekday } from "../state/time.js";

/** @param {Store} store */
export function drawStrip(store) {
  const strip = /** @type {HTMLElement} */ (document.getElementById("strip"));
  const text = /** @type {HTMLElement} */ (document.getElementById("strip-text"));
  const moved = button("moved");
  const undo = button("undo");
  const redo = button("redo");
  const extend = button("extend");
  const drop = /** @type {HTMLButtonElement} */ (document.getElementById("drop"));
  drop.addEventListener("click", () => store.notice?.drop?.());
  let said = "";
  store.subscribe(() => {
    const { notice } = store;
    strip.dataset.tone = notice?.tone ?? "ripple";
    const runs = notice ? [{ text: notice.text, strong: false }] : store.sentence;
    const sentence = runs.length > 0 ? runs : [{ text: welcome(store), strong: false }];
    // Screen readers get a sentence only when it changes.
    const now = JSON.stringify(sentence);
    if (now !== said) text.replaceChildren(...sentence.map(element));
    said = now;
    moved.hidden = notice !== null || store.sentence.length === 0;
    // What repeats would stop before its project does: that is offered, never done.
    const offer = offerOf(store);
    extend.hidden = notice !== null || offer === null;
    if (offer) {
      extend.textContent = `Extend ${offer.name}`;
      extend.title = offer.text;
    }
    drop.hidden = !notice?.drop;
    undo.disabled = !store.canUndo;
    redo.hidden = !store.canRedo;
  });
}

/** @param {Store} store */
function welcome(store) {
  if (store.whyNot !== null) return store.whyNot;
  return store.rows.length === 0
    ? "Type what has to happen, one task a line. After each edit this line says what moved and what it did to the finish."
    : "After each edit this line says what moved and what it did to the finish.";
}

/** @param {Run} run */
function element({ text, strong }) {
  const node = document.createElement(strong ? "strong" : "span");
  node.textContent = text;
  return node;
}

/** @param {string} name */
function button(name) {
  return /** @type {HTMLButtonElement} */ (document.querySelector(`.strip [data-command="${name}"]`));
}

/** Whether what moved is on its way: pressed twice, it is shown once, and does not come back after it was closed. */
let isAsking = false;

/**
 * Lists what the last edit moved.
 * @param {Store} store
 * @param {Outbox} outbox
 * @param {(id: string) => void} show brings a row into sight
 */
export async function openMoves(store, outbox, show) {
  if (isAsking) return;
  isAsking = true;
  const ripple = await outbox.last().finally(() => (isAsking = false));
  if ("message" in ripple) {
    store.tell(ripple.message);
    return;
  }
  const sentence = document.createElement("p");
  sentence.append(...ripple.sentence.map(element));
  const dialog = /** @type {HTMLDialogElement} */ (document.getElementById("moved"));
  const table = document.createElement("table");
  table.className = "moves";
  const head = table.createTHead().insertRow();
  for (const label of ["Task", "From", "To", "By", "Why"]) {
    const cell = document.createElement("th");
    cell.scope = "col";
    cell.textContent = label;
    head.append(cell);
  }
  const body = table.createTBody();
  for (const move of ripple.moves) fillRow(body.insertRow(), store, move, dialog, show);
  document
    .getElementById("moved-list")
    ?.replaceChildren(sentence, ...effects(store, ripple), ...(ripple.moves.length > 0 ? [table] : []));
  dialog.showModal();
}

/** What else it did: to warnings, deadlines, and to what sets the finish. @param {Store} store @param {Ripple} ripple */
function effects(store, ripple) {
  const list = document.createElement("ul");
  list.className = "effects";
  const add = (/** @type {string} */ text) => {
    const item = document.createElement("li");
    item.textContent = text;
    list.append(item);
  };
  for (const warning of ripple.newWarnings) add(`New: ${warning}`);
  for (const warning of ripple.goneWarnings) add(`No longer: ${warning}`);
  for (const { task, minutesBefore, minutesAfter } of ripple.deadlines)
    add(`${nameOf(store, task)} is ${minutesAfter < minutesBefore ? "nearer to" : "farther from"} its deadline.`);
  if (ripple.pathChanged && ripple.path.length > 0)
    add(`The critical path is now: ${ripple.path.map((id) => nameOf(store, id)).join(" → ")}.`);
  return list.childElementCount > 0 ? [list] : [];
}

/** @param {Store} store @param {string} id */
const nameOf = (store, id) => store.row(id)?.name ?? "a row that is gone";

/**
 * @param {HTMLTableRowElement} line
 * @param {Store} store
 * @param {Move} move
 * @param {HTMLDialogElement} dialog
 * @param {(id: string) => void} show
 */
function fillRow(line, store, move, dialog, show) {
  const name = document.createElement("button");
  name.type = "button";
  name.textContent = store.row(move.task)?.name ?? "";
  name.addEventListener("click", () => {
    dialog.close();
    show(move.task);
  });
  line.insertCell().append(name);
  line.insertCell().textContent = span(move.startBefore, move.finishBefore);
  line.insertCell().textContent = span(move.startAfter, move.finishAfter);
  line.insertCell().textContent = move.shift;
  line.insertCell().textContent = move.why;
}

/** @param {string} start @param {string} finish */
function span(start, finish) {
  const from = withWeekday(dayOf(minutesOf(start)));
  const to = withWeekday(finishDayOf(minutesOf(finish)));
  return from === to ? from : `${from} – ${to}`;
}
