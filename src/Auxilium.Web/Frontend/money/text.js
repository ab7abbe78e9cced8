// @ts-check
// Amounts as people read and type them.

/** @typedef {{ sign: string, decimals: number }} Currency */

/** “1,250.00 €” @param {number} amount @param {Currency} currency */
export function say(amount, { sign, decimals }) {
  const rounded = Number(amount.toFixed(decimals));
  const digits = Math.abs(rounded).toLocaleString("en", {
    minimumFractionDigits: decimals,
    maximumFractionDigits: decimals,
  });
  return `${rounded < 0 ? "−" : ""}${digits} ${sign}`;
}

/** An amount for an axis: without cents, and thousands as k. @param {number} amount */
export function shortly(amount) {
  if (Math.abs(amount) >= 10_000) return `${Math.round(amount / 100) / 10}k`;
  return Math.round(amount).toLocaleString("en");
}

/**
 * What was typed as an amount: 1250, 1,250.50, 12,5 or 12.50 €. It stays decimal: digits are kept as they were typed.
 * @param {string} text
 * @returns {number | null} null for what is none
 */
export function readAmount(text) {
  let digits = text.replace(/[\s€£$]|[A-Z]{3}/g, "");
  // A comma before one or two digits at the end is a decimal one.
  if (/,\d{1,2}$/.test(digits) && !digits.includes(".")) digits = digits.replace(/,(?=\d{1,2}$)/, ".");
  digits = digits.replace(/,(?=\d{3}(\D|$))/g, "");
  return /^\d+(\.\d{1,4})?$/.test(digits) ? Number(digits) : null;
}

/** A number as it is typed. @param {number | null | undefined} number */
export const plain = (number) => (number === null || number === undefined ? "" : String(number));

export const AMOUNT_HELP = "Type an amount, such as 12.50.";
