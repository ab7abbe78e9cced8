// @ts-check
// How much work a task takes of all its people.

/** Minutes as people say them: 6h, 1.5h. @param {number} minutes */
export const hoursText = (minutes) => `${Math.round(minutes / 6) / 10}h`;

/** @type {import("./field.js").Field} */
export const effort = {
  key: "effort",
  label: "Effort",
  width: 62,
  extra: true,
  text: (_, row) => (row.start === null || row.effort === 0 ? "" : hoursText(row.effort)),
  typed: (_, row) => row.ownEffort ?? "",
  copied: (_, row) => (row.effort === 0 ? "" : hoursText(row.effort)),
  edit: (_, { id }, text) => ({ edit: { type: "setEffort", task: id, effort: text.trim() === "" ? null : text } }),
  clears: true,
  shared: true,
  many: { label: "Effort", placeholder: "6h" },
  order: (row) => -row.effort,
  barLabel: (_, row) => (row.effort === 0 ? "" : hoursText(row.effort)),
};
