// @ts-check
/** @import { Screen } from "../../src/Auxilium.Web/Frontend/plan/commands/command.js" */
import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import { COMMANDS, runCommand } from "../../src/Auxilium.Web/Frontend/plan/commands/commands.js";
import { aRow, aStore } from "./plan.mjs";

const page = readFileSync(new URL("../../src/Auxilium.Web/Pages/Plan/_PlanScreen.cshtml", import.meta.url), "utf8");
const all = COMMANDS.flatMap(({ commands }) => commands);

/** A screen on which nothing can be done but to be told something. @param {Partial<Screen>} [more] */
const aScreen = (more = {}) =>
  /** @type {Screen} */ (/** @type {unknown} */ ({ store: aStore([aRow("a"), aRow("b")]), isPlan: true, ...more }));

test("every command has a name and keys of its own, and every button of the page has a command", () => {
  assert.equal(new Set(all.map(({ name }) => name)).size, all.length);
  const keys = all.flatMap((command) => (command.keys ?? "").split(" ").filter(Boolean));
  assert.equal(new Set(keys).size, keys.length);
  const letters = all.flatMap(({ letter }) => letter ?? []);
  assert.equal(new Set(letters).size, letters.length);
  const buttons = [...page.matchAll(/data-command="(\w+)"/g)].map(([, name]) => name ?? "");
  assert.ok(buttons.length > 15);
  for (const name of buttons)
    assert.ok(
      all.some((command) => command.name === name),
      name,
    );
});

test("a command that nobody knows is a fault, and one that cannot be run now says why", () => {
  const screen = aScreen();
  assert.throws(() => runCommand(screen, "gone"), /There is no command “gone”/);
  for (const name of ["insert", "remove", "done", "fold", "pickUp"]) {
    screen.store.notice = null;
    runCommand(screen, name);
    assert.equal(screen.store.notice?.text, "Choose a row of the list first.", name);
  }
  runCommand(aScreen({ isPlan: true, showToday: () => {} }), "today");
  const other = aScreen({ isPlan: false });
  runCommand(other, "zoomIn");
  assert.match(other.store.notice?.text ?? "", /The timeline is in Plan/);
  screen.store.current = { id: "a", col: "name" };
  runCommand(screen, "chain");
  assert.match(screen.store.notice?.text ?? "", /Pick two or more rows first/);
});
