// @ts-check
// Where the measure has a task, and how far it has drifted from there.
import { dayOf, finishDayOf, short } from "../state/time.js";

/** @type {import("./field.js").Field} */
export const plannedStart = {
  key: "plannedStart",
  label: "Planned start",
  width: 92,
  extra: true,
  text: (_, row) => (row.plannedStart === null ? "" : short(dayOf(row.plannedStart))),
  order: (row) => row.plannedStart ?? Infinity,
};

/** @type {import("./field.js").Field} */
export const plannedFinish = {
  key: "plannedFinish",
  label: "Planned finish",
  width: 96,
  extra: true,
  text: (_, row) => (row.plannedFinish === null ? "" : short(finishDayOf(row.plannedFinish))),
  order: (row) => row.plannedFinish ?? Infinity,
};

/** @type {import("./field.js").Field} */
export const drift = {
  key: "drift",
  label: "Drift",
  width: 104,
  extra: true,
  text: ({ project }, row) => {
    if (project.measure === null || row.start === null) return "";
    if (row.plannedFinish === null) return "new";
    return row.driftSaid === null ? "as planned" : row.driftSaid.replace(" working", "");
  },
  order: (row) => -row.drift,
  filter: {
    any: "Any",
    values: ({ project }) =>
      project.measure === null
        ? []
        : [
            ["Later than planned", "later"],
            ["Earlier than planned", "earlier"],
            ["New since then", "new"],
          ],
    holds: (row, value) =>
      value === "later"
        ? row.drift > 0
        : value === "earlier"
          ? row.drift < 0
          : row.start !== null && row.plannedFinish === null,
    says: (value) =>
      ({ later: "later than planned", earlier: "earlier than planned" })[value] ?? "new since the baseline",
  },
  said: (row) => (row.driftSaid === null ? null : `${row.driftSaid} than planned`),
  barLabel: (_, row) => row.driftSaid ?? "",
};
