// @ts-check
// The teams of those who work on a task: its owner, and who helps.

/** @import { Row } from "../state/types.js" */
/** @import { Around } from "./field.js" */
import { hueOf, LAST } from "./field.js";

/** That of its owner first. @param {Row} row @param {Around} around */
const teamsOn = (row, { teams }) => [
  ...new Set([row.owner ?? "", ...(row.with ?? "").split(" ")].flatMap((person) => teams.get(person) || [])),
];

/** @param {Row} row @param {Around} around */
const wordsOf = (row, around) => teamsOn(row, around).join(", ");

/** The teams of the people on the plan, in order. @param {Around} around */
const teamsOf = ({ people, teams }) =>
  [...new Set(people.flatMap(({ id }) => teams.get(id) ?? []))].sort((a, b) => a.localeCompare(b));

/** @type {import("./field.js").Field} */
export const team = {
  key: "team",
  label: "Teams",
  width: 110,
  extra: true,
  text: (store, row) => wordsOf(row, store),
  order: (row, around) => wordsOf(row, around).toLocaleLowerCase() || LAST,
  group: { of: wordsOf, title: (key) => key || "No team" },
  filter: {
    any: "Any",
    // Where nobody is in a team there is none to choose.
    values: (store) => {
      const teams = teamsOf(store);
      return teams.length > 0 ? [["None", "-"], ...teams.map((name) => [name, name])] : [];
    },
    holds: (row, value, around) => {
      const on = teamsOn(row, around);
      return value === "-" ? on.length === 0 : on.includes(value);
    },
    says: (value) => (value === "-" ? "of no team" : `of the team ${value}`),
  },
  tint: (store, row) => {
    const [name] = teamsOn(row, store);
    return name ? hueOf(name) : null;
  },
};
