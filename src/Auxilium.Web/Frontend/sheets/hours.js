// @ts-check
// Hours of a day as people type them.

const HOURS = /^\s*(\d{1,2})(?::(\d{2}))?\s*(?:-|–|to)\s*(\d{1,2})(?::(\d{2}))?\s*$/;

/** Hours as typed, such as 9-13, 14-18, as the plan has them; or what is wrong with them. @param {string} text @returns {string[] | string} */
export function hours(text) {
  if (/^(off|none|)$/i.test(text.trim())) return [];
  /** @type {string[]} */ const work = [];
  for (const part of text.split(",")) {
    const match = HOURS.exec(part);
    if (!match) return `“${part.trim().slice(0, 30)}” is not a stretch of hours: type 9-13, 14-18, or off.`;
    const two = (/** @type {string} */ n) => n.padStart(2, "0");
    work.push(`${two(match[1])}:${match[2] ?? "00"}-${two(match[3])}:${match[4] ?? "00"}`);
  }
  return work;
}
