// @ts-check
// Who works on a task: its owner, those who help and with how much of their time, and what more hands do to it.

/** @import { Card } from "../state/types.js" */
/** @import { Store } from "../state/store.js" */
/** @import { SendEdit } from "./sections.js" */
import { choiceField, element, quietButton, textField } from "./fields.js";

/** @param {Store} store @param {Card} card @param {SendEdit} send */
export function peopleParts(store, card, send) {
  const task = card.id;
  const [owner, ...helpers] = card.people;
  const others = (/** @type {string} */ id) => card.people.filter((person) => person.id !== id);
  const assign = (/** @type {Card["people"]} */ people, /** @type {(problem: string) => void} */ tell) =>
    send({ type: "setAssignments", task, assignments: people.map(assignmentOf) }, tell);
  const share = (/** @type {Card["people"][number]} */ person) =>
    textField(
      `${person.name}: share of their time`,
      `${Math.round(person.share * 100)}%`,
      (text, tell) => {
        const percent = percentOf(text);
        if (percent === null) tell("Type a part of their time from 1 to 100%.");
        else
          assign(
            card.people.map((one) => (one.id === person.id ? { ...one, share: percent / 100 } : one)),
            tell,
          );
      },
      { key: `share ${person.id}` },
    );
  const effort = (/** @type {Card["people"][number]} */ person) =>
    textField(
      `${person.name}: effort`,
      person.effort ?? "",
      (text, tell) => send({ type: "setEffort", task, person: person.id, effort: text || null }, tell),
      { hint: "what length and share say", key: `effort ${person.id}` },
    );
  const problem = element("p", { class: "problem", role: "alert" });
  const tell = (/** @type {string} */ text) => void (problem.textContent = text);
  const parts = [
    textField("Owner", owner?.name ?? "", (text, tell) => send({ type: "setOwner", task, owner: text }, tell), {
      hint: "nobody",
      list: "people",
      key: "card owner",
    }),
    ...(owner ? [share(owner), effort(owner)] : []),
    ...helpers.flatMap((helper) => [
      share(helper),
      effort(helper),
      quietButton("Take off", () => assign(others(helper.id), tell), `Take off ${helper.name}`),
    ]),
    problem,
  ];
  if (owner) parts.push(helperField(card, send, tell));
  if (card.people.length > 1 || card.hands)
    parts.push(
      choiceField(
        "More hands",
        [
          ["", "not said yet"],
          ["shorter", "make it shorter: the effort stays"],
          ["moreEffort", "are more effort: it takes as long"],
        ],
        card.hands ?? "",
        (hands, tell) =>
          hands === ""
            ? tell("Choose what more hands do.")
            : send(
                {
                  type: "setAssignments",
                  task,
                  assignments: card.people.map(assignmentOf),
                  hands,
                },
                tell,
              ),
      ),
    );
  if (card.effortHours !== null && card.people.length > 0)
    parts.push(element("p", { class: "hint" }, `Effort: ${card.effortHours} h of all together.`));
  const overbooked = store.overbooked.get(`${task} ${owner?.id}`);
  if (overbooked) parts.push(element("p", { class: "away" }, `${overbooked}.`));
  for (const sentence of card.away) parts.push(element("p", { class: "away" }, sentence));
  return parts;
}

/** @param {Card["people"][number]} person */
export const assignmentOf = ({ id, share, effort }) => ({ person: id, share, ...(effort === null ? {} : { effort }) });

/**
 * Who is to help, of which task, while it is asked what that does: the card may be redrawn meanwhile.
 * @type {{ task: string, name: string } | null}
 */
let asked = null;

/**
 * Adds a helper. The first time it is asked what more hands do; the task remembers it.
 * @param {Card} card
 * @param {SendEdit} send
 * @param {(problem: string) => void} say what is wrong
 */
function helperField(card, send, say) {
  const ask = element("div", { class: "hands", role: "group", "aria-label": "What more hands do" });
  const draw = (/** @type {(problem: string) => void} */ tell) => {
    ask.hidden = asked?.task !== card.id;
    if (asked?.task !== card.id) return;
    const { name } = asked;
    const choose = (/** @type {string} */ words, /** @type {string} */ hands) =>
      quietButton(words, () => {
        asked = null;
        ask.hidden = true;
        send({ type: "addHelper", task: card.id, helper: name, hands }, tell);
      });
    ask.replaceChildren(
      element("p", {}, `With ${name} too:`),
      choose("It gets shorter", "shorter"),
      choose("It takes as long", "moreEffort"),
    );
  };
  const field = textField(
    "Add a helper",
    "",
    (name, tell) => {
      const isKnown = card.hands !== null || card.kind !== "task";
      asked = name === "" || isKnown ? null : { task: card.id, name };
      tell("");
      draw(tell);
      if (name !== "" && isKnown) send({ type: "addHelper", task: card.id, helper: name }, tell);
      else if (asked) /** @type {HTMLElement} */ (ask.querySelector("button")).focus();
    },
    { hint: "a name", list: "people" },
  );
  draw(say);
  return element("div", {}, field, ask);
}

/** @param {string} text @returns {number | null} */
function percentOf(text) {
  const percent = Number(text.replace("%", "").trim());
  return Number.isFinite(percent) && percent >= 1 && percent <= 100 ? percent : null;
}
