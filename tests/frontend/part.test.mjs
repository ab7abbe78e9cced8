// @ts-check
import assert from "node:assert/strict";
import { test } from "node:test";
import { part } from "../../src/Auxilium.Web/Frontend/shared/part.js";

test("a part of a page is fetched once, however often it is wanted", async () => {
  let fetched = 0;
  const drawer = part(async () => ++fetched);
  /** @type {number[]} */ const used = [];
  await Promise.all([drawer((it) => used.push(it)), drawer((it) => used.push(it))]);
  await drawer((it) => used.push(it));
  assert.deepEqual(used, [1, 1, 1]);
});

test("a part that cannot be had is told once for each wish, and fetched anew the next time", async () => {
  let isThere = false;
  /** @type {string[]} */ const told = [];
  const drawer = part(
    async () => {
      if (!isThere) throw new Error("offline");
      return "drawer";
    },
    (said) => told.push(said),
  );
  /** @type {string[]} */ const used = [];
  await drawer((it) => used.push(it));
  assert.match(told.join(), /could not be fetched\. Try again/);
  await drawer(
    (it) => used.push(it),
    () => {},
  );
  assert.equal(told.length, 1);
  isThere = true;
  await drawer((it) => used.push(it));
  assert.deepEqual(used, ["drawer"]);
});
