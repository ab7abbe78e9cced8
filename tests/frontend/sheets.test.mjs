// @ts-check
// Hours of a weekday as people type them.

import assert from "node:assert/strict";
import { test } from "node:test";
import { hours } from "../../src/Auxilium.Web/Frontend/sheets/hours.js";

test("hours are read as people type them", () => {
  assert.deepEqual(hours("9-13, 14-18"), ["09:00-13:00", "14:00-18:00"]);
  assert.deepEqual(hours("10:30 to 16"), ["10:30-16:00"]);
  assert.deepEqual(hours("18–24:00"), ["18:00-24:00"]);
  assert.deepEqual(hours("off"), []);
  assert.deepEqual(hours(""), []);
});

test("what is no stretch of hours gets a sentence", () => {
  assert.match(String(hours("ten to four")), /“ten to four” is not a stretch of hours/);
  assert.match(String(hours("9-13; 14-18")), /is not a stretch of hours/);
});
