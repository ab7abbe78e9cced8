// @ts-check
// What typing into the list means, and how rows that are not saved yet keep their places.
import assert from "node:assert/strict";
import test from "node:test";
import { cellText, editFor, editorText, rowSentence } from "../../src/Auxilium.Web/Frontend/plan/list/columns.js";
import { aRow, aStore, changes } from "./plan.mjs";

const store = aStore([
  aRow("a", { no: "1", kind: "phase" }),
  aRow("b", { no: "1.1", level: 1, parent: "a", owner: "imke" }),
  aRow("c", { no: "2", kind: "milestone", length: "" }),
  aRow("d", { no: "3", pinned: true, fixed: "pinned to Mon 3 May", started: false }),
]);
const row = (/** @type {string} */ id) => {
  const found = store.row(id);
  assert.ok(found);
  return found;
};
const edit = (/** @type {string} */ id, /** @type {string} */ col, /** @type {string} */ text) =>
  editFor(store, row(id), col, text);

test("what is typed becomes an edit with the same meaning", () => {
  for (const [id, col, text, made] of /** @type {[string, string, string, object][]} */ ([
    ["b", "name", "New name", { type: "renameTask", name: "New name" }],
    ["b", "length", "3 days", { type: "setLength", length: "3 days" }],
    ["b", "length", "Milestone", { type: "setMilestone", on: true }],
    ["c", "length", "2d", { type: "setMilestone", on: false, length: "2d" }],
    ["b", "owner", "IV", { type: "setOwner", owner: "IV" }],
    ["b", "start", "12 May", { type: "placeTask", start: "12 May", pin: false }],
    ["b", "start", "pinned 12 May", { type: "placeTask", start: "12 May", pin: true }],
    ["b", "start", "", { type: "placeTask", start: null, pin: false }],
    ["b", "finish", "14 May", { type: "setFinish", finish: "14 May" }],
    ["b", "state", "40", { type: "reportProgress", progress: 0.4 }],
    ["b", "state", "7,5 %", { type: "reportProgress", progress: 0.075 }],
    ["b", "state", "done", { type: "finishTask" }],
    ["b", "state", "Started", { type: "startTask" }],
    ["b", "state", "", { type: "reportProgress", progress: 0 }],
  ]))
    assert.deepEqual(edit(id, col, text), { edit: { ...made, task: id } }, `${col}: ${text}`);
});

test("numbers in a link go with the rows they meant when they were typed", () => {
  assert.deepEqual(edit("d", "after", "after 1.1 + 2d, 9"), {
    edit: { type: "typePredecessors", task: "d", after: "after 1.1 + 2d, 9", rows: { 1.1: "b", 2: "c" } },
  });
});

test("progress that means nothing gets a sentence", () => {
  const made = edit("b", "state", "nearly");
  assert.ok("problem" in made && /type started, done, done 12 May, or a percentage/.test(made.problem));
});

test("a cell says what is there, and its editor begins with what could have been typed", () => {
  assert.equal(cellText(store, row("b"), "owner"), "IV");
  assert.equal(editorText(store, row("b"), "owner"), "Imke Varga");
  assert.equal(editorText(store, row("d"), "start"), "pinned 3 May");
  assert.equal(cellText(store, row("b"), "state"), "Ready");
  const begun = aRow("e", { started: true, progress: 0, state: "underWay" });
  assert.equal(editorText(store, begun, "state"), "started", "so that 0 is another text, and takes the start back");
  assert.equal(editorText(store, { ...begun, progress: 40 }, "state"), "40");
  assert.match(rowSentence(store, row("d")), /pinned to Mon 3 May/);
});

test("rows that are not saved yet stay after the row they were typed below", () => {
  const rows = [aRow("a"), aRow("b"), aRow("c")];
  const open = aStore(rows);
  open.addUnsaved(aRow("n1", { start: null, unsaved: true }), "a");
  open.addUnsaved(aRow("n2", { start: null, unsaved: true }), "n1");
  const order = () => open.rows.map((r) => r.id).join(" ");
  assert.equal(order(), "a n1 n2 b c");
  assert.equal(open.siblingBefore("n2"), "a");
  // The first of them is saved; somebody else put a row in meanwhile.
  open.apply({ ...changes([aRow("n1"), aRow("x")]), order: ["a", "x", "n1", "b", "c"] });
  assert.equal(order(), "a x n1 n2 b c");
  assert.equal(open.siblingBefore("n2"), "n1");
  open.dropUnsaved("n2");
  assert.equal(order(), "a x n1 b c");
});

test("an answer changes only the rows it has", () => {
  const open = aStore([aRow("a"), aRow("b")]);
  const kept = open.row("b");
  open.apply({
    ...changes([]),
    rows: [{ id: "a", name: "Other", owner: null }],
    order: null,
    from: { version: 1, edit: null },
  });
  assert.deepEqual(open.row("a"), aRow("a", { name: "Other" }), "and of those what has changed");
  assert.equal(open.row("b"), kept);
});
