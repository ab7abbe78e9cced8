// @ts-check
// The team of whoever a task belongs to.

/** @import { Row } from "../state/types.js" */
/** @import { Around } from "./field.js" */
import { hueOf } from "./field.js";

/** @param {Row} row @param {Around} around */
const teamOf = (row, { teams }) => teams.get(row.owner ?? "") ?? "";

/** The teams of the people on the plan, in order. @param {Around} around */
const teamsOf = ({ people, teams }) =>
  [...new Set(people.flatMap(({ id }) => teams.get(id) ?? []))].sort((a, b) => a.localeCompare(b));

/** @type {import("./field.js").Field} */
export const team = {
  key: "team",
  label: "Team",
  text: (store, row) => teamOf(row, store),
  group: { of: teamOf, title: (key) => key || "No team" },
  filter: {
    any: "Any",
    // Where nobody is in a team there is none to choose.
    values: (store) => {
      const teams = teamsOf(store);
      return teams.length > 0 ? [["None", "-"], ...teams.map((name) => [name, name])] : [];
    },
    holds: (row, value, around) => (teamOf(row, around) || "-") === value,
    says: (value) => (value === "-" ? "of no team" : `of the team ${value}`),
  },
  tint: (store, row) => {
    const name = teamOf(row, store);
    return name ? hueOf(name) : null;
  },
};
