// @ts-check

/** A percentage as people type it, such as 40, 12,5 or 40%; null for what is none. @param {string} text */
export function percentOf(text) {
  const percent = /^\s*(\d+(?:[.,]\d+)?)\s*%?\s*$/.exec(text);
  const number = percent ? Number(percent[1].replace(",", ".")) : NaN;
  return number <= 100 ? number : null;
}

/** The same as a share of 1, as the server keeps it. @param {number} percent */
export const shareOf = (percent) => Number((percent / 100).toFixed(6));
