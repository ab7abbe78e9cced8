// @ts-check
// The pure parts of the timeline: from times to places, from a plan to shapes.
import assert from "node:assert/strict";
import test from "node:test";
import { Between } from "../../src/Auxilium.Web/Frontend/plan/timeline/between.js";
import { settle } from "../../src/Auxilium.Web/Frontend/plan/panels/gauge.js";
import { linkPath, sideLinkPath } from "../../src/Auxilium.Web/Frontend/plan/timeline/link-path.js";
import { dayAt, scaleFor } from "../../src/Auxilium.Web/Frontend/plan/timeline/scale.js";
import { headShapes } from "../../src/Auxilium.Web/Frontend/plan/timeline/head-shapes.js";
import { bodyShapes } from "../../src/Auxilium.Web/Frontend/plan/timeline/shapes.js";
import * as time from "../../src/Auxilium.Web/Frontend/plan/state/time.js";
import { aRow, aStore, at } from "./plan.mjs";

test("a day is drawn as wide as the working day, so that a task of three days fills three", () => {
  const store = aStore([aRow("a", { start: at("2027-05-03T09:00"), finish: at("2027-05-05T18:00") })]);
  const scale = scaleFor("weeks", store.project, store.rows);
  assert.equal(scale.x(at("2027-05-05T18:00")) - scale.x(at("2027-05-03T09:00")), 3 * scale.day);
  assert.equal(scale.x(at("2027-05-03T18:00")), scale.x(at("2027-05-04T09:00")));
  assert.equal(scale.x(at("2027-05-04T00:00")), scale.x(at("2027-05-03T23:00")));
  assert.equal(scale.firstDay % 7, 0);
  assert.equal(dayAt(scale, scale.x(at("2027-05-03T12:00"))), time.dayOf(at("2027-05-03T12:00")));
});

test("dates are told as people read them", () => {
  const day = time.dayOf(at("2027-05-12T09:00"));
  assert.equal(time.short(day), "12 May");
  assert.equal(time.withWeekday(day), "Wed 12 May");
  assert.equal(time.iso(day), "2027-05-12");
  assert.equal(time.monthName(day), "May 2027");
  // A finish at midnight belongs to the day it ends.
  assert.equal(time.short(time.finishDayOf(at("2027-05-13T00:00"))), "12 May");
});

/** Nothing stands between. */
const open = new Between(0, 1, 30, () => null);

/** The upright pieces of a path, as x and from which to which y. @param {string} path @returns {[number, number, number][]} */
function uprights(path) {
  const numbers = (path.match(/-?[\d.]+/g) ?? []).map(Number);
  const points = numbers.flatMap((x, i) => (i % 2 === 0 ? [[x, numbers[i + 1]]] : []));
  /** @type {[number, number, number][]} */ const pieces = [];
  for (const [i, [x, y]] of points.entries()) {
    const [was, from] = points[i - 1] ?? [NaN, 0];
    const last = pieces.at(-1);
    if (x !== was || y === from) continue;
    const [top, bottom] = [Math.min(y, from), Math.max(y, from)];
    // The pieces of one line, with its corners, count as one.
    if (last?.[0] === x && (last[1] === bottom || last[2] === top)) {
      last[1] = Math.min(last[1], top);
      last[2] = Math.max(last[2], bottom);
    } else pieces.push([x, top, bottom]);
  }
  return pieces;
}

/**
 * Whether a path runs through a bar: 18 pixels in the middle of its row.
 * @param {string} path
 * @param {number} line
 * @param {[number, number]} extent
 */
const crosses = (path, line, [start, end]) =>
  uprights(path).some(([x, top, bottom]) => x > start && x < end && bottom > line * 30 + 6 && top < line * 30 + 24);

test("a link keeps to its trunk until something is in the way, and goes past that", () => {
  /** @type {(line: number) => import("../../src/Auxilium.Web/Frontend/plan/timeline/between.js").Extent} */
  const extentOf = (line) => (line === 2 ? [90, 180] : null);
  const { path } = linkPath({ x: 100, y: 15 }, { x: 400, y: 135 }, true, new Between(0, 4, 30, extentOf));
  assert.ok(!crosses(path, 2, [90, 180]), path);
  assert.deepEqual(uprights(path), [
    [107, 15, 60],
    [193, 60, 135],
  ]);
  // From below it is the same the other way round.
  const up = linkPath({ x: 100, y: 135 }, { x: 400, y: 15 }, true, new Between(4, 0, 30, extentOf));
  assert.ok(!crosses(up.path, 2, [90, 180]), up.path);
  // To a bar that begins where this one ends it goes round on the left.
  const next = linkPath({ x: 100, y: 15 }, { x: 100, y: 135 }, true, new Between(0, 4, 30, extentOf));
  assert.ok(!crosses(next.path, 2, [90, 180]), next.path);
  assert.match(next.path, /L95 135$/);
  // Where there is no way past before the bar that it goes to, there may be one on the left.
  const left = linkPath({ x: 100, y: 15 }, { x: 150, y: 135 }, true, new Between(0, 4, 30, extentOf));
  assert.ok(!crosses(left.path, 2, [90, 180]), left.path);
  assert.match(left.path, /L145 135$/);
  // Where there is no way past, it takes the straight one, behind the bar.
  const wide = new Between(0, 4, 30, () => [0, 1000]);
  assert.ok(crosses(linkPath({ x: 100, y: 15 }, { x: 400, y: 135 }, true, wide).path, 2, [0, 1000]));
});

test("whatever stands between, a link finds the way past that there is", () => {
  let seed = 7;
  const random = (/** @type {number} */ below) => (seed = (seed * 48271) % 2147483647) % below;
  for (let run = 0; run < 500; run++) {
    const rows = 2 + random(12);
    // Nothing is ever at 480 to 540.
    const bars = Array.from({ length: rows + 1 }, () => {
      const start = random(2) === 0 ? random(380) : 540 + random(300);
      return /** @type {[number, number]} */ ([start, Math.min(start + 10 + random(200), start < 480 ? 480 : 2000)]);
    });
    const [first, last] = random(2) === 0 ? [0, rows] : [rows, 0];
    const [from, to] = [first, last].map((line) => ({ x: line === first ? 300 : 700, y: line * 30 + 15 }));
    const { path } = linkPath(from, to, true, new Between(first, last, 30, (line) => bars[line]));
    for (let line = 1; line < rows; line++) assert.ok(!crosses(path, line, bars[line]), `${run}: ${path}`);
  }
});

test("a link to a later bar arrives from the left, one to the next day comes down on it", () => {
  const later = linkPath({ x: 100, y: 15 }, { x: 160, y: 75 }, true, open);
  assert.match(later.path, /L155 75$/);
  assert.match(later.arrow, /L160 75L/);
  const next = linkPath({ x: 100, y: 15 }, { x: 100, y: 45 }, true, open);
  assert.match(next.arrow, /L106 35L/);
  const up = linkPath({ x: 100, y: 75 }, { x: 100, y: 15 }, true, open);
  assert.match(up.arrow, /L106 25L/);
  // Against the order of time it goes round between the rows.
  const back = linkPath({ x: 200, y: 15 }, { x: 100, y: 45 }, true, open);
  assert.match(back.path, /L95 45$/);
});

test("a link of another kind leaves and arrives at the ends it is about", () => {
  const together = sideLinkPath({ x: 100, y: 15 }, { x: 160, y: 75 }, true, false, open);
  assert.match(together.path, /^M100 15L94 15Q89 15/);
  assert.match(together.arrow, /L160 75L154/);
  const ends = sideLinkPath({ x: 100, y: 15 }, { x: 160, y: 75 }, false, true, open);
  assert.match(ends.path, /171 .*L165 75$/);
  assert.match(ends.arrow, /L160 75L166/);
  const across = sideLinkPath({ x: 100, y: 15 }, { x: 160, y: 75 }, true, true, open);
  assert.match(across.path, /^M100 15L95/);
  assert.match(across.path, /L165 75$/);
});

test("a task that pauses is drawn in stretches on a thread, and its missed deadline is marked", () => {
  const times = ["2027-05-03T09:00", "2027-05-03T18:00", "2027-05-06T09:00", "2027-05-06T18:00"].map(at);
  const row = aRow("s", {
    start: times[0],
    finish: times[3],
    stretches: times.join(" "),
    progress: 75,
    doneTo: at("2027-05-06T13:30"),
    deadline: at("2027-05-05T18:00"),
  });
  const store = aStore([row]);
  const scale = scaleFor("weeks", store.project, store.rows);
  const { bars } = bodyShapes(store, scale, { first: 0, last: 1, left: 0, right: scale.width, height: 300 });
  const parts = bars[0].parts ?? [];
  assert.deepEqual(
    parts.map((part) => part.key),
    ["thread", "bar", "done", "bar1", "done1", "deadline"],
  );
  const [first, second] = parts.filter((part) => part.key.startsWith("bar"));
  assert.equal(first.at.width, scale.day);
  assert.equal(second.at.x, scale.x(times[2]));
  assert.match(String(parts.at(-1)?.at.class), /is-missed/);
  assert.match(String(bars[0].at["aria-label"]), /with pauses, deadline 5 May/);
});

const rows = [
  aRow("p", { kind: "phase", progress: 50, start: at("2027-05-03T09:00"), finish: at("2027-05-07T18:00") }),
  aRow("a", {
    level: 1,
    parent: "p",
    start: at("2027-05-03T09:00"),
    finish: at("2027-05-04T18:00"),
    progress: 50,
    doneTo: at("2027-05-03T18:00"),
    started: true,
    state: "underWay",
    critical: true,
  }),
  aRow("m", {
    level: 1,
    parent: "p",
    kind: "milestone",
    start: at("2027-05-07T18:00"),
    finish: at("2027-05-07T18:00"),
  }),
  aRow("b", {
    start: at("2027-05-03T09:00"),
    finish: at("2027-05-03T18:00"),
    lateFinish: at("2027-05-07T18:00"),
    state: "overdue",
    length: "1d?",
  }),
  aRow("n", { start: null, unsaved: true }),
];
const links = [
  { from: "a", to: "m", setsFinish: true },
  { from: "b", to: "m", setsFinish: false },
  { from: "b", to: "n", setsFinish: false },
];

/** @param {Partial<import("../../src/Auxilium.Web/Frontend/plan/timeline/shapes.js").Viewport>} [view] */
function draw(view = {}) {
  const store = aStore(rows, links);
  const scale = scaleFor("weeks", store.project, store.rows);
  const whole = { first: 0, last: rows.length, left: 0, right: scale.width, height: 300, ...view };
  return { scale, shapes: bodyShapes(store, scale, whole) };
}

test("a phase is a tray around all of its rows and days, with a progress rule", () => {
  const { shapes, scale } = draw();
  const tray = shapes.trays.find((shape) => shape.key === "p");
  assert.ok(tray);
  assert.equal(tray.at.height, 3 * scale.row - 6);
  assert.equal(tray.at.x, scale.x(at("2027-05-03T09:00")) - 6);
  const rule = shapes.trays.find((shape) => shape.key === "p/rule");
  const done = shapes.trays.find((shape) => shape.key === "p/done");
  assert.equal(Number(done?.at.width) * 2, rule?.at.width);
});

test("a bar shows what is done, what sets the finish, and what is a guess or late", () => {
  const { shapes, scale } = draw();
  const part = (/** @type {string} */ bar, /** @type {string} */ name) =>
    shapes.bars.find((shape) => shape.key === bar)?.parts?.find((p) => p.key === name);
  assert.match(String(part("a", "bar")?.at.class), /is-begun sets-finish/);
  assert.equal(part("a", "done")?.at.width, scale.day - 3);
  assert.ok(part("a", "keel"));
  assert.match(String(part("b", "bar")?.at.class), /is-late.*guess-bar/);
  assert.equal(part("b", "keel"), undefined);
  assert.equal(part("m", "label")?.text, "7 May");
});

test("a fixed date is a bracket: before the bar, behind it, or on both sides", () => {
  const brackets = (/** @type {"before" | "behind" | "both" | null} */ fixedSides) => {
    const store = aStore([aRow("f", { fixed: "fixed", fixedSides })]);
    const scale = scaleFor("weeks", store.project, store.rows);
    const { bars } = bodyShapes(store, scale, { first: 0, last: 1, left: 0, right: scale.width, height: 300 });
    return bars[0].parts?.map((shape) => shape.key).filter((key) => key === "from" || key === "to");
  };
  assert.deepEqual(brackets("before"), ["from"]);
  assert.deepEqual(brackets("behind"), ["to"]);
  assert.deepEqual(brackets("both"), ["from", "to"]);
  assert.deepEqual(brackets(null), []);
});

test("each bar is a sentence for those who cannot see it", () => {
  const { shapes } = draw();
  const label = shapes.bars.find((shape) => shape.key === "a")?.at["aria-label"];
  assert.equal(label, "Task a, 3 May to 4 May, under way, 50% done, no owner, sets the finish");
});

test("float is a tail to the latest finish with a stop", () => {
  const { shapes, scale } = draw();
  const end = scale.x(at("2027-05-07T18:00"));
  assert.deepEqual(
    shapes.tails.map((shape) => shape.key),
    ["b/tail", "b/stop"],
  );
  assert.equal(shapes.tails[1].at.x1, end);
});

test("links that set the finish lie on top, and one to an unsaved row is not drawn", () => {
  const { shapes } = draw();
  const paths = shapes.links.filter(
    (shape) => String(shape.at.class).startsWith("link") && shape.key.includes(">") && !shape.key.includes("/"),
  );
  assert.deepEqual(
    paths.map((shape) => shape.key),
    ["b>m", "a>m"],
  );
  assert.equal(paths[1].at.class, "link sets-finish");
});

test("only what is in sight is drawn", () => {
  const { shapes } = draw({ first: 3, last: 4 });
  assert.deepEqual(
    shapes.bars.map((shape) => shape.key),
    ["b"],
  );
  assert.equal(shapes.trays.length, 0);
});

test("words above the timeline never lie on each other", () => {
  const store = aStore(rows, links);
  store.project.finishBy = at("2027-05-14T18:00");
  for (const name of ["hours", "days", "weeks", "months", "years"]) {
    const scale = scaleFor(name, store.project, store.rows);
    const top = headShapes(store.project, scale, 0, scale.width).filter((s) => s.tag === "text" && s.at.y === 17);
    const spans = top
      .map((s) => {
        const width = (s.text ?? "").length * 6;
        const x = Number(s.at.x) - (s.at["text-anchor"] === "middle" ? width / 2 : 0);
        return [x, x + width, s.text];
      })
      .toSorted((a, b) => Number(a[0]) - Number(b[0]));
    for (let i = 1; i < spans.length; i++)
      assert.ok(spans[i - 1][1] <= spans[i][0], `${spans[i - 1][2]} on ${spans[i][2]}`);
  }
});

test("what is written above the project line never runs into something else, however narrow it is", () => {
  const wide = { start: 84, done: 66, finish: 112, deadline: 150 };
  for (let width = 420; width <= 1600; width += 20)
    for (let doneAt = 0; doneAt <= 100; doneAt += 10)
      for (const finishAt of [5, 60, 100]) {
        const { done, finish, name } = settle(width, wide, doneAt, finishAt);
        const isBelow = name("late") === "late below";
        assert.ok(done >= wide.start, `${width} ${doneAt}`);
        assert.ok(finish >= done + wide.done, `${width} ${doneAt}`);
        // In a line with the deadline there is room for it.
        if (!isBelow) assert.ok(finish + wide.finish <= width - wide.deadline + 0.5, `${width} ${doneAt} ${finishAt}`);
      }
  const { done, finish } = settle(1000, { ...wide, deadline: 0 }, 50, 80);
  assert.deepEqual([done, finish], [500, 744]);
});

test("no date above the timeline runs into another, at any scale and wherever one looks", () => {
  const store = aStore([aRow("a", { start: at("2026-11-02T09:00"), finish: at("2029-02-02T18:00") })]);
  const project = { ...store.project, finishBy: at("2027-05-07T18:00") };
  for (let day = 0.26; day < 880; day *= 1.22) {
    const scale = scaleFor(day, project, store.rows);
    for (const part of [0, 0.21, 0.5, 0.83])
      for (const weeks of /** @type {const} */ (["dates", "iso", "us"])) {
        const left = Math.max(0, (scale.width - 900) * part);
        const words = headShapes(project, scale, left, left + 900, weeks).filter(({ tag }) => tag === "text");
        for (const y of new Set(words.map((word) => word.at.y))) {
          const spans = words
            .filter((word) => word.at.y === y)
            .map((word) => {
              const wide = (word.text ?? "").length * 5.6;
              const x = Number(word.at.x);
              const from = word.at["text-anchor"] === "middle" ? x - wide / 2 : x;
              return { from, to: from + wide, text: word.text };
            })
            .toSorted((a, b) => a.from - b.from);
          for (const [i, { from, text }] of spans.entries())
            if (i > 0)
              assert.ok(
                from >= spans[i - 1].to - 2,
                `${day.toFixed(2)} ${weeks} ${part}: ${spans[i - 1].text} | ${text}`,
              );
        }
      }
  }
});

test("a record of the plan is a bracket where it has each row, and each record has a line of its own", () => {
  const milestone = aRow("m", { kind: "milestone", start: at("2027-05-06T09:00"), finish: at("2027-05-06T09:00") });
  const store = aStore([aRow("a"), aRow("b"), milestone]);
  const scale = scaleFor("weeks", store.project, store.rows);
  const from = at("2027-05-04T09:00");
  const to = at("2027-05-05T18:00");
  store.behind = [
    { key: "b1", name: "As agreed", style: 0, of: (row) => (row.id === "b" ? null : [from, to]) },
    { key: "b2", name: "Later", style: 1, of: (row) => (row.id === "a" ? [from, to] : null) },
  ];
  const view = { first: 0, last: 3, left: 0, right: 2000, height: 400, bottom: 400, seen: 0 };
  const { planned } = bodyShapes(store, scale, view);
  assert.deepEqual(
    planned.map(({ key }) => key),
    ["a/b1", "a/b2", "m/b1"],
  );
  const d = (/** @type {number} */ i) =>
    String(planned[i].at.d)
      .match(/[\d.]+/g)
      ?.map(Number) ?? [];
  assert.deepEqual([d(0)[0], d(0)[3]], [scale.x(from), scale.x(to)]);
  // Two do not lie on one another, and differ by more than a colour.
  assert.notEqual(d(0)[2], d(1)[2]);
  assert.notEqual(planned[0].at.class, planned[1].at.class);
  // A milestone is a date: its bracket stands around it.
  assert.deepEqual([d(2)[0], d(2)[3]], [scale.x(from) - 5, scale.x(from) + 5]);
  assert.equal(planned[0].parts?.[0].text, "As agreed: 4 – 5 May");
});

test("a peg says how much of the effort is used, and is filled where that is more than is done", () => {
  const store = aStore([aRow("a"), aRow("b"), aRow("c")]);
  const scale = scaleFor("weeks", store.project, store.rows);
  const view = { first: 0, last: 3, left: 0, right: 2000, height: 400, bottom: 400, seen: 0 };
  store.takeUsed([
    { task: "a", minutes: 240, share: 0.5, isEating: false, said: "4 of 8 hours used" },
    { task: "b", minutes: 960, share: 2, isEating: true, said: "16 of 8 hours used, more than planned" },
  ]);
  const marks = bodyShapes(store, scale, view).bars.map(({ parts }) => parts?.find(({ key }) => key === "used"));
  const x = (/** @type {number} */ i) => Number(/[\d.]+/.exec(String(marks[i]?.at.d))?.[0]);
  const [from, to] = [scale.x(at("2027-05-03T09:00")), scale.x(at("2027-05-03T18:00"))];
  assert.equal(x(0), from + (to - from) / 2);
  // No further than the bar, however much more it is.
  assert.equal(x(1), to);
  assert.match(String(marks[1]?.at.class), /is-eating/);
  assert.doesNotMatch(String(marks[0]?.at.class), /is-eating/);
  assert.equal(marks[2], undefined);
});
