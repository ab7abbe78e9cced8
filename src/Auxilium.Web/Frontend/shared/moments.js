// @ts-check
// Moments in the organisation's time zone, wherever the browser is.

/** The organisation's time zone; the browser's own where the page does not say it. */
const zone = () => document.documentElement.dataset.zone || undefined;

/** @param {Date} moment @param {Intl.DateTimeFormatOptions} parts */
const part = (moment, parts) => new Intl.DateTimeFormat("en-GB", { ...parts, timeZone: zone() }).format(moment);

/** Sat 28 Nov, with the year where it is not this one. @param {string} at in UTC @param {Date} [now] */
export function dayOfMoment(at, now = new Date()) {
  const moment = new Date(at);
  const year = part(moment, { year: "numeric" });
  const day = ["weekday", "day", "month"].map((name) => part(moment, { [name]: name === "day" ? "numeric" : "short" }));
  return [...day, ...(year === part(now, { year: "numeric" }) ? [] : [year])].join(" ");
}

/** 06:58 @param {string} at in UTC */
export const timeOfMoment = (at) => part(new Date(at), { hour: "2-digit", minute: "2-digit" });

/** 28 Nov, 06:58 @param {string} at in UTC */
export const momentInWords = (at) =>
  part(new Date(at), { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });
