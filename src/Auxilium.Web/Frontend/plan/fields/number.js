// @ts-check
// The outline number of a row: what links are typed with.

/** @type {import("./field.js").Field} */
export const number = { key: "no", label: "No.", width: 38, text: (_, row) => row.no };
