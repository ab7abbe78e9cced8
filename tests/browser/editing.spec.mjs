// @ts-check
import { test, expect } from "./app.mjs";

const chain = {
  format: "auxilium-plan/1",
  project: { name: "Chain", start: "2027-05-03", finishBy: "2027-05-14" },
  tasks: [
    { id: "a", name: "Workshop", length: "5d" },
    { id: "b", name: "Rig", length: "2d" },
    { id: "c", name: "Dry-run", length: "1d" },
    { id: "d", name: "Radios", length: "1d" },
  ],
  links: [
    { from: "a", to: "b" },
    { from: "b", to: "c" },
  ],
};

test("what is wrong is said at the cell, and what was typed stays to be mended", async ({ page, plan }) => {
  await plan.bringIn(chain);
  for (const [column, text, sentence] of [
    ["length", "soon", "“soon” is not a length"],
    ["length", "-2d", "cannot be negative"],
    ["length", "99999d", "longer than ten years"],
    ["after", "after 99", "There is no row 99"],
    ["after", "3", "go round in a circle: 2 “Rig” → 3 “Dry-run” → 2 “Rig”"],
    ["start", "3/4", "could be read two ways"],
    ["finish", "whenever", "is not a date"],
    ["state", "nearly", "is not progress"],
    ["name", "x".repeat(10_000), "This name has 10,000 characters"],
  ]) {
    await plan.cell(column === "name" ? "Rig" : "Rig", column).click();
    await page.keyboard.press("F2");
    await page.keyboard.press("Control+A");
    await page.keyboard.insertText(text);
    await page.keyboard.press("Enter");
    await expect(plan.problem).toContainText(sentence);
    const cell = page.locator(`[data-row="b"] [data-col="${column}"]`);
    await expect(cell).toHaveText(text);
    await expect(cell).toHaveAttribute("aria-invalid", "true");
    // Editing again begins with what was typed; Escape gives it up.
    await cell.click();
    await page.keyboard.press("F2");
    await expect(cell.getByRole("combobox").or(cell.getByRole("textbox"))).toHaveValue(text);
    await page.keyboard.press("Escape");
    await expect(cell).not.toHaveAttribute("aria-invalid", "true");
    await expect(plan.problem).toHaveCount(0);
  }
  await expect(plan.cell("Rig", "length")).toHaveText("2d");
});

test("a task that cannot be added stays in the list with its sentence, and can be mended", async ({ page, plan }) => {
  await plan.bringIn(chain);
  await plan.newTask.focus();
  await page.keyboard.insertText("y".repeat(300));
  await page.keyboard.press("Enter");
  await page.keyboard.insertText("After it");
  await page.keyboard.press("Enter");
  await expect(plan.problem).toContainText("This name has 300 characters");
  await expect(plan.cell("After it", "no")).toHaveText("5");
  await page.locator(".list-row.is-pending .cell-name").click();
  await page.keyboard.type("Short");
  await page.keyboard.press("Enter");
  await plan.saved();
  await expect(plan.cell("Short", "no")).toHaveText("5");
  await expect(plan.problem).toHaveCount(0);
});

test("the strip says what moved, lists it with the reason, and takes it back ten times over", async ({
  page,
  plan,
}) => {
  await plan.bringIn(chain);
  await plan.type("Workshop", "length", "7d");
  await expect(plan.strip).toHaveText(
    "Workshop now takes 7 days instead of 5 days. 2 other tasks moved; finish Wed 12 May → Fri 14 May. " +
      "That is just on the deadline as planned, and 8 working days past it if what is left starts today.",
  );
  await page.getByRole("button", { name: "See what moved" }).click();
  const dialog = page.getByRole("dialog", { name: "What moved" });
  await expect(dialog.getByRole("row").nth(2)).toHaveText(
    /Rig.*Mon 10 May – Tue 11 May.*Wed 12 May – Thu 13 May.*2 working days later.*waits for 1 “Workshop”/,
  );
  // What moved is told after a reload too.
  await page.reload();
  await plan.ready();
  await page.getByRole("button", { name: "See what moved" }).dblclick();
  await expect(dialog.getByRole("row").nth(3)).toHaveText(/Dry-run.*waits for 2 “Rig”/);
  await dialog.getByRole("button", { name: "Dry-run" }).click();
  await expect(plan.cell("Dry-run", "name")).toBeFocused();
  for (const text of ["8d", "9d", "10d"]) {
    await plan.type("Workshop", "length", text);
    await expect(plan.cell("Workshop", "length")).toHaveText(text);
  }
  await plan.type("Radios", "name", "Borrow radios");
  await expect(plan.strip).toContainText("Radios is now called Borrow radios.");
  await page.reload();
  await plan.ready();
  await expect(plan.strip).toContainText("Radios is now called Borrow radios.");
  await plan.undo.click();
  await expect(plan.strip).toContainText("Taken back: Radios is now called Borrow radios.");
  for (const text of ["9d", "8d", "7d", "5d"]) {
    await plan.undo.click();
    await expect(plan.cell("Workshop", "length")).toHaveText(text);
  }
  await expect(plan.undo).toBeDisabled();
  await expect(plan.gauge).toHaveAccessibleName(/Finish Wed 12 May/);
  await page.getByRole("button", { name: "Redo" }).click();
  await expect(plan.cell("Workshop", "length")).toHaveText("7d");
});

test("one types over a cell and goes on with the arrows, as in a sheet", async ({ page, plan }) => {
  await plan.bringIn(chain);
  await plan.cell("Workshop", "length").click();
  for (const text of ["4d", "1d"]) {
    await page.keyboard.type(text);
    await page.keyboard.press("ArrowDown");
  }
  await expect(plan.cell("Dry-run", "length")).toBeFocused();
  await expect(plan.cell("Workshop", "length")).toHaveText("4d");
  await expect(plan.cell("Rig", "length")).toHaveText("1d");
  // A start is taken back by typing 0, and a date without a year stays in the year that was there.
  await plan.type("Workshop", "state", "started");
  await expect(plan.cell("Workshop", "state")).toHaveText("Overdue");
  await plan.type("Workshop", "state", "0");
  await expect(plan.strip).toContainText("Workshop has not started.");
  await plan.type("Radios", "start", "9 August 2029");
  await expect(plan.cell("Radios", "start").getByTitle("Thu 9 Aug 2029, 09:00")).toBeVisible();
  await plan.type("Radios", "start", "10 Aug");
  await expect(plan.cell("Radios", "start").getByTitle("Fri 10 Aug 2029, 09:00")).toBeVisible();
});

test("every command has a key", async ({ page, plan }) => {
  await plan.bringIn(chain);
  const key = async (/** @type {string} */ keys) => page.keyboard.press(keys);
  await plan.cell("Radios", "no").click();
  await key("m");
  await expect(plan.strip).toContainText("Radios is now a milestone.");
  await key("m");
  await expect(plan.strip).toContainText("Radios is now a task of 1 day.");
  await key("s");
  await expect(plan.strip).toContainText("Radios started");
  await key("d");
  await expect(plan.cell("Radios", "state")).toHaveText("Done");
  await key("Alt+ArrowUp");
  await expect.poll(() => plan.outline()).toEqual(["1 Workshop", "2 Rig", "3 Radios", "4 Dry-run"]);
  await expect(plan.cell("Dry-run", "after")).toHaveText("2");
  await key("Control+Enter");
  await page.keyboard.type("Vests");
  await key("Enter");
  await plan.saved();
  await expect.poll(() => plan.outline()).toEqual(["1 Workshop", "2 Rig", "3 Radios", "4 Vests", "5 Dry-run"]);
  await plan.cell("Vests", "name").click();
  await key("Control+Delete");
  await expect(plan.row("Vests")).toHaveCount(0);
  await key("Control+z");
  await expect(plan.row("Vests")).toHaveCount(1);
  await key("Control+Shift+z");
  await expect(plan.row("Vests")).toHaveCount(0);
  await plan.cell("Rig", "no").click();
  await key("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
  await key("Escape");
  await plan.cell("Rig", "after").click();
  await key("Delete");
  await expect(plan.strip).toContainText("Rig no longer waits for anything.");
});

test("bars glide to their new place, and not for those who asked for less motion", async ({ page, plan }) => {
  await plan.bringIn(chain);
  const gliding = () =>
    page.evaluate(() => document.getElementById("timeline")?.getAnimations({ subtree: true }).length);
  // Looks at every frame from here on.
  await page.evaluate(() => {
    const look = () => {
      const now = document.getElementById("timeline")?.getAnimations({ subtree: true }).length ?? 0;
      Object.assign(window, { most_: Math.max(Number(Reflect.get(window, "most_") ?? 0), now) });
      requestAnimationFrame(look);
    };
    look();
  });
  /** @param {string} length @returns {Promise<number>} the most bars and links that were gliding at once */
  const edit = async (length) => {
    await plan.type("Rig", "length", length);
    await expect(plan.strip).toContainText(`Rig now takes ${length[0]} days`);
    return page.evaluate(
      () =>
        new Promise((resolve) =>
          requestAnimationFrame(() => requestAnimationFrame(() => resolve(Number(Reflect.get(window, "most_"))))),
        ),
    );
  };
  expect(await edit("5d")).toBe(0);
  await page.emulateMedia({ reducedMotion: "no-preference" });
  expect(await edit("2d")).toBeGreaterThan(0);
  await expect.poll(gliding).toBe(0);
});

test("a bar that is dragged goes not before that day, says so before, and Escape leaves it", async ({ page, plan }) => {
  await plan.bringIn(chain);
  const bar = plan.bar("Rig");
  const at = async () => {
    const box = await bar.boundingBox();
    if (!box) throw new Error("The bar is not in sight.");
    return { x: box.x + 16, y: box.y + 10 };
  };
  const from = await at();
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 48, from.y, { steps: 6 });
  await expect(plan.strip).toContainText(
    "Letting go: Rig goes not before Thu 13 May. 1 other task would move; finish Wed 12 May → Mon 17 May.",
  );
  await expect(page.locator(".ghost")).toHaveCount(2);
  await page.keyboard.press("Escape");
  await page.mouse.up();
  await expect(plan.cell("Rig", "start")).toHaveText("10 May");
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 48, from.y, { steps: 6 });
  await page.mouse.up();
  await expect(plan.strip).toContainText("Rig goes not before Thu 13 May.");
  await expect(plan.cell("Rig", "start").getByRole("img", { name: "not before Thu 13 May" })).toBeVisible();
  // Back to where its links put it, the fixed date goes.
  const there = await at();
  await page.mouse.move(there.x, there.y);
  await page.mouse.down();
  await page.mouse.move(there.x - 100, there.y, { steps: 6 });
  await page.mouse.up();
  await expect(plan.strip).toContainText("Rig goes as early as its links allow: Mon 10 May.");
  // The same by keyboard, pinned against its link.
  await plan.type("Rig", "start", "pinned 5 May");
  await expect(plan.strip).toContainText("2 “Rig” starts 3 working days before its link to 1 “Workshop” allows.");
  await plan.type("Rig", "start", "");
  await expect(plan.cell("Rig", "start")).toHaveText("10 May");
});

test("names of any script and hostile ones are shown as they are", async ({ page, plan }) => {
  await plan.create("<img src=x onerror=alert(1)> & “Fête”");
  const names = ["🏮 فوانيس", "<script>alert(1)</script>", "=HYPERLINK(1)", "</script><b>bold", "{{7*7}}"];
  await plan.typeTasks(...names);
  await page.reload();
  await plan.ready();
  await expect.poll(async () => (await plan.outline()).map((row) => row.slice(2))).toEqual(names);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("<img src=x onerror=alert(1)> & “Fête”");
});
