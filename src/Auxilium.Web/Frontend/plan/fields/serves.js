// @ts-check
// The milestone that a row serves: what has to be done until it is reached.

/** @import { Row } from "../state/types.js" */
/** @import { Around } from "./field.js" */
import { textField } from "../card/fields.js";
import { LAST } from "./field.js";
import { valuesIn } from "./facts.js";

const LIST = "serves-values";

/** @param {string} task @param {string} text */
const edit = (task, text) => ({ type: "setServes", task, serves: text.trim() === "" ? null : text });

/** The milestone that a row serves itself, or by a phase that it is in. @param {Row} row @param {Around} around @returns {Row | null} */
export function servedBy(row, around) {
  for (let at = /** @type {Row | undefined} */ (row); at; at = around.row(at.parent)) {
    if (at.serves === null) continue;
    const milestone = around.row(at.serves);
    return milestone?.kind === "milestone" && milestone.id !== row.id ? milestone : null;
  }
  return null;
}

/** A milestone that gathers stands with what serves it. @param {Row} row @param {Around} around */
const gathering = (row, around) => (row.gathers > 0 ? row : servedBy(row, around));

/** @param {Row | undefined} milestone */
const titleOf = (milestone) =>
  milestone ? `${milestone.name}${milestone.gathers > 0 ? `, ${milestone.gathersLeft} left` : ""}` : "No milestone";

/** @type {import("./field.js").Field} */
export const serves = {
  key: "serves",
  label: "Serves",
  width: 110,
  extra: true,
  fact: { usual: null },
  text: (store, row) => servedBy(row, store)?.name ?? "",
  typed: (store, row) => store.row(row.serves)?.name ?? "",
  edit: (_, row, text) => ({ edit: edit(row.id, text) }),
  assist: (store, input) => {
    valuesIn(LIST).replaceChildren(...milestonesOf(store).map(({ name }) => new Option("", name)));
    input.setAttribute("list", LIST);
  },
  clears: true,
  shared: true,
  onPhases: true,
  many: { label: "Serves", list: LIST },
  order: (row, around) => servedBy(row, around)?.start ?? Number.MAX_SAFE_INTEGER,
  group: {
    of: (row, around) => gathering(row, around)?.id ?? "",
    title: (key, around) => titleOf(around.row(key)),
    rank: (row, around) => gathering(row, around)?.start ?? Number.MAX_SAFE_INTEGER,
    give: (row, key) => edit(row.id, key),
  },
  filter: {
    any: "Any",
    values: (store) => {
      const found = milestonesOf(store);
      return found.length > 0 ? [["None", "-"], ...found.map(({ id, name }) => [name, id])] : [];
    },
    holds: (row, value, around) => (gathering(row, around)?.id ?? "-") === value,
    says: (value, store) =>
      value === "-" ? "that serve no milestone" : `that serve ${store.row(value)?.name ?? LAST}`,
  },
  barLabel: (store, row) => servedBy(row, store)?.name ?? "",
  said: (row) => {
    if (row.gathers > 0) return `${row.gathersLeft} of ${row.gathers} tasks left`;
    return row.serves ? "serves a milestone" : null;
  },
  card: (card, send, store) => {
    valuesIn(LIST).replaceChildren(...milestonesOf(store).map(({ name }) => new Option("", name)));
    return textField("Serves", store.row(card.serves)?.name ?? "", (text, tell) => send(edit(card.id, text), tell), {
      hint: "a milestone",
      list: LIST,
    });
  },
};

/** @param {import("../state/store.js").Store} store */
const milestonesOf = (store) => store.rows.filter(({ kind, unsaved }) => kind === "milestone" && !unsaved);
