// @ts-check
// Where dragged rows go, what is asked about them meanwhile, and how rows are copied as cells.
import assert from "node:assert/strict";
import test from "node:test";
import { asTable } from "../../src/Auxilium.Web/Frontend/plan/list/clipboard.js";
import { movesTo, placeAt } from "../../src/Auxilium.Web/Frontend/plan/state/place.js";
import { Preview } from "../../src/Auxilium.Web/Frontend/plan/server/preview.js";
import { aRow, aStore } from "./plan.mjs";

const rows = () => [
  aRow("p", { kind: "phase", no: "1", name: "Before" }),
  aRow("a", { parent: "p", level: 1, no: "1.1", name: "Permit" }),
  aRow("b", { parent: "p", level: 1, no: "1.2", name: "=1+1", length: "3d?", owner: "imke" }),
  aRow("m", { no: "2", kind: "milestone", name: "Gates\topen", length: "", progress: 0 }),
];

test("a row goes before the upper half of another, after the lower, and into the middle of a phase", () => {
  const store = aStore(rows());
  const place = (/** @type {number} */ lines) => {
    const { parent, after, into } = placeAt(store, lines);
    return [parent, after, into];
  };
  assert.deepEqual(place(0.1), [null, null, false]);
  assert.deepEqual(place(0.5), ["p", "b", true]);
  assert.deepEqual(place(0.9), ["p", null, false]);
  assert.deepEqual(place(1.2), ["p", null, false]);
  assert.deepEqual(place(1.8), ["p", "a", false]);
  assert.deepEqual(place(3.2), [null, "p", false]);
  assert.deepEqual(place(9), [null, "m", false]);
  // A folded phase has no first row to go before.
  store.show({ folded: ["p"] });
  assert.deepEqual(place(0.9), [null, "p", false]);
});

test("rows keep their order where they go, and nothing is sent that changes nothing", () => {
  const store = aStore(rows());
  const row = (/** @type {string} */ id) => /** @type {ReturnType<typeof aRow>} */ (store.row(id));
  const moves = (/** @type {string[]} */ ids, /** @type {number} */ lines) =>
    movesTo(store, ids.map(row), placeAt(store, lines)).map((edit) => {
      const { task, parent, after } = /** @type {{ task: string, parent: string | null, after: string | null }} */ (
        edit
      );
      return [task, parent, after];
    });
  assert.deepEqual(moves(["a", "b"], 9), [
    ["a", null, "m"],
    ["b", null, "a"],
  ]);
  assert.deepEqual(moves(["b"], 2.8), []);
  assert.deepEqual(moves(["a"], 2.2), []);
  // A phase does not go into itself.
  assert.deepEqual(moves(["p"], 1.2), []);
  assert.deepEqual(moves(["p"], 0.5), []);
});

test("rows are copied as a table with their outline, and nothing in it is a formula", () => {
  const store = aStore(rows());
  const [head, ...lines] = asTable(store, [rows()[0], rows()[3]]).split("\n");
  assert.match(head, /^No\.\tTask\tOwner\tLength/);
  const cells = lines.map((line) => line.split("\t"));
  assert.deepEqual(
    cells.map((line) => line[1]),
    ["Before", "  Permit", "  '=1+1", "Gates open"],
  );
  assert.deepEqual(
    cells.map((line) => line[3]),
    ["", "1d", "3d?", "milestone"],
  );
  assert.equal(cells[2][2], "Imke Varga");
  assert.ok(cells.every((line) => line.length === cells[0].length));
  assert.ok(!cells.flat().some((cell) => /^\s*[=+@-]/.test(cell)));
});

/** An outbox whose answers come when they are let. */
function slowly() {
  /** @type {{ edit: object, answer: (with_: object) => void }[]} */ const asked = [];
  const outbox = {
    preview: (/** @type {object} */ edit) => new Promise((answer) => asked.push({ edit, answer })),
  };
  return { asked, outbox: /** @type {any} */ (outbox) };
}

/** @param {string} task @param {string} words */
const ripple = (task, words) => ({
  sentence: [{ text: words, strong: false }],
  moves: [{ task, startAfter: "2027-05-04T09:00", finishAfter: "2027-05-04T18:00" }],
});

test("while something is held one question is asked at a time, and the newest last", async () => {
  const store = aStore(rows());
  const { asked, outbox } = slowly();
  const preview = new Preview(store, outbox);
  for (const n of [1, 2, 3]) preview.ask({ n }, "a");
  assert.deepEqual(
    asked.map(({ edit }) => edit),
    [{ n: 1 }],
  );
  asked[0].answer(ripple("b", "first"));
  await new Promise(setImmediate);
  assert.equal(store.notice?.text, "Letting go: first");
  assert.deepEqual(
    asked.map(({ edit }) => edit),
    [{ n: 1 }, { n: 3 }],
  );
  // What is held itself is drawn by the pointer.
  asked[1].answer(ripple("a", "third"));
  await new Promise(setImmediate);
  assert.equal(store.notice?.text, "Letting go: third");
  assert.deepEqual(store.ghosts, []);
  assert.equal(asked.length, 2);
});

test("an answer that comes after it was let go shows nothing", async () => {
  const store = aStore(rows());
  const { asked, outbox } = slowly();
  const preview = new Preview(store, outbox);
  preview.ask({ n: 1 }, null);
  preview.end();
  asked[0].answer(ripple("b", "late"));
  await new Promise(setImmediate);
  assert.equal(store.notice, null);
  assert.deepEqual(store.ghosts, []);
  preview.ask({ n: 2 }, null);
  asked[1].answer({ message: "That cannot be." });
  await new Promise(setImmediate);
  assert.deepEqual(store.notice, { tone: "problem", text: "That cannot be." });
});
