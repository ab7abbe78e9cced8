// @ts-check
import assert from "node:assert/strict";
import { test } from "node:test";
import { BOX, layChains } from "../../src/Auxilium.Web/Frontend/plan/screens/chains-layout.js";

/** @param {string[]} pairs such as "a>b" */
const links = (...pairs) => pairs.map((pair) => ({ from: pair.split(">")[0], to: pair.split(">")[1] }));

test("each task stands right of everything it waits for", () => {
  const { nodes } = layChains(["a", "b", "c", "d"], links("a>b", "b>c", "a>c", "a>d"));
  assert.deepEqual(
    ["a", "b", "c", "d"].map((id) => nodes.get(id)?.layer),
    [0, 1, 2, 1],
  );
});

test("no box lies on another, whatever is linked", () => {
  const ids = Array.from({ length: 60 }, (_, i) => `t${i}`);
  const pairs = ids.flatMap((_, i) =>
    [i + 1, i * 2 + 1, i * 3 + 2].filter((to) => to < 60 && to > i).map((to) => `t${i}>t${to}`),
  );
  const { nodes, alone, width, height } = layChains([...ids, "x", "y"], links(...pairs));
  const boxes = [...nodes.values(), ...alone];
  assert.equal(boxes.length, 62);
  for (const a of boxes)
    for (const b of boxes)
      if (a.id < b.id)
        assert.ok(Math.abs(a.x - b.x) >= BOX.width || Math.abs(a.y - b.y) >= BOX.height, `${a.id} lies on ${b.id}`);
  assert.ok(boxes.every((box) => box.x + BOX.width <= width && box.y + BOX.height <= height));
});

test("a chain is one straight line, and what is linked to nothing stands below", () => {
  const { nodes, alone, bottom } = layChains(["a", "lone", "b", "c"], links("a>b", "b>c", "gone>a"));
  assert.equal(new Set([...nodes.values()].map((node) => node.y)).size, 1);
  assert.deepEqual(
    alone.map((node) => node.id),
    ["lone"],
  );
  assert.ok(alone[0].y > bottom);
});

test("branches that do not cross are not drawn crossing", () => {
  const { nodes } = layChains(["a", "b", "c", "d"], links("a>d", "b>c"));
  const y = (/** @type {string} */ id) => nodes.get(id)?.y ?? 0;
  assert.equal(Math.sign(y("a") - y("b")), Math.sign(y("d") - y("c")));
});

test("a link that goes past a layer leaves its boxes alone", () => {
  const { nodes, routes } = layChains(["a", "b", "c", "d", "e"], links("a>b", "b>c", "c>d", "a>d", "e>c", "a>c"));
  const way = routes.get("a>d") ?? [];
  assert.equal(way.length, 2);
  for (const point of way)
    for (const box of nodes.values())
      if (box.x === point.x) assert.ok(point.y < box.y || point.y > box.y + BOX.height, `it crosses ${box.id}`);
});
