// @ts-check
// Who a task belongs to.

/** @import { Person, Row } from "../state/types.js" */
import { LAST } from "./field.js";

/** @param {{ people: Person[] }} store @param {Row} row */
export function ownerOf(store, row) {
  return store.people.find((person) => person.id === row.owner);
}

/** @type {import("./field.js").Field} */
export const owner = {
  key: "owner",
  label: "Owner",
  width: 46,
  text: (store, row) => ownerOf(store, row)?.initials ?? "",
  typed: (store, row) => ownerOf(store, row)?.name ?? "",
  copied: (store, row) => ownerOf(store, row)?.name ?? "",
  edit: (_, { id }, text) => ({ edit: { type: "setOwner", task: id, owner: text } }),
  assist: (_, input) => input.setAttribute("list", "people"),
  clears: true,
  shared: true,
  onPhases: true,
  many: { label: "Owner", list: "people" },
  order: (row, { people }) => people.find(({ id }) => id === row.owner)?.name.toLocaleLowerCase() ?? LAST,
  group: {
    of: (row) => row.owner ?? "",
    title: (key, { people }) => people.find(({ id }) => id === key)?.name ?? "Nobody",
  },
  filter: {
    any: "Anyone",
    values: (store) => [["Nobody", "nobody"], ...store.people.map(({ id, name }) => [name, id])],
    holds: (row, value) => (value === "nobody" ? row.owner === null && row.kind === "task" : row.owner === value),
    says: (value, { people }) =>
      value === "nobody" ? "of nobody" : `of ${people.find(({ id }) => id === value)?.name ?? "somebody who left"}`,
  },
  tint: (store, row) => {
    const person = ownerOf(store, row);
    return person ? { name: "data-hue", value: String(person.hue) } : null;
  },
  barLabel: (store, row) => ownerOf(store, row)?.initials ?? "",
};
