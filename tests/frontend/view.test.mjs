// @ts-check
// Which rows are shown together, found and coloured, and what is offered.
/** @import { Row } from "../../src/Auxilium.Web/Frontend/plan/state/types.js" */
import assert from "node:assert/strict";
import { test } from "node:test";
import { EVERYTHING, plainView, viewIn } from "../../src/Auxilium.Web/Frontend/plan/state/view.js";
import { offerOf } from "../../src/Auxilium.Web/Frontend/plan/panels/series-offer.js";
import { span } from "../../src/Auxilium.Web/Frontend/plan/state/time.js";
import { tintOf } from "../../src/Auxilium.Web/Frontend/plan/fields/tint.js";
import { fieldOf } from "../../src/Auxilium.Web/Frontend/plan/fields/fields.js";
import { leadsTo } from "../../src/Auxilium.Web/Frontend/plan/card/gathering.js";
import { aRow, aStore, at, changes } from "./plan.mjs";

test("grouped rows stand below headings that are no rows of the plan", () => {
  const store = aStore([
    aRow("a", { owner: "imke", label: "hire" }),
    aRow("b", { label: "print", state: "overdue", priority: 900 }),
    aRow("c", { owner: "imke", state: "done" }),
  ]);
  const shown = (/** @type {Partial<import("../../src/Auxilium.Web/Frontend/plan/state/view.js").View>} */ part) => {
    store.show({ ...EVERYTHING, folded: [], ...part });
    return store.shown.map((row) => (row.heading ? `[${row.name}]` : row.id)).join(" ");
  };
  assert.equal(shown({ group: "owner" }), "[Imke Varga (2)] a c [Nobody (1)] b");
  assert.equal(shown({ group: "state" }), "[Overdue (1)] b [Ready (1)] a [Done (1)] c");
  assert.equal(shown({ group: "label" }), "[hire (1)] a [print (1)] b [No label (1)] c");
  assert.equal(shown({ group: "owner", folded: ["owner:imke"] }), "[Imke Varga (2)] [Nobody (1)] b");
  assert.equal(shown({ group: "owner", sort: { col: "state", down: true } }), "[Imke Varga (2)] c a [Nobody (1)] b");
  assert.equal(shown({ group: "owner", keyOnly: true }), "");
  store.show({ ...EVERYTHING, group: "owner" });
  store.selection.all();
  assert.deepEqual(store.selection.ids, ["a", "c", "b"]);
  assert.equal(shown({ sort: { col: "priority", down: false } }), "b a c");
});

test("tasks are found by label, phase, days and what matters most", () => {
  const store = aStore([
    aRow("p", { kind: "phase" }),
    aRow("a", { level: 1, parent: "p", label: "hire", key: true }),
    aRow("b", { start: at("2027-05-10T09:00"), finish: at("2027-05-12T18:00") }),
    aRow("c", { start: null, off: true }),
  ]);
  const shown = (/** @type {Partial<import("../../src/Auxilium.Web/Frontend/plan/state/view.js").View>} */ part) => {
    store.show({ ...EVERYTHING, ...part });
    return store.shown.map((row) => row.id).join(" ");
  };
  assert.equal(shown({ only: { label: "hire" } }), "p a");
  assert.equal(shown({ only: { label: "-" } }), "b c");
  assert.equal(shown({ keyOnly: true }), "p a");
  assert.equal(shown({ phase: "p" }), "p a");
  assert.equal(shown({ from: "2027-05-12" }), "b");
  assert.equal(shown({ from: "2027-05-04", to: "2027-05-09" }), "");
  assert.equal(shown({ to: "2027-05-10" }), "p a b");
  assert.equal(shown({ only: { state: "noDate" } }), "c");
  assert.deepEqual(
    store.passing().map((row) => row.id),
    ["c"],
  );
});

test("a colour tells what one chose, and a label always has the same", () => {
  const store = aStore([]);
  const row = aRow("a", { owner: "imke", colour: "moss", label: "hire", state: "done" });
  assert.deepEqual(tintOf(store, row, "colour"), { name: "data-tint", value: "moss" });
  assert.deepEqual(tintOf(store, row, "owner"), { name: "data-hue", value: "0" });
  assert.deepEqual(tintOf(store, row, "state"), { name: "data-tint", value: "done" });
  assert.deepEqual(tintOf(store, row, "label"), tintOf(store, aRow("b", { label: "hire" }), "label"));
  assert.equal(tintOf(store, aRow("b"), "colour"), null);
  assert.equal(tintOf(store, row, "none"), null);
});

test("a row that is told whole has what is as usual again, and a change of it keeps the rest", () => {
  const store = aStore([aRow("a", { label: "hire", critical: true })]);
  const told = { ...changes([]), order: null, rows: [{ id: "a", name: "A", length: "2d" }] };
  store.apply({ ...told, from: { version: 1, edit: null } });
  assert.deepEqual([store.row("a")?.label, store.row("a")?.critical, store.row("a")?.length], ["hire", true, "2d"]);
  store.apply({ ...told, from: null });
  assert.deepEqual([store.row("a")?.label, store.row("a")?.critical, store.row("a")?.length], [null, false, "2d"]);
});

test("the next series that stops short is offered to go on", () => {
  const store = aStore([]);
  assert.equal(offerOf(store), null);
  store.project.stops = [{ task: "a", name: "Crew meeting", last: "Tue 4 May", more: 2 }];
  assert.deepEqual(offerOf(store), {
    name: "Crew meeting",
    text: "Crew meeting stops on Tue 4 May, and the project runs on to 7 May: 2 more.",
    edit: { type: "extendSeries", task: "a" },
    task: "a",
  });
});

test("rows stand together by the milestone that they serve themselves or by their phase, the earliest first", () => {
  const store = aStore([
    aRow("p", { kind: "phase", serves: "late" }),
    aRow("a", { level: 1, parent: "p" }),
    aRow("b", { level: 1, parent: "p", serves: "soon", state: "done" }),
    aRow("soon", { kind: "milestone", gathers: 1, gathersLeft: 0, start: at("2027-05-04T09:00") }),
    aRow("late", { kind: "milestone", gathers: 1, gathersLeft: 1, start: at("2027-06-04T09:00") }),
    aRow("c", { serves: "a" }),
  ]);
  store.show({ group: "serves" });
  assert.deepEqual(
    store.shown.map(({ id, name }) => (id.startsWith("serves:") ? name : id)),
    ["Task soon, 0 left (2)", "b", "soon", "Task late, 1 left (2)", "a", "late", "No milestone (1)", "c"],
  );
  store.show({ folded: ["serves:soon", "serves:late", "serves:"] });
  assert.equal(store.shown.length, 3);
  const { group } = fieldOf("serves");
  assert.deepEqual(group?.give?.(aRow("c"), "soon"), { type: "setServes", task: "c", serves: "soon" });
  assert.deepEqual(group?.give?.(aRow("c"), ""), { type: "setServes", task: "c", serves: null });
});

test("teams count those who help", () => {
  const store = aStore([
    aRow("a", { owner: "imke", helpers: 1, with: "bert" }),
    aRow("b", { owner: "imke" }),
    aRow("c"),
  ]);
  store.teams = new Map([
    ["imke", "Office"],
    ["bert", "Crew"],
  ]);
  const { text, filter, group } = fieldOf("team");
  const of = (/** @type {(row: Row) => unknown} */ ask) => ["a", "b", "c"].map((id) => ask(rowOf(store, id)));
  assert.deepEqual(
    of((row) => text(store, row)),
    ["Office, Crew", "Office", ""],
  );
  assert.deepEqual(
    of((row) => filter?.holds(row, "Crew", store)),
    [true, false, false],
  );
  assert.deepEqual(
    of((row) => filter?.holds(row, "-", store)),
    [false, false, true],
  );
  assert.equal(group?.of(rowOf(store, "a"), store), "Office, Crew");
});

test("a link is offered where none leads to the milestone, and a phase leads for its rows", () => {
  const store = aStore(
    [aRow("p", { kind: "phase" }), aRow("a", { level: 1, parent: "p" }), aRow("b"), aRow("m"), aRow("x")],
    [
      { from: "p", to: "b", kind: "finishToStart", setsFinish: false },
      { from: "b", to: "m", kind: "finishToStart", setsFinish: false },
    ],
  );
  assert.deepEqual(
    [leadsTo(store, "a", "m"), leadsTo(store, "b", "m"), leadsTo(store, "x", "m"), leadsTo(store, "m", "b")],
    [true, true, false, false],
  );
});

/** @param {import("../../src/Auxilium.Web/Frontend/plan/state/store.js").Store} store @param {string} id */
const rowOf = (store, id) => /** @type {Row} */ (store.row(id));

test("two days are told as short as can be", () => {
  const day = (/** @type {string} */ text) => Math.floor(at(`${text}T00:00`) / 1440);
  assert.equal(span(day("2027-05-10"), day("2027-05-10")), "10 May");
  assert.equal(span(day("2027-05-10"), day("2027-05-12")), "10 – 12 May");
  assert.equal(span(day("2027-05-31"), day("2027-06-01")), "31 May – 1 Jun");
});

test("a view that was kept by an older version is read as it was meant", () => {
  const old = {
    ...plainView(),
    owner: "imke",
    team: "",
    state: "late",
    labelled: "-",
    rows: "own",
    colour: "own",
    only: undefined,
  };
  const { only, rows, colour } = viewIn(old);
  assert.deepEqual(
    { only, rows, colour },
    { only: { owner: "imke", state: "late", label: "-" }, rows: "colour", colour: "colour" },
  );
  assert.deepEqual(viewIn({ ...plainView(), group: "gone", folded: ["p"] }), { ...plainView(), folded: ["p"] });
  const columns = [{ key: "name", width: 220 }];
  assert.deepEqual(viewIn({ columns }), { ...plainView(), columns });
  assert.deepEqual(viewIn(undefined), plainView());
});
