// @ts-check
// Everything can be taken back, and nothing typed is lost through what others do.
import { expectAccessible } from "./accessible.mjs";
import { expect, test } from "./app.mjs";
import { pageToken } from "./page-token.mjs";

const boats = {
  format: "auxilium-plan/1",
  project: { name: "Boats", start: "2027-05-10" },
  people: [{ id: "imke", name: "Imke Varga", initials: "IV" }],
  tasks: [
    { id: "p", name: "Hull" },
    {
      id: "a",
      name: "Sand",
      parent: "p",
      length: "5d",
      progress: 0.4,
      actualStart: "2027-05-10",
      assignments: [{ person: "imke" }],
    },
    { id: "b", name: "Paint", parent: "p", length: "2d" },
    { id: "c", name: "Launch", length: "1d" },
  ],
};

test("done and milestone by a slip lead back to what was, in the list and on the phone", async ({ page, plan }) => {
  await plan.bringIn(boats);
  await plan.cell("Sand", "no").click();
  await page.keyboard.press("d");
  await expect(plan.cell("Sand", "state")).toContainText("Done");
  await page.keyboard.press("d");
  await expect(plan.strip).toContainText("Sand is not done after all: 40% done");
  await plan.cell("Paint", "no").click();
  await page.keyboard.press("m");
  await expect(plan.strip).toContainText("Paint is now a milestone");
  await page.keyboard.press("m");
  await expect(plan.cell("Paint", "length")).toHaveText("2d");

  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto("/my-week");
  const task = page.getByRole("listitem").filter({ hasText: "Boats" }).filter({ hasText: "Sand" });
  const tick = task.getByRole("checkbox", { name: "Sand is done" });
  await tick.check();
  await expect(page.getByRole("status").first()).toContainText("Sand is done");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("status").first()).toContainText("Taken back");
  await expect(tick).not.toBeChecked();
  await task.getByText("Report on Sand").click();
  await task.getByLabel("Hours worked today").fill("1,5");
  await task.getByLabel("Hours worked today").press("Tab");
  await expect(page.getByRole("status").first()).toContainText("1.5 hours worked today");
  // What has begun stays begun: its rest goes on later.
  await task.getByLabel("I could go on on").fill("Mon 17 May");
  await task.getByRole("button", { name: "See what it would move" }).click();
  await expect(task.getByRole("status")).toContainText("pauses for");
  await expectAccessible(page, "My week on a phone");
});

test("what one types into a row that another removes is kept and offered as a new one", async ({ page, plan }) => {
  const id = await plan.bringIn(boats);
  await plan.cell("Paint", "length").dblclick();
  await page.keyboard.press("Control+A");
  await page.keyboard.type("4d");
  await page.request.post(`/api/v1/projects/${id}/edits`, {
    data: { id: crypto.randomUUID(), baseVersion: 1, edit: { type: "removeTasks", tasks: ["b"] } },
    headers: await pageToken(page),
  });
  await expect(plan.strip).toContainText("“Paint” was removed while you typed “4d” for its length");
  await expect(plan.newTask).toBeFocused();
  await expect(plan.newTask).toHaveValue("Paint");
  await page.keyboard.press("Enter");
  await expect(plan.cell("Paint", "length")).toHaveText("4d");
});

test("rows are named where they are typed as numbers, and leave their phase at its edge", async ({ page, plan }) => {
  await plan.bringIn(boats);
  await plan.type("Launch", "after", "with sand, Paint + 2d");
  await expect(plan.cell("Launch", "after")).toHaveText("with 1.1, 1.2 + 2d");
  await plan.cell("Launch", "after").dblclick();
  await page.keyboard.press("Control+A");
  await page.keyboard.type("pai");
  await expect(page.locator("#rows option")).toHaveCount(1);
  await page.keyboard.press("Escape");
  await plan.type("Launch", "state", "done 12 May");
  await expect(plan.strip).toContainText("Launch is done, finished Wed 12 May");
  await plan.cell("Sand", "name").click();
  await page.keyboard.press("Alt+ArrowUp");
  await expect.poll(() => plan.outline()).toEqual(["1 Sand", "2 Hull", "2.1 Paint", "3 Launch"]);
  await page.keyboard.press("Alt+ArrowUp");
  await expect(plan.strip).toContainText("This is the first row already");
});

test("one begins in the list, and the toolbar is one stop away", async ({ page, plan }) => {
  await plan.bringIn(boats);
  await expect(plan.cell("Hull", "name")).toBeFocused();
  await page.keyboard.press("Shift+Tab");
  const tool = page.locator(".tool:focus");
  await expect(tool).toHaveCount(1);
  await page.keyboard.press("Shift+Tab");
  await expect(tool).toHaveCount(0);
  await page.keyboard.press("Tab");
  await page.keyboard.press("ArrowRight");
  await expect(tool).toHaveText("Indent");
  await expect(page.getByRole("columnheader", { name: "Task", exact: true })).toBeVisible();
  await expect(page.getByRole("treegrid")).toHaveAttribute("aria-multiselectable", "true");
});

test("a filter says what it hides, and one of them is for all that is late", async ({ page, plan }) => {
  await plan.bringIn({ ...boats, project: { ...boats.project, start: "2027-04-26" } });
  await page.getByRole("button", { name: "View…" }).click();
  await page.locator("select[name=only-state]").selectOption({ label: "Late or overdue" });
  await page.keyboard.press("Escape");
  await expect(plan.row("Launch")).toBeVisible();
  await page.getByRole("button", { name: "View…" }).click();
  await page.locator("select[name=only-state]").selectOption({ label: "Done" });
  await page.keyboard.press("Escape");
  await expect(plan.row("Launch")).toBeHidden();
  await plan.newTask.fill("Wash");
  await plan.newTask.press("Enter");
  await expect(plan.strip).toContainText("“Wash” is added, but the filter hides it");
});

test("an answer that comes late does not put an older card over a newer one", async ({ page, plan }) => {
  await plan.bringIn(boats);
  /** @type {(() => void)[]} */ const held = [];
  await page.route("**/tasks/c", async (route) => {
    const answer = await route.fetch();
    if (held.length === 0) await new Promise((resolve) => held.push(() => resolve(null)));
    await route.fulfill({ response: answer });
  });
  await plan.cell("Launch", "no").click();
  await page.keyboard.press("c");
  await expect.poll(() => held.length).toBe(1);
  await plan.type("Launch", "length", "3d");
  const card = page.locator("#card");
  await expect(card.getByLabel("Length", { exact: true })).toHaveValue("3d");
  const late = page.waitForResponse(/tasks\/c$/);
  held[0]();
  await late;
  await expect(card.getByLabel("Length", { exact: true })).toHaveValue("3d");
});

test("the screens of a plan are laid out on paper", async ({ page, plan }) => {
  await plan.open("Lantern Regatta");
  await page.evaluate(() => dispatchEvent(new Event("beforeprint")));
  await page.emulateMedia({ media: "print" });
  await expect(page.getByRole("toolbar", { name: "Plan" })).toBeHidden();
  const rows = await page.locator(".list-row[data-row]").count();
  await page.emulateMedia({ media: "screen" });
  await page.evaluate(() => dispatchEvent(new Event("afterprint")));
  expect(rows).toBeGreaterThan(20);
  await expect.poll(() => page.locator(".list-row[data-row]").count()).toBeGreaterThan(10);
});
