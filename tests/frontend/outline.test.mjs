// @ts-check
import assert from "node:assert/strict";
import { test } from "node:test";
import { BOX, layOutline, ROOT } from "../../src/Auxilium.Web/Frontend/plan/screens/outline-layout.js";

/** Rows and their levels. @param {[string, number][]} pairs */
const rows = (...pairs) => pairs.map(([id, level]) => ({ id, level }));

const PLAN = rows(["p", 0], ["p1", 1], ["p2", 1], ["q", 0], ["q1", 1], ["q1a", 2], ["q2", 1], ["r", 0]);

for (const way of /** @type {const} */ (["right", "down"])) {
  test(`no box lies on another, and all lie inside the picture: ${way}`, () => {
    const many = Array.from({ length: 80 }, (_, i) => ({
      id: `t${i}`,
      level: i % 5 === 0 ? 0 : 1 + (i % 3 === 0 ? 1 : 0),
    }));
    for (const plan of [PLAN, many, []]) {
      const { boxes, width, height } = layOutline(plan, way);
      assert.equal(boxes.size, plan.length + 1);
      const all = [...boxes.values()];
      for (const a of all)
        for (const b of all)
          if (a.id < b.id)
            assert.ok(Math.abs(a.x - b.x) >= BOX.width || Math.abs(a.y - b.y) >= BOX.height, `${a.id} on ${b.id}`);
      assert.ok(all.every(({ x, y }) => x >= 0 && y >= 0 && x + BOX.width <= width && y + BOX.height <= height));
    }
  });
}

test("each row hangs on its phase, and what is outermost on the project", () => {
  const { boxes } = layOutline(PLAN, "right");
  assert.deepEqual(boxes.get(ROOT)?.children, ["p", "q", "r"]);
  assert.deepEqual(boxes.get("q")?.children, ["q1", "q2"]);
  assert.equal(boxes.get("q1a")?.parent, "q1");
  assert.equal(boxes.get("q1a")?.level, 3);
});

test("from left to right a phase stands beside its first row, from the top down its tasks stand below it", () => {
  const right = layOutline(PLAN, "right").boxes;
  assert.equal(right.get("p")?.y, right.get("p1")?.y);
  assert.ok(Number(right.get("p1")?.x) > Number(right.get("p")?.x) + BOX.width);
  const down = layOutline(PLAN, "down").boxes;
  assert.deepEqual([down.get("p1")?.stacked, down.get("q1")?.stacked], [true, false]);
  assert.equal(down.get("p1")?.x, down.get("p2")?.x);
  assert.ok(Number(down.get("p1")?.y) > Number(down.get("p")?.y) + BOX.height);
});
