// @ts-check
import assert from "node:assert/strict";
import { test } from "node:test";
import { FIELDS, fieldOf, USUAL_FACTS } from "../../src/Auxilium.Web/Frontend/plan/fields/fields.js";
import { cellText, COLUMNS, editFor } from "../../src/Auxilium.Web/Frontend/plan/list/columns.js";
import { emptyRow } from "../../src/Auxilium.Web/Frontend/plan/state/view.js";
import { aRow, aStore } from "./plan.mjs";

const row = aRow("a", { label: "print", priority: 700, key: true, colour: "moss" });
const store = aStore([row, aRow("b", { label: "hire" }), aRow("c")]);
const around = store;

test("every field has a name of its own, and whatever is shown as a column says something for any row", () => {
  assert.equal(new Set(FIELDS.map(({ key }) => key)).size, FIELDS.length);
  assert.throws(() => fieldOf("gone"), /There is no field/);
  for (const { key } of COLUMNS) {
    assert.equal(typeof cellText(store, row, key), "string", key);
    assert.equal(typeof cellText(store, emptyRow("x", "X"), key), "string", key);
  }
});

test("a plain fact is typed, told, found, grouped, ordered and coloured by what it is", () => {
  for (const { key, fact, edit, card, order, said } of FIELDS.filter(({ fact: plain }) => plain)) {
    assert.ok(edit && card && order, key);
    assert.deepEqual(USUAL_FACTS[key], fact?.usual);
    const other = { null: "moss", 500: 7, false: true }[String(fact?.usual)] ?? 7;
    assert.ok(!said || said(aRow("x", { [key]: other }))?.length, key);
    assert.equal(said?.(aRow("z")) ?? null, null, key);
  }
  const { label, colour, priority, key } = Object.fromEntries(FIELDS.map((field) => [field.key, field]));
  assert.deepEqual(label?.edit?.(store, row, " hire "), { edit: { type: "setLabel", task: "a", label: " hire " } });
  assert.deepEqual(label?.edit?.(store, row, " "), { edit: { type: "setLabel", task: "a", label: null } });
  assert.deepEqual(label?.filter?.values(store), [
    ["None", "-"],
    ["hire", "hire"],
    ["print", "print"],
  ]);
  assert.deepEqual([label?.filter?.holds(row, "print", around), label?.filter?.holds(row, "-", around)], [true, false]);
  assert.deepEqual([label?.group?.of(row, around), label?.group?.title("", around)], ["print", "No label"]);
  assert.deepEqual(label?.tint?.(around, row), label?.tint?.(around, aRow("x", { label: "print" })));
  assert.deepEqual(colour?.edit?.(store, row, "Rose"), { edit: { type: "setColour", task: "a", colour: "rose" } });
  assert.deepEqual(colour?.edit?.(store, row, "-"), { edit: { type: "setColour", task: "a", colour: null } });
  assert.deepEqual(colour?.edit?.(store, row, "red"), {
    problem: "Colour is one of none, sand, moss, sky, rose, lilac.",
  });
  assert.deepEqual(priority?.edit?.(store, row, " 20 "), { edit: { type: "setPriority", task: "a", priority: 20 } });
  assert.deepEqual(priority?.edit?.(store, row, "much"), {
    problem: "Priority is a whole number from 0 to 1000; 500 is usual.",
  });
  assert.deepEqual(key?.edit?.(store, row, "no"), { edit: { type: "setKey", task: "a", on: false } });
  assert.ok("problem" in (key?.edit?.(store, row, "perhaps") ?? {}));
  assert.ok(Number(key?.order?.(row, around)) < Number(key?.order?.(aRow("x"), around)));
  assert.ok("problem" in editFor(store, row, "float", "1d"));
});
