// @ts-check
// What a row costs, for those who may know.

/** @import { Field } from "./field.js" */
/** @import { MoneyRow } from "../../money/server.js" */
import { say } from "../../money/text.js";

/** @param {string} key @param {string} label @param {(row: MoneyRow) => number | null} of @returns {Field} */
const amount = (key, label, of) => ({
  key,
  label,
  width: 104,
  extra: true,
  money: true,
  text: (store, row) => {
    const known = store.money.get(row.id);
    const much = known ? of(known) : null;
    return much === null || (much === 0 && key !== "free") ? "" : say(much, store.currency);
  },
});

/** @type {Field[]} */
export const MONEY = [
  amount("cost", "Cost", (row) => row.money.planned),
  amount("spent", "Spent", (row) => row.money.spent),
  amount("costLeft", "Cost left", (row) => row.money.left),
  amount("budget", "Budget", (row) => row.money.budget),
  amount("free", "Free budget", (row) => row.free),
];
