// @ts-check
// What a task is called.

/** @type {import("./field.js").Field} */
export const name = {
  key: "name",
  label: "Task",
  width: 174,
  text: (_, row) => row.name,
  edit: (_, { id }, text) => ({ edit: { type: "renameTask", task: id, name: text } }),
  order: (row) => row.name.toLocaleLowerCase(),
  barLabel: (_, row) => row.name,
};
