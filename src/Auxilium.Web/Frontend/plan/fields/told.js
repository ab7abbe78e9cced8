// @ts-check
// What is worked out of a task, and cannot be typed.

/** @type {import("./field.js").Field} */
export const float = {
  key: "float",
  label: "Float",
  width: 74,
  extra: true,
  text: (_, row) => (row.critical ? "none" : (row.spare ?? "").replace(/ days?$/, "d").replace(/ hours?$/, "h")),
};

/** @type {import("./field.js").Field} */
export const steps = { key: "steps", label: "Checklist", width: 72, extra: true, text: (_, row) => row.steps ?? "" };
