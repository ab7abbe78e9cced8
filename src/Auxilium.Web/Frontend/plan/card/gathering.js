// @ts-check
// What a milestone gathers, and the offer to link what serves it: a link makes dates follow, serving alone does not.

/** @import { Card, Row } from "../state/types.js" */
/** @import { Store } from "../state/store.js" */
/** @import { SendEdit } from "./sections.js" */
import { servedBy } from "../fields/serves.js";
import { element, quietButton } from "./fields.js";

/** Whether links lead from a row, or a phase that it is in, to another. @param {Store} store @param {string} from @param {string} to */
export function leadsTo(store, from, to) {
  const seen = new Set();
  const next = [from];
  for (let id = next.pop(); id !== undefined; id = next.pop()) {
    if (id === to) return true;
    if (seen.has(id)) continue;
    seen.add(id);
    const { parent } = store.row(id) ?? {};
    if (parent) next.push(parent);
    for (const link of store.links) if (link.from === id) next.push(link.to);
  }
  return false;
}

/** @param {string} from @param {string} to */
const link = (from, to) => ({ type: "linkTasks", from, to, kind: "finishToStart", lag: "0d" });

/** Of a row that serves a milestone and is not linked to it. @param {Store} store @param {Card} card @param {SendEdit} send */
export function offerLink(store, card, send) {
  const row = store.row(card.id);
  const milestone = row && servedBy(row, store);
  if (!milestone || leadsTo(store, card.id, milestone.id)) return [];
  return [
    element(
      "p",
      { class: "mute" },
      `It serves ${milestone.name}, and no link leads there: the milestone does not wait for it.`,
    ),
    quietButton(`Link it to ${milestone.name}`, () => send(link(card.id, milestone.id), store.tell)),
  ];
}

/**
 * The tasks that serve a milestone, those that are left first.
 * @param {Store} store @param {Card} card @param {SendEdit} send @param {(id: string) => void} open
 */
export function gatheringParts(store, card, send, open) {
  const all = store.rows.filter((row) => row.kind !== "phase" && servedBy(row, store)?.id === card.id);
  if (all.length === 0)
    return [element("p", { class: "mute" }, "Nothing serves it yet. Choose it in the field “Serves” of a task.")];
  const left = all.filter((row) => row.state !== "done");
  const loose = left.filter((row) => !leadsTo(store, row.id, card.id));
  const lines = [...left, ...all.filter((row) => row.state === "done")].map((row) => lineOf(row, open));
  return [
    element("p", {}, left.length === 0 ? `All ${all.length} are done.` : `${left.length} of ${all.length} are left.`),
    element("ul", { class: "gathers" }, ...lines),
    ...(loose.length > 0
      ? [
          element("p", { class: "mute" }, `No link leads here from ${loose.map(({ name }) => name).join(", ")}.`),
          quietButton(loose.length === 1 ? "Link it" : `Link all ${loose.length}`, () =>
            send({ type: "together", edits: loose.map((row) => link(row.id, card.id)) }, store.tell),
          ),
        ]
      : []),
  ];
}

/** @param {Row} row @param {(id: string) => void} open */
function lineOf(row, open) {
  const button = quietButton(row.name, () => open(row.id));
  const mark = element("span", { class: `state state-${row.state}` }, element("span", { class: "state-mark" }));
  mark.setAttribute("aria-hidden", "true");
  return element("li", {}, mark, button, row.state === "done" ? " done" : "");
}
