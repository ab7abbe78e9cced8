// @ts-check
// What of the plan that others change is applied, in which order, and what is asked for again.
import assert from "node:assert/strict";
import test from "node:test";
import { Store } from "../../src/Auxilium.Web/Frontend/plan/state/store.js";
import { aRow, changes } from "./plan.mjs";

/** A plan of these rows in a version. @param {string[]} ids @param {number} version */
function changesOf(ids, version) {
  const all = changes(ids.map((id) => aRow(id)));
  return { ...all, project: { ...all.project, version } };
}

test("what is told late of a version that has been overtaken changes nothing", () => {
  const store = new Store(changesOf(["a", "b"], 3));
  store.apply(changesOf(["a", "b", "c"], 5));
  store.apply(changesOf(["a"], 4));
  assert.deepEqual(
    store.rows.map((row) => row.id),
    ["a", "b", "c"],
  );
  assert.equal(store.project.version, 5);
});

test("what one types was meant for the version one saw, once others have changed the plan", () => {
  const store = new Store(changesOf(["a"], 3));
  store.beginTyping();
  store.apply(changesOf(["a"], 4));
  assert.deepEqual(store.meantFor, { seenVersion: 3 });
  store.typing = null;
  assert.deepEqual(store.meantFor, {});
});

test("who may not change the plan is told why, and the others nothing", () => {
  const store = new Store(changesOf(["a"], 1));
  for (const [rights, why] of /** @type {const} */ ([
    ["edit", null],
    ["report", null],
    ["look", /ask who coordinates/],
    ["shared", /by a link/],
  ])) {
    store.rights = rights;
    if (why === null) assert.equal(store.whyNot, null);
    else assert.match(store.whyNot ?? "", why);
  }
});
