// @ts-check
// What the Load page shows of lists of minutes by day.
import assert from "node:assert/strict";
import { test } from "node:test";
import { dayFrom } from "../../src/Auxilium.Web/Frontend/plan/state/time.js";
import {
  cellOf,
  columnsOf,
  hours,
  overDays,
  pastDays,
  rowsOf,
  said,
} from "../../src/Auxilium.Web/Frontend/load/model.js";

const monday = dayFrom("2027-05-10");

/** @type {import("../../src/Auxilium.Web/Frontend/load/model.js").LoadAnswer} */
const answer = {
  from: "2027-05-10",
  to: "2027-05-16",
  today: "2027-05-12",
  projects: [{ id: "p", name: "Fair", version: 3, mayEdit: true }],
  people: [
    {
      id: "ann",
      name: "Ann",
      initials: "A",
      team: "Crew",
      role: "",
      capacity: [480, 480, 480, 480, 480, 0, 0],
      load: [600, 0, 480.5, 481, 0, 60, 0],
      elsewhere: [0, 0, 0, 120, 0, 0, 0],
      work: [
        {
          project: "p",
          task: "t",
          name: "Bake",
          start: "2027-05-12T09:00",
          finish: "2027-05-13T18:00",
          first: 2,
          minutes: [480.5, 361],
        },
      ],
    },
    {
      id: "bo",
      name: "Bo",
      initials: "B",
      team: "",
      role: "Cook",
      capacity: [480, 480, 480, 480, 480, 0, 0],
      load: [0, 0, 0, 0, 0, 0, 0],
      work: [],
    },
  ],
  teams: [
    { name: "Crew", people: ["ann"], capacity: [480, 480, 480, 480, 480, 0, 0], load: [600, 0, 480.5, 481, 0, 60, 0] },
  ],
  open: [{ role: "Cook", load: [0, 0, 0, 240, 0, 0, 0], work: [] }],
};

test("columns are days, whole weeks and calendar months", () => {
  assert.deepEqual(
    columnsOf(monday, 14, "week", monday + 8).map(({ first, last, today }) => [first, last, today]),
    [
      [0, 6, false],
      [7, 13, true],
    ],
  );
  assert.deepEqual(
    columnsOf(monday, 40, "month", monday).map(({ first, last, head }) => [first, last, head]),
    [
      [0, 21, "May 2027"],
      [22, 39, "June 2027"],
    ],
  );
  const days = columnsOf(monday, 7, "day", monday + 2);
  assert.deepEqual([days[0]?.sub, days[2]?.today, days[5]?.rest, days[4]?.rest], ["10 May", true, true, false]);
});

test("a day is overbooked by more than half a minute, and only from today on", () => {
  const [ann] = answer.people;
  assert.ok(ann);
  assert.equal(pastDays(answer), 2);
  // Thursday by a minute, and Saturday, on which there is no time at all.
  assert.equal(overDays(ann.load, ann.capacity, 2), 2);
  assert.equal(overDays(ann.load, ann.capacity, 0), 3);
});

test("people stand under their teams, tasks under people, and what nobody has taken comes last", () => {
  const names = (/** @type {string[]} */ open, /** @type {"all" | "over"} */ show = "all", team = "") =>
    rowsOf(answer, new Set(open), show, team).map(({ kind, name }) => `${kind} ${name}`);
  assert.deepEqual(names([]), ["team Crew", "person Ann", "person Bo", "open Cook: nobody yet"]);
  assert.deepEqual(names(["person ann"]).slice(1, 4), ["person Ann", "task Bake", "elsewhere Elsewhere"]);
  assert.deepEqual(names(["team Crew"], "over"), ["team Crew"]);
  assert.deepEqual(names([], "all", "Crew"), ["team Crew", "person Ann"]);
});

test("a cell says its hours, those there are, and what is too much", () => {
  const rows = rowsOf(answer, new Set(["person ann"]), "all", "");
  const [week] = columnsOf(monday, 7, "week", monday + 2);
  const ann = rows.find(({ kind }) => kind === "person");
  const bake = rows.find(({ kind }) => kind === "task");
  assert.ok(week && ann && bake);
  const cell = cellOf(ann, week, 2);
  assert.deepEqual(cell, { load: 1621.5, capacity: 2400, over: 61, days: 2 });
  assert.equal(said(ann, week, cell), "Ann, the week from Mon 10 May: 27 of 40 h, overbooked by 1 h on 2 days");
  assert.equal(cellOf(bake, week, 2).capacity, null);
  assert.equal(hours(cellOf(bake, week, 2).load), "14");
});
