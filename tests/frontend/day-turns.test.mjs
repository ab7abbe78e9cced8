// @ts-check
import assert from "node:assert/strict";
import { mock, test } from "node:test";
import { turnWithTheDay } from "../../src/Auxilium.Web/Frontend/shared/day-turns.js";

test("a page turns once when its day has ended, and not while somebody types", () => {
  mock.timers.enable({ apis: ["setTimeout", "Date"] });
  let [turned, isBusy] = [0, false];
  turnWithTheDay(
    3600,
    () => isBusy,
    () => turned++,
  );
  mock.timers.tick(3_599_000);
  assert.equal(turned, 0);
  isBusy = true;
  mock.timers.tick(120_000);
  assert.equal(turned, 0);
  isBusy = false;
  mock.timers.tick(120_000);
  assert.equal(turned, 1);
  mock.timers.reset();
});
