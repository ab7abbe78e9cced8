// @ts-check
// Hours worked on a task beside the work it was to take.
import { hoursText } from "./effort.js";

/** @type {import("./field.js").Field} */
export const used = {
  key: "used",
  label: "Used",
  width: 110,
  extra: true,
  text: (store, row) => {
    const worked = store.used.get(row.id);
    if (!worked) return "";
    const hours = hoursText(worked.minutes);
    if (worked.share === null) return hours;
    return `${hours} · ${Math.round(worked.share * 100)}%${worked.isEating ? " ▲" : ""}`;
  },
  filter: {
    any: "Any",
    values: (store) => (store.used.size > 0 ? [["Using more than planned", "eating"]] : []),
    holds: (row, _, around) => around.used?.get(row.id)?.isEating === true,
    says: () => "using more hours than planned",
  },
  barLabel: (store, row) => {
    const worked = store.used.get(row.id);
    return worked ? hoursText(worked.minutes) : "";
  },
};
