// @ts-check
import { test, expect } from "./app.mjs";

test("a plan is made from nothing, by keyboard, and says what each edit did", async ({ page, plan }) => {
  await plan.create("Open day at the boathouse");
  await expect(plan.newTask).toBeFocused();
  await expect(plan.strip).toContainText("Type what has to happen");
  await expect(plan.gauge).toHaveAccessibleName("Starts 3 May");
  await plan.typeTasks("Preparation", "Ask the neighbours", "Paint the sign", "Open day");
  await expect
    .poll(() => plan.outline())
    .toEqual(["1 Preparation", "2 Ask the neighbours", "3 Paint the sign", "4 Open day"]);

  // Lengths down the column, without the mouse.
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.type("3d");
  await page.keyboard.press("Enter");
  await expect(plan.strip).toHaveText(
    "Ask the neighbours now takes 3 days instead of 1 day. No other task moved; finish Mon 3 May → Wed 5 May.",
  );
  await page.keyboard.type("0.5 d");
  await page.keyboard.press("Enter");
  await page.keyboard.type("milestone");
  await page.keyboard.press("Enter");
  await expect(plan.strip).toContainText("Open day is now a milestone.");

  // Two rows go into the phase above them.
  await plan.cell("Ask the neighbours", "name").click();
  await page.keyboard.press("Control+.");
  await expect(plan.strip).toContainText("Ask the neighbours is now in Preparation.");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Control+.");
  await expect
    .poll(() => plan.outline())
    .toEqual(["1 Preparation", "1.1 Ask the neighbours", "1.2 Paint the sign", "2 Open day"]);
  await expect(plan.row("Preparation")).toHaveAttribute("aria-expanded", "true");
  await expect(plan.cell("Preparation", "length")).toHaveText("3d");

  await plan.type("Paint the sign", "after", "after 1.1");
  await expect(plan.cell("Paint the sign", "start")).toHaveText("6 May");
  await plan.type("Open day", "after", "1.2");
  await expect(plan.strip).toHaveText(
    "Open day now comes after Paint the sign. No other task moved; the finish stays Thu 6 May.",
  );
  await plan.type("Paint the sign", "owner", "Wanda Coles");
  await expect(plan.cell("Paint the sign", "owner").getByRole("img", { name: "Wanda Coles" })).toHaveText("WC");
  await plan.type("Ask the neighbours", "owner", "Zora New");
  await expect(plan.cell("Ask the neighbours", "owner").getByRole("img", { name: "Zora New" })).toHaveText("ZN");

  // Progress: started, a percentage, done.
  await plan.type("Ask the neighbours", "state", "started");
  await expect(plan.strip).toContainText("Ask the neighbours started Mon 3 May.");
  await plan.type("Ask the neighbours", "state", "40");
  await expect(plan.strip).toContainText("Ask the neighbours is 40% done.");
  await plan.type("Ask the neighbours", "state", "done");
  await expect(plan.cell("Ask the neighbours", "state")).toHaveText("Done");
  await expect(plan.gauge).toHaveAccessibleName(/85% done, Finish Thu 6 May/);

  // The longest way to the finish is drawn, and each bar is a sentence.
  await expect(plan.bar("Paint the sign")).toHaveAccessibleName(
    "Paint the sign, 6 May, overdue, Wanda Coles, sets the finish",
  );
  await expect(page.locator(".link.sets-finish")).toHaveCount(1);

  await page.reload();
  await plan.ready();
  await expect
    .poll(() => plan.outline())
    .toEqual(["1 Preparation", "1.1 Ask the neighbours", "1.2 Paint the sign", "2 Open day"]);
  await expect(plan.cell("Open day", "after")).toHaveText("1.2");
});

test("rows appear as fast as one types and keep their order", async ({ page, plan }) => {
  await plan.create("Fast typing");
  const names = Array.from({ length: 30 }, (_, i) => `Task ${i + 1}`);
  for (const name of names) {
    await page.keyboard.insertText(name);
    await page.keyboard.press("Enter");
  }
  await expect(page.getByRole("row", { name: "Task 30" })).toBeVisible();
  await plan.saved();
  await page.reload();
  await plan.ready();
  await page.locator("#board").evaluate((board) => board.scrollTo(0, 0));
  await expect(plan.cell("Task 1", "no")).toHaveText("1");
  await page.locator("#board").evaluate((board) => board.scrollTo(0, 10_000));
  await expect(plan.cell("Task 30", "no")).toHaveText("30");
});

test("the first screen shows what is in each project and opens it", async ({ page, plan }) => {
  await page.goto("/projects");
  const regatta = page.getByRole("listitem").filter({ has: page.getByRole("heading", { name: "Lantern Regatta" }) });
  await expect(regatta).toContainText("3 May – 9 Jun");
  await expect(regatta).toContainText("Deadline 14 Jun, 3 days to spare");
  await expect(regatta).toContainText(/\d+ overdue/);
  await plan.open("Lantern Regatta");
  await expect(plan.gauge).toHaveAccessibleName(
    /Finish Wed 9 Jun · Thu 10 Jun from today, Deadline 14 Jun · 3 days to spare · 2 days to spare from today/,
  );
});

test("a form that is filled in wrongly keeps what was typed and says what would be right", async ({ page }) => {
  await page.goto("/projects/new");
  await page.getByLabel("Start date").fill("3/4");
  await page.getByRole("button", { name: "Create project" }).click();
  await expect(page.getByText("A project needs a name")).toBeVisible();
  await expect(page.getByText("could be read two ways")).toBeVisible();
  await expect(page.getByLabel("Start date")).toHaveValue("3/4");
  await expect(page.getByLabel("Start date")).toHaveAttribute("aria-invalid", "true");
});
