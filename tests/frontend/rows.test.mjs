// @ts-check
// What is shown and picked, where rows go, what keys mean and what a spreadsheet gets.
import assert from "node:assert/strict";
import { test } from "node:test";
import { asTable } from "../../src/Auxilium.Web/Frontend/plan/list/clipboard.js";
import { cellText, columnsOf, editFor } from "../../src/Auxilium.Web/Frontend/plan/list/columns.js";
import { commandOf, COMMANDS, printed } from "../../src/Auxilium.Web/Frontend/plan/commands/commands.js";
import { tintOf } from "../../src/Auxilium.Web/Frontend/plan/fields/tint.js";
import { filtersOf, foldedFrom, plainView, shownRows } from "../../src/Auxilium.Web/Frontend/plan/state/view.js";
import { draggedWith, movesTo, placeAt } from "../../src/Auxilium.Web/Frontend/plan/state/place.js";
import { Store } from "../../src/Auxilium.Web/Frontend/plan/state/store.js";
import { dayOf, isoWeek, minutesOf, usWeek } from "../../src/Auxilium.Web/Frontend/plan/state/time.js";
import { aRow, at, changes } from "./plan.mjs";

const people = [
  { id: "ann", name: "Ann Lee", initials: "AL", hue: 0 },
  { id: "bo", name: "Bo Dahl", initials: "BD", hue: 1 },
];

const rows = [
  aRow("p", { kind: "phase", no: "1", name: "Before", state: null }),
  aRow("a", { parent: "p", level: 1, no: "1.1", name: "Permit", owner: "bo", state: "done", progress: 100 }),
  aRow("q", { parent: "p", level: 1, no: "1.2", kind: "phase", name: "Print", state: null }),
  aRow("b", { parent: "q", level: 2, no: "1.2.1", name: "Posters", owner: "ann", critical: true }),
  aRow("m", { no: "2", kind: "milestone", name: "Gates open", state: "waiting" }),
];

const teams = new Map([["bo", "Crew"]]);

/** @param {import("../../src/Auxilium.Web/Frontend/plan/state/view.js").View | {}} look */
const shown = (view) =>
  shownRows(rows, { ...plainView(), ...view }, { people, teams })
    .map((row) => row.id)
    .join(" ");

/** @param {{ from: string, to: string, kind: "finishToStart", setsFinish: boolean }[]} [links] */
function aStore(links = []) {
  const store = new Store({ ...changes(rows, links), people });
  return store;
}

test("folding hides what is inside, at every level", () => {
  assert.equal(shown({ folded: ["q"] }), "p a q m");
  assert.equal(shown({ folded: ["p"] }), "p m");
  assert.deepEqual(foldedFrom(rows, 0), ["p", "q"]);
  assert.deepEqual(foldedFrom(rows, 1), ["q"]);
});

test("filters keep the phases of what passes, and nothing else", () => {
  assert.equal(shown({ only: { owner: "ann" } }), "p q b");
  assert.equal(shown({ hideDone: true }), "p q b m");
  assert.equal(shown({ milestones: true }), "m");
  assert.equal(shown({ finishPath: true }), "p q b");
  assert.equal(shown({ only: { owner: "nobody" } }), "");
  assert.equal(shown({ text: "PRINT" }), "p q");
  assert.equal(shown({ only: { state: "done", owner: "ann" } }), "");
  assert.equal(filtersOf({ ...plainView(), text: "x", hideDone: true }), 2);
});

test("a row that is not saved yet passes every filter", () => {
  const fresh = aRow("new", { unsaved: true, name: "" });
  assert.deepEqual(
    shownRows([...rows, fresh], { ...plainView(), milestones: true }, { people, teams }).map((row) => row.id),
    ["m", "new"],
  );
});

test("rows are found, put together and coloured by the team of their owner", () => {
  assert.equal(shown({ only: { team: "Crew" } }), "p a");
  assert.equal(shown({ only: { team: "-" } }), "p q b m");
  assert.equal(shown({ group: "team" }), "team:Crew a team: b m");
  const store = aStore();
  store.teams = teams;
  const tint = (/** @type {string} */ id) => tintOf(store, /** @type {(typeof rows)[0]} */ (store.row(id)), "team");
  assert.equal(tint("b"), null);
  assert.equal(tint("a")?.name, "data-hue");
});

test("sorted rows stand without their phases, and equal ones in the plan's order", () => {
  assert.equal(shown({ sort: { col: "name", down: false } }), "m a b");
  assert.equal(shown({ sort: { col: "owner", down: false } }), "b a m");
  assert.equal(shown({ sort: { col: "start", down: true } }), "a b m");
  assert.equal(shown({ sort: { col: "state", down: false } }), "b m a");
});

test("a store knows the lines of phases and links that are shown", () => {
  const store = aStore([{ from: "a", to: "b", kind: "finishToStart", setsFinish: false }]);
  assert.deepEqual(
    store.shownPhases.map(({ row, at: first, last }) => [row.id, first, last]),
    [
      ["p", 0, 3],
      ["q", 2, 3],
    ],
  );
  assert.deepEqual(
    store.shownLinks.map(({ from, to }) => [from, to]),
    [[1, 3]],
  );
  store.show({ folded: ["q"] });
  assert.equal(store.shownLinks.length, 0);
  store.bringOut("b");
  assert.equal(store.line.get("b"), 3);
});

test("whoever stands in a row that is folded away then stands in its phase", () => {
  const store = aStore();
  store.current = { id: "b", col: "length" };
  store.show({ folded: ["p"] });
  assert.deepEqual(store.current, { id: "p", col: "length" });
});

test("rows are picked one by one in their order, or as a range", () => {
  const { selection, ...store } = aStore();
  selection.toggle("b");
  selection.toggle("a");
  assert.deepEqual(selection.ids, ["b", "a"]);
  selection.toggle("b");
  assert.deepEqual(selection.ids, ["a"]);
  assert.ok(store.rows);
  selection.leave();
  assert.equal(selection.size, 1);
});

test("a range goes from where one stood, either way, and ends when one goes on", () => {
  const store = aStore();
  store.current = { id: "q", col: "name" };
  store.selection.extendTo("m");
  assert.deepEqual(store.selection.ids, ["q", "b", "m"]);
  store.selection.extendTo("a");
  assert.deepEqual(store.selection.ids, ["q", "a"]);
  assert.deepEqual(
    store.selection.tops.map((row) => row.id),
    ["a", "q"],
  );
  store.selection.leave();
  assert.deepEqual(store.selection.ids, ["q"]);
});

test("rows inside a picked phase go with it", () => {
  const store = aStore();
  store.selection.all();
  assert.deepEqual(
    store.selection.tops.map((row) => row.id),
    ["p", "m"],
  );
});

test("dragged rows land between rows or in a phase", () => {
  const store = aStore();
  const place = (/** @type {number} */ lines) => {
    const { parent, after, into } = placeAt(store, lines);
    return [parent, after, into];
  };
  assert.deepEqual(place(0.1), [null, null, false]);
  assert.deepEqual(place(0.5), ["p", "q", true]);
  assert.deepEqual(place(0.9), ["p", null, false]);
  assert.deepEqual(place(1.2), ["p", null, false]);
  assert.deepEqual(place(1.8), ["p", "a", false]);
  assert.deepEqual(place(4.9), [null, "m", false]);
  assert.deepEqual(place(9), [null, "m", false]);
});

test("moving rows where they stand, or into themselves, is no edit", () => {
  const store = aStore();
  const row = (/** @type {string} */ id) =>
    /** @type {import("../../src/Auxilium.Web/Frontend/plan/state/types.js").Row} */ (store.row(id));
  assert.deepEqual(movesTo(store, [row("p")], placeAt(store, 2.5)), []);
  assert.deepEqual(movesTo(store, [row("a")], placeAt(store, 1.9)), []);
  assert.deepEqual(movesTo(store, [row("a"), row("m")], placeAt(store, 3.9)), [
    { type: "moveTask", task: "a", parent: "q", after: "b" },
    { type: "moveTask", task: "m", parent: "q", after: "a" },
  ]);
  store.selection.toggle("a");
  store.selection.toggle("m");
  assert.equal(draggedWith(store, row("a")).length, 2);
  assert.equal(draggedWith(store, row("b")).length, 1);
});

test("a spreadsheet gets headings, indentation and dates that it reads, and no formula", () => {
  const store = aStore();
  store.rows[1].name = "=1+1";
  const lines = asTable(store, store.selection.ids.length > 0 ? [] : [store.rows[0]]).split("\n");
  assert.equal(lines[0], "No.\tTask\tOwner\tLength\tAfter\tStart\tFinish\tState");
  assert.equal(lines[1].split("\t")[1], "Before");
  assert.equal(lines[2].split("\t")[1], "  '=1+1");
  assert.equal(lines[2].split("\t").at(-1), "done");
  assert.equal(lines[4].split("\t")[5], "2027-05-03");
  assert.equal(lines.length, 5);
});

test("keys mean the same on every keyboard", () => {
  const key = (/** @type {string} */ name, /** @type {object} */ more = {}) =>
    /** @type {KeyboardEvent} */ ({
      key: name,
      ctrlKey: false,
      metaKey: false,
      altKey: false,
      shiftKey: false,
      ...more,
    });
  assert.equal(commandOf(key(".", { ctrlKey: true }), false), "indent");
  assert.equal(commandOf(key("Enter", { metaKey: true, shiftKey: true }), false), "insertAbove");
  assert.equal(commandOf(key("Z", { ctrlKey: true, shiftKey: true }), false), "redo");
  assert.equal(commandOf(key("/", { shiftKey: true }), false), "find");
  assert.equal(commandOf(key("?", { shiftKey: true }), false), "keys");
  assert.equal(commandOf(key("d"), true), "done");
  assert.equal(commandOf(key("d"), false), undefined);
  assert.equal(commandOf(key("+", { shiftKey: true }), true), "unfold");
  assert.equal(commandOf(key("ArrowDown", { shiftKey: true }), true), "pickDown");
});

test("no two commands share a name or a key", () => {
  const all = COMMANDS.flatMap(({ commands }) => commands);
  const chords = all.flatMap(({ keys }) => keys?.split(" ") ?? []);
  const letters = all.flatMap(({ letter }) => letter ?? []);
  for (const list of [all.map(({ name }) => name), chords, letters]) assert.equal(new Set(list).size, list.length);
  assert.deepEqual(printed("Alt+ArrowUp"), ["Alt", "↑"]);
});

test("columns are those that were chosen, as wide as they were made", () => {
  const store = aStore();
  assert.equal(columnsOf(store).length, 8);
  store.show({
    columns: [
      { key: "no", width: 40 },
      { key: "deadline", width: 90 },
      { key: "gone", width: 9 },
    ],
  });
  assert.deepEqual(
    columnsOf(store).map(({ label, width }) => [label, width]),
    [
      ["No.", 40],
      ["Deadline", 90],
    ],
  );
  const row = aRow("x", { deadline: at("2027-05-14T18:00"), spare: "2 days", progress: 12.7 });
  assert.deepEqual(
    ["deadline", "float", "progress"].map((col) => cellText(store, row, col)),
    ["14 May", "2d", "12%"],
  );
  assert.deepEqual(editFor(store, row, "deadline", " "), { edit: { type: "setDeadline", task: "x", deadline: null } });
});

test("weeks are numbered as ISO and as the US have them", () => {
  const day = (/** @type {string} */ text) => dayOf(minutesOf(`${text}T00:00`));
  assert.deepEqual(
    ["2027-01-03", "2027-01-04", "2026-12-31", "2020-12-31", "2027-05-13"].map((text) => isoWeek(day(text))),
    [53, 1, 53, 53, 19],
  );
  assert.deepEqual(
    ["2027-01-01", "2027-01-03", "2027-05-13", "2028-01-01"].map((text) => usWeek(day(text))),
    [1, 2, 20, 1],
  );
});
