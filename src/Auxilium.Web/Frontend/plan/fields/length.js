// @ts-check
// How long a task takes.

/** @type {import("./field.js").Field} */
export const length = {
  key: "length",
  label: "Length",
  width: 52,
  text: (_, row) => (row.unsaved ? "" : row.length),
  copied: (_, row) => (row.kind === "phase" ? "" : row.kind === "milestone" ? "milestone" : row.length),
  edit: (_, row, text) => {
    const task = row.id;
    if (/^milestone$/i.test(text.trim())) return { edit: { type: "setMilestone", task, on: true } };
    if (row.kind === "milestone" && text.trim() !== "")
      return { edit: { type: "setMilestone", task, on: false, length: text } };
    return { edit: { type: "setLength", task, length: text } };
  },
  shared: true,
  many: { label: "Length", placeholder: "3d" },
  order: (row) => (row.start === null ? Infinity : row.finish - row.start),
};
