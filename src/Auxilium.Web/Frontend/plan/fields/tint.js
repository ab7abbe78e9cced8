// @ts-check
// Colours that tell something of a task: its own, or one for its owner, their team, its state or its label.

/** @import { Row, Person } from "../state/types.js" */
/** @import { Look, Teams } from "../state/view.js" */
import { teamOf } from "../state/view.js";

const HUES = 9;

/**
 * What a row or a bar is coloured by, as an attribute of it; none where there is nothing to tell.
 * @param {{ people: Person[], teams: Teams }} store
 * @param {Row} row
 * @param {Look["rows"] | Look["colour"]} by
 * @returns {{ name: "data-hue" | "data-tint", value: string } | null}
 */
export function tintOf(store, row, by) {
  if (by === "own") return row.colour ? { name: "data-tint", value: row.colour } : null;
  if (by === "owner") {
    const person = store.people.find(({ id }) => id === row.owner);
    return person ? { name: "data-hue", value: String(person.hue) } : null;
  }
  if (by === "team") {
    const team = teamOf(row, store.teams);
    return team ? { name: "data-hue", value: String(hueOf(team)) } : null;
  }
  if (by === "label") return row.label ? { name: "data-hue", value: String(hueOf(row.label)) } : null;
  return by === "state" && row.state ? { name: "data-tint", value: row.state } : null;
}

/** The same word always has the same hue. @param {string} word */
function hueOf(word) {
  let sum = 0;
  for (const letter of word) sum = (sum * 31 + (letter.codePointAt(0) ?? 0)) % 9973;
  return sum % HUES;
}
