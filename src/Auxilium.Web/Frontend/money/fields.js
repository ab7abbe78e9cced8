// @ts-check
// Fields for money.

/** @import { Currency } from "./text.js" */
import { textField } from "../plan/card/fields.js";
import { AMOUNT_HELP, plain, readAmount } from "./text.js";

/**
 * An amount that may be left empty.
 * @param {string} label @param {number | null} amount @param {Currency} currency
 * @param {(amount: number | null, tell: (problem: string) => void) => void} send
 */
export function amountField(label, amount, { sign }, send) {
  const field = textField(
    label,
    plain(amount),
    (text, tell) => {
      if (text === "") return send(null, tell);
      const read = readAmount(text);
      if (read === null) tell(`“${text}” is no amount. ${AMOUNT_HELP}`);
      else send(read, tell);
    },
    { hint: `none, in ${sign}` },
  );
  field.querySelector("input")?.setAttribute("inputmode", "decimal");
  return field;
}
