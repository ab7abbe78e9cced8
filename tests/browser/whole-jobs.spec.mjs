// @ts-check
// Whole jobs as a coordinator does them, from nothing to a plan that can be shown.
import { test, expect } from "./app.mjs";

const STAGES = [
  ["Permissions", "Ask the town", "Ask the harbour", "Insurance", "Route agreed", "Map drawn"],
  ["Boats", "Order paper", "Order frames", "Workshop", "Check hulls", "Rig the lines"],
  ["Crowd", "Steward rota", "Borrow radios", "Safety briefing", "Programme", "Local radio"],
  ["Weekend", "Set barriers", "Moor the boats", "Parade", "Strike", "Store"],
  ["After", "Thank everybody", "Pay the bills", "Collect pictures", "Write the report", "Hand it on"],
];

test("a plan of thirty rows is typed, linked, owned and tracked by keyboard alone", async ({ page, plan }) => {
  test.slow();
  await plan.create("Boat parade");
  const { keyboard } = page;
  for (const [i, [stage, ...tasks]] of STAGES.entries()) {
    if (i > 0) await keyboard.press("Control+,");
    await keyboard.type(stage);
    await keyboard.press("Enter");
    await keyboard.press("Control+.");
    for (const task of tasks) {
      await keyboard.type(task);
      await keyboard.press("Enter");
    }
  }
  await plan.saved();
  // Rows out of sight are not in the page; what assistive technology is told is of all of them.
  await expect(page.getByRole("treegrid")).toHaveAttribute("aria-rowcount", "32");

  // Up to the first row, into the lengths, one below the other as in a sheet.
  await keyboard.press("ArrowUp");
  await keyboard.press("Control+Home");
  await expect(plan.cell("Permissions", "name")).toBeFocused();
  await plan.cell("Ask the town", "length").focus();
  for (const length of ["3d", "5d", "2d"]) {
    await keyboard.type(length);
    await keyboard.press("Enter");
  }
  await expect(plan.cell("Ask the harbour", "length")).toHaveText("5d");

  // The tasks of the first stage follow each other.
  await plan.cell("Ask the town", "no").focus();
  for (let i = 0; i < 4; i++) await keyboard.press("Shift+ArrowDown");
  await keyboard.press("F9");
  await expect(plan.strip).toContainText("4 tasks now wait for one another");
  await expect(plan.cell("Map drawn", "after")).toHaveText("1.4");
  // And they are one person's.
  await keyboard.press("ArrowRight");
  await plan.cell("Ask the town", "owner").focus();
  for (let i = 0; i < 4; i++) await keyboard.press("Shift+ArrowDown");
  await keyboard.type("Joan Abbott");
  await keyboard.press("Enter");
  await expect(plan.strip).toContainText("5 tasks are now Joan Abbott’s");
  await keyboard.press("Escape");

  // A milestone, a task that is done, and a way to find what is far down.
  await plan.cell("Route agreed", "no").focus();
  await keyboard.press("m");
  await expect(plan.strip).toContainText("Route agreed is now a milestone");
  await plan.cell("Ask the town", "no").focus();
  await keyboard.press("d");
  await expect(plan.cell("Ask the town", "state")).toHaveText("Done");
  await keyboard.press("/");
  await keyboard.type("hand it");
  await keyboard.press("Enter");
  await expect(plan.cell("Hand it on", "name")).toBeFocused();
  await keyboard.press("Control+Z");
  await expect(plan.cell("Ask the town", "state")).not.toHaveText("Done");
});

test("a plan is finished with roles and names only, as a screen reader has them", async ({ page, plan }) => {
  await plan.bringIn({
    format: "auxilium-plan/1",
    project: { name: "By ear", start: "2027-05-03" },
    people: [{ id: "ann-lee", name: "Ann Lee", initials: "AL" }],
    tasks: [
      { id: "p", name: "Before" },
      { id: "a", name: "Permit", parent: "p", length: "3d" },
      { id: "b", name: "Posters", parent: "p", length: "2d" },
    ],
  });
  const grid = page.getByRole("treegrid", { name: "Tasks" });
  const row = (/** @type {string} */ name) => grid.getByRole("row", { name: new RegExp(name) });
  await expect(row("Before")).toHaveAttribute("aria-expanded", "true");
  await expect(row("Permit")).toHaveAttribute("aria-level", "2");
  await expect(page.getByRole("img", { name: /^Posters, 3 May to 4 May, overdue, no owner/ })).toBeVisible();

  const cell = (/** @type {string} */ name, /** @type {number} */ at) => row(name).getByRole("gridcell").nth(at);
  await cell("Posters", 3).focus();
  await page.keyboard.type("1.1");
  await page.keyboard.press("Enter");
  const live = plan.strip;
  await expect(live).toHaveText(/^Posters now comes after Permit\..*finish Wed 5 May → Fri 7 May\./);
  await cell("Permit", 1).focus();
  await page.keyboard.type("Ann Lee");
  await page.keyboard.press("Enter");
  await expect(live).toContainText("Permit is now Ann Lee’s.");
  await expect(page.getByRole("img", { name: /^Posters, 6 May to 7 May, / })).toBeVisible();
  await cell("Permit", 0).focus();
  await page.keyboard.press("c");
  const card = page.getByRole("complementary", { name: /Permit/ });
  await card.getByRole("textbox", { name: "Note" }).fill("Ask twice");
  await page.keyboard.press("Tab");
  await expect(live).toContainText("The note of Permit has changed.");
  await page.keyboard.press("Escape");
  await expect(row("Permit").getByRole("img", { name: "Has a note" })).toBeVisible();
});
