// @ts-check
// When a task starts and finishes, and when it should.
import { dayOf, finishDayOf, iso, lastDayOf, short } from "../state/time.js";

/** @import { Store } from "../state/store.js" */
/** @import { Row } from "../state/types.js" */

/** @param {Store} _ @param {Row} row */
const startText = (_, row) => (row.start === null ? "" : short(dayOf(row.start)));

/** @param {Store} _ @param {Row} row */
const finishText = (_, row) => (row.start === null ? "" : short(lastDayOf(row)));

/** @type {import("./field.js").Field} */
export const start = {
  key: "start",
  label: "Start",
  width: 76,
  text: startText,
  typed: (store, row) => `${row.pinned ? "pinned " : ""}${startText(store, row)}`,
  filled: (_, row) => (row.start === null ? "" : `${row.pinned ? "pinned " : ""}${iso(dayOf(row.start))}`),
  copied: (_, row) => (row.start === null || row.kind === "phase" ? "" : iso(dayOf(row.start))),
  edit: (_, { id }, text) => {
    const pin = /^\s*pin(ned)?\b\s*/i.exec(text);
    const day = pin ? text.slice(pin[0].length) : text;
    return { edit: { type: "placeTask", task: id, start: day.trim() === "" && !pin ? null : day, pin: pin !== null } };
  },
  near: (row) => (row.start === null ? undefined : dayOf(row.start)),
  clears: true,
  shared: true,
  order: (row) => row.start ?? Infinity,
};

/** @type {import("./field.js").Field} */
export const finish = {
  key: "finish",
  label: "Finish",
  width: 60,
  text: finishText,
  filled: (_, row) => (row.start === null ? "" : iso(lastDayOf(row))),
  copied: (_, row) => (row.start === null || row.kind === "phase" ? "" : iso(lastDayOf(row))),
  edit: (_, { id }, text) => ({ edit: { type: "setFinish", task: id, finish: text } }),
  near: (row) => (row.start === null ? undefined : lastDayOf(row)),
  shared: true,
  order: (row) => (row.start === null ? Infinity : row.finish),
};

/** @type {import("./field.js").Field} */
export const deadline = {
  key: "deadline",
  label: "Deadline",
  width: 74,
  extra: true,
  text: (_, row) => (row.deadline === null ? "" : short(finishDayOf(row.deadline))),
  edit: (_, { id }, text) => ({
    edit: { type: "setDeadline", task: id, deadline: text.trim() === "" ? null : text },
  }),
  clears: true,
  order: (row) => row.deadline ?? Infinity,
};
