// @ts-check
// What somebody chose on a project: the server keeps it, and the browser until it surely has.
import assert from "node:assert/strict";
import test, { beforeEach, mock } from "node:test";
import { Remembered } from "../../src/Auxilium.Web/Frontend/plan/state/remembered.js";

/** @type {Map<string, string>} */ let kept;
/** @type {number} */ let saved;
/** @type {() => void} */ let leave;

beforeEach(() => {
  kept = new Map();
  saved = 0;
  globalThis.localStorage = /** @type {any} */ ({
    getItem: (/** @type {string} */ key) => kept.get(key) ?? null,
    setItem: (/** @type {string} */ key, /** @type {string} */ value) => kept.set(key, value),
    removeItem: (/** @type {string} */ key) => kept.delete(key),
  });
  globalThis.addEventListener = /** @type {any} */ (
    (/** @type {string} */ _, /** @type {() => void} */ told) => (leave = told)
  );
  globalThis.fetch = async () => {
    saved++;
    return new Response(null, { status: 204 });
  };
});

/** The page of a project, whose server had this when it was asked. @param {Record<string, unknown> | null} had */
const open = (had) => new Remembered("fair", "token", "imke", had);

/** Closes the page and waits for what it still sends. */
const close = async () => {
  leave();
  await new Promise((resolve) => setImmediate(resolve));
};

test("what the server did not get is there again, and is sent", async () => {
  globalThis.fetch = async () => {
    throw new Error("offline");
  };
  open(null).set("folded", ["site"]);
  await close();
  assert.deepEqual(open({ folded: [] }).get("folded"), ["site"]);
});

test("what was saved while the next page was on its way is there, though that page does not have it", async () => {
  open(null).set("folded", ["site"]);
  await close();
  assert.equal(saved, 1);
  assert.deepEqual(open({ folded: [] }).get("folded"), ["site"]);
});

test("what was saved before a page was asked for is taken from the server, where another browser may have changed it", async () => {
  mock.timers.enable({ apis: ["Date"], now: performance.timeOrigin - 60_000 });
  open(null).set("folded", ["site"]);
  await close();
  mock.timers.reset();
  assert.deepEqual(open({ folded: ["hall"] }).get("folded"), ["hall"]);
  assert.equal(kept.size, 0);
});
