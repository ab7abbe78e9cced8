// @ts-check
import assert from "node:assert/strict";
import { afterEach, test } from "node:test";
import { dayOfMoment, momentInWords, timeOfMoment } from "../../src/Auxilium.Web/Frontend/shared/moments.js";

const page = /** @type {any} */ (globalThis);
page.document = { documentElement: { dataset: {} } };
afterEach(() => delete page.document.documentElement.dataset.zone);

const late = "2026-11-27T23:30:00Z";
const now = new Date("2026-12-05T10:00:00Z");

test("a moment has the day and the time of the organisation's zone", () => {
  page.document.documentElement.dataset.zone = "Europe/Berlin";
  assert.deepEqual([dayOfMoment(late, now), timeOfMoment(late)], ["Sat 28 Nov", "00:30"]);
  assert.equal(momentInWords(late), "28 Nov, 00:30");
  page.document.documentElement.dataset.zone = "America/New_York";
  assert.deepEqual([dayOfMoment(late, now), timeOfMoment(late)], ["Fri 27 Nov", "18:30"]);
});

test("a day of another year says which", () => {
  page.document.documentElement.dataset.zone = "Asia/Tokyo";
  assert.equal(dayOfMoment("2026-12-31T20:00:00Z", now), "Fri 1 Jan 2027");
  assert.equal(dayOfMoment("2026-01-02T08:00:00Z", now), "Fri 2 Jan");
});
