// @ts-check
// Remembering a plan and what drifted from it, hours, and what needs somebody now.

import { expectAccessible } from "./accessible.mjs";
import { expect, signIn, test } from "./app.mjs";

const market = {
  format: "auxilium-plan/1",
  project: { name: "Night market", start: "2027-05-10" },
  people: [
    { id: "imke", name: "Imke Varga", initials: "IV" },
    { id: "wanda", name: "Wanda Coles", initials: "WC" },
    { id: "tomas", name: "Tomas Lindqvist", initials: "TL" },
  ],
  tasks: [
    { id: "stalls", name: "Order stalls", length: "2d", assignments: [{ person: "imke" }] },
    {
      id: "signs",
      name: "Paint signs",
      length: "3d",
      effort: "4h",
      assignments: [{ person: "wanda" }, { person: "imke" }],
    },
    { id: "lamps", name: "Hang lamps", length: "2d", assignments: [{ person: "tomas" }] },
    { id: "open", name: "Doors open", milestone: true },
  ],
  links: [
    { from: "stalls", to: "signs" },
    { from: "signs", to: "open" },
  ],
};

test("a plan is remembered, drifts, is compared and shown as it was, by keyboard", async ({ page, plan }) => {
  const id = await plan.bringIn(market);
  await page.keyboard.press("/");
  await page.keyboard.type("take a baseline");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog", { name: "Take a baseline" })).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(plan.strip).toContainText("Baseline As agreed taken of the whole plan.");
  await plan.type("Order stalls", "length", "4d");
  await expect(plan.strip).toContainText("now 2 working days behind “As agreed”.");
  // Every row, milestones too, has its bracket where it was.
  await expect(page.locator("#timeline .planned.style-0")).toHaveCount(4);
  await expect(page.getByRole("img", { name: /^Paint signs, .*2 working days later than planned/ })).toBeVisible();
  await page.getByRole("button", { name: "View…" }).click();
  await page.locator("#view-baselines-part summary").click();
  await page.getByRole("checkbox", { name: /^As agreed/ }).uncheck();
  await expect(page.locator("#timeline .planned.style-0")).toHaveCount(0);
  await expectAccessible(page, "plan");

  await page.goto(`/projects/${id}/compare`);
  await plan.ready();
  await expect(page.locator("#compared")).toContainText("2 working days later than “As agreed”");
  await expect(page.getByRole("row", { name: /Doors open/ })).toContainText("2 working days later");
  await expectAccessible(page, "compare");
  await page.getByRole("textbox", { name: "Name" }).fill("AS AGREED");
  await page.getByRole("textbox", { name: "Name" }).press("Enter");
  await expect(page.getByRole("alert").filter({ hasText: "already" })).toBeVisible();
  await expect(page.getByRole("textbox", { name: "Name" })).toHaveValue("AS AGREED");
  await page.getByRole("button", { name: "Delete As agreed" }).press("Enter");
  await expect(page.getByText("None yet. A baseline remembers")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("rowheader", { name: "As agreed" })).toBeVisible();
  await page.getByRole("link", { name: "Doors open" }).press("Enter");
  await plan.ready();
  await expect(plan.cell("Doors open", "name")).toBeFocused();

  await page.getByRole("link", { name: "Journal" }).click();
  await page.getByRole("link", { name: /^The plan after this: Baseline As agreed taken/ }).press("Enter");
  await plan.ready();
  await expect(page.getByRole("region", { name: "The plan as it was" })).toContainText("It cannot be changed here.");
  await expect(plan.cell("Order stalls", "length")).toHaveText("2d");
  await plan.type("Order stalls", "length", "9d");
  await expect(page.getByText("This is the plan as it was, which cannot be changed").first()).toBeVisible();
  await expectAccessible(page, "as it was");
  await page.getByRole("button", { name: "Take as baseline…" }).click();
  await expect(page.getByText(/^Taken as the baseline “As it was on/)).toBeVisible();
  await page.getByRole("link", { name: "Back to now" }).click();
  await plan.ready();
  await expect(plan.cell("Order stalls", "length")).toHaveText("4d");
});

test("a coordinator types the week of three people, pastes, and is told what no day can hold", async ({
  page,
  plan,
}) => {
  // Named otherwise than in the other tests, and in a week of its own: the sheet has the tasks and hours of all projects.
  const names = /** @type {Record<string, string>} */ ({
    stalls: "Pitch stalls",
    signs: "Letter signs",
    lamps: "String lamps",
  });
  await plan.bringIn({
    ...market,
    tasks: market.tasks.map((task) => ({ ...task, name: names[task.id] ?? task.name })),
  });
  await page.goto("/my-week/hours?from=2027-06-07");
  await plan.ready();
  const cell = (/** @type {string} */ task, /** @type {string} */ day) =>
    page.getByRole("textbox", { name: `${task}, ${day}` });
  await cell("Pitch stalls", "Mon 7 Jun").focus();
  await page.keyboard.type("2.5");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.type("1h30");
  await page.keyboard.press("Enter");
  await expect(cell("Pitch stalls", "Tue 8 Jun")).toHaveValue("1.5");
  await expect(cell("Letter signs", "Tue 8 Jun")).toBeFocused();
  await page.keyboard.type("26");
  await page.keyboard.press("Enter");
  await expect(
    page.getByRole("alert").filter({ hasText: "Letter signs, Tue 8 Jun: A day has 0 to 24 hours" }),
  ).toBeVisible();
  await expect(cell("Letter signs", "Tue 8 Jun")).toHaveValue("26");
  await cell("Letter signs", "Tue 8 Jun").fill("23");
  await cell("Letter signs", "Tue 8 Jun").press("Tab");
  await expect(page.getByRole("alert").filter({ hasText: "at most 22.5 hours are left for this one" })).toBeVisible();
  await cell("Letter signs", "Tue 8 Jun").fill("5");
  await cell("Letter signs", "Tue 8 Jun").press("Tab");
  await expect(page.locator("#hours tfoot")).toContainText("9 h");
  await expectAccessible(page, "week sheet");

  for (const [who, task] of [
    ["wanda", "Letter signs"],
    ["tomas", "String lamps"],
  ]) {
    await page.goto(`/my-week/hours?who=${who}&from=2027-06-07`);
    await plan.ready();
    await cell(task, "Mon 7 Jun").focus();
    await page.evaluate(() => {
      const data = new DataTransfer();
      data.setData("text/plain", "1\t2\t0,5\n");
      document.activeElement?.dispatchEvent(
        new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }),
      );
    });
    await expect(cell(task, "Wed 9 Jun")).toHaveValue("0.5");
    await expect(page.getByRole("row", { name: new RegExp(task) }).locator(".hours-sum")).toHaveText("3.5 h");
  }
  await page.goto("/my-week/hours?who=:people&from=2027-06-07");
  await expect(page.getByRole("row", { name: /Wanda Coles/ })).toContainText("3.5 h");
  await page.goto("/my-week/hours?from=2027-06-14");
  await plan.ready();
  await expect(page.getByRole("row", { name: /Letter signs/ }).first()).toBeVisible();
});

test("a timer started in one window is seen and stopped in another, and by another page", async ({
  page,
  plan,
  context,
}) => {
  await plan.bringIn(market);
  await plan.cell("Paint signs", "no").click();
  await page.keyboard.press("t");
  const running = page.getByRole("group", { name: "Timer" });
  await expect(running).toContainText("Paint signs");
  await expect(plan.strip).toContainText("The timer runs on Paint signs.");
  const other = await context.newPage();
  await other.goto("/people");
  await expect(other.getByRole("group", { name: "Timer" })).toContainText("Paint signs");
  await page.reload();
  await plan.ready();
  await expect(running).toContainText("0:00");
  await other.getByRole("button", { name: "Stop timer" }).press("Enter");
  await expect(other.getByText("The timer on Paint signs stopped. Nothing was added.")).toBeVisible();
  await expect(running).toBeHidden();
  await expectAccessible(other, "people");
});

test("a Monday morning on Now, by keyboard", async ({ browser, page, plan, url }) => {
  await plan.bringIn({ ...market, project: { ...market.project, name: "Monday market", start: "2027-03-01" } });
  const context = await browser.newContext({ storageState: await signIn(browser, url, "Wanda Coles"), baseURL: url });
  const wanda = await context.newPage();
  await wanda.goto("/");
  const hers = wanda.locator(".now-task", { hasText: "Monday market" });
  await expect(hers).toHaveCount(1);
  await expect(hers.getByRole("textbox")).toHaveCount(0);
  await context.close();

  await page.goto("/");
  await plan.ready();
  await expectAccessible(page, "now");
  const overdue = page.locator('[data-section="overdue"]');
  const line = (/** @type {string} */ name) =>
    overdue.locator(".now-task", { hasText: "Monday market" }).filter({ hasText: name }).first();
  await line("Order stalls").getByRole("link").focus();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowUp");
  await expect(line("Order stalls").getByRole("link")).toBeFocused();
  await page.keyboard.press("Shift+Tab");
  await page.keyboard.press("Space");
  const said = page.locator("#now-said");
  await expect(said).toContainText("Order stalls is done");
  await page.getByRole("button", { name: "Undo" }).press("Enter");
  await expect(said).toContainText("Taken back");
  await expect(line("Order stalls").getByRole("checkbox")).not.toBeChecked();
  await line("Hang lamps").locator("summary").press("Enter");
  await line("Hang lamps").getByLabel("Start on").fill("soon");
  await line("Hang lamps").getByLabel("Start on").press("Enter");
  await expect(line("Hang lamps").getByRole("alert")).toContainText("“soon” is not a date");
  await line("Hang lamps").getByLabel("Start on").fill("17 May");
  await line("Hang lamps").getByLabel("Start on").press("Enter");
  await expect(said).toContainText("Hang lamps");
  await expect(said).toContainText("17 May");
  await line("Hang lamps").getByLabel("Give to").fill("Imke Varga");
  await line("Hang lamps").getByLabel("Give to").press("Enter");
  await expect(said).toContainText("Imke Varga");
  await page.reload();
  await expect(
    overdue.locator(".now-task", { hasText: "Hang lamps" }).filter({ hasText: "Monday market" }),
  ).toHaveCount(0);
});
