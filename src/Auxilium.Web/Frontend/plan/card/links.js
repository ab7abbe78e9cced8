// @ts-check
// The links of a task from both ends: which, of what kind, with what lag.

/** @import { Card, CardLink } from "../state/types.js" */
/** @import { Store } from "../state/store.js" */
/** @import { Send } from "./fields.js" */
import { offerRows, withNumbers } from "../state/rows-named.js";
import { checkField, choiceField, element, quietButton, textField } from "./fields.js";

/** @type {Record<"before" | "after", [string, string][]>} what the task after does, seen from either end */
const KINDS = {
  before: [
    ["finishToStart", "after"],
    ["startToStart", "with"],
    ["finishToFinish", "ends with"],
    ["startToFinish", "ends after it starts"],
  ],
  after: [
    ["finishToStart", "after this"],
    ["startToStart", "with this"],
    ["finishToFinish", "ends with this"],
    ["startToFinish", "ends after this starts"],
  ],
};

/**
 * @param {Store} store
 * @param {Card} card
 * @param {(edit: object, tell: (problem: string) => void) => void} send
 * @param {(id: string) => void} open another card
 */
export function linkParts(store, card, send, open) {
  return [
    element("h3", {}, "Comes after"),
    ...card.before.map((link) => linkRow(store, card, link, "before", send, open)),
    offered(
      store,
      card,
      textField("Another row it comes after", "", typed(store, card, send), { hint: "4, with Rig, ends with 4 + 1d" }),
    ),
    element("h3", {}, "What comes after it"),
    ...card.after.map((link) => linkRow(store, card, link, "after", send, open)),
    offered(
      store,
      card,
      textField("Another row that comes after it", "", follower(store, card, send), { hint: "6, or its name" }),
    ),
  ];
}

/** Offers rows while typing. @param {Store} store @param {Card} card @param {HTMLElement} field */
function offered(store, card, field) {
  const input = /** @type {HTMLInputElement} */ (field.querySelector("input"));
  input.addEventListener("focus", () => offerRows(store, input, card.id), { once: true });
  return field;
}

/**
 * @param {Store} store
 * @param {Card} card
 * @param {CardLink} link
 * @param {"before" | "after"} side
 * @param {(edit: object, tell: (problem: string) => void) => void} send
 * @param {(id: string) => void} open
 */
function linkRow(store, card, link, side, send, open) {
  const ends = side === "before" ? { from: link.task, to: card.id } : { from: card.id, to: link.task };
  // Only what was changed: the rest of the link may have become something else since this was drawn.
  const change = (/** @type {object} */ what) => ({ type: "linkTasks", ...ends, ...what });
  const name = `${link.outline} ${link.name}`;
  return element(
    "fieldset",
    { class: "link-row" },
    element(
      "legend",
      {},
      quietButton(name, () => open(link.task), `Open the card of ${name}`),
    ),
    choiceField("Kind", KINDS[side], link.kind, (kind, tell) => send(change({ kind }), tell), `kind ${link.task}`),
    textField("Lag", link.lag, (text, tell) => send(change(lagOf(text)), tell), { key: `lag ${link.task}` }),
    checkField(
      "by the clock",
      link.elapsed,
      (elapsed, tell) => send(change({ elapsed }), tell),
      `elapsed ${link.task}`,
    ),
    quietButton("Unlink", () => send({ type: "unlinkTasks", ...ends }, store.tell), `Unlink ${name}`),
  );
}

/**
 * What is typed for a lag: 2d, -1d for a lead, or 12h elapsed for hours on the clock.
 * @param {string} text
 * @returns {{ lag: string, elapsed?: true }}
 */
export function lagOf(text) {
  const onTheClock = /^(.*\S)\s+elapsed$/i.exec(text.trim());
  return onTheClock ? { lag: onTheClock[1], elapsed: true } : { lag: text.trim() || "0d" };
}

/**
 * What is typed is added to the links there are.
 * @param {Store} store
 * @param {Card} card
 * @param {(edit: object, tell: (problem: string) => void) => void} send
 * @returns {Send}
 */
function typed(store, card, send) {
  return (text, tell) => {
    if (text === "") return;
    const links = withNumbers(store, text, card.id);
    if ("problem" in links) return tell(links.problem);
    const all = [...card.before.map((link) => link.text), links.text].join(", ");
    const rows = Object.fromEntries(store.rows.map((row) => [row.no, row.id]));
    send({ type: "typePredecessors", task: card.id, after: all, rows }, tell);
  };
}

/** @param {Store} store @param {Card} card @param {(edit: object, tell: (problem: string) => void) => void} send @returns {Send} */
function follower(store, card, send) {
  return (text, tell) => {
    if (text === "") return;
    const links = withNumbers(store, text, card.id);
    if ("problem" in links) return tell(links.problem);
    const row = store.rows.find((r) => r.no === links.text.trim());
    if (row) send({ type: "linkTasks", from: card.id, to: row.id }, tell);
    else tell(`There is no row “${text.slice(0, 30)}”: type its number or its name.`);
  };
}
