// @ts-check
// Check-up, Forecast and Settings of a project.

import { expectAccessible } from "./accessible.mjs";
import { expect, test } from "./app.mjs";

const shed = {
  format: "auxilium-plan/1",
  project: { name: "Shed", start: "2027-05-17", finishBy: "2027-05-26" },
  people: [{ id: "ann", name: "Ann Sole" }],
  tasks: [
    { id: "frame", name: "Frame", length: "3d", estimate: { low: "2d", likely: "3d", high: "8d" } },
    { id: "roof", name: "Roof", length: "2d", tentative: true, pinned: { start: "2027-05-17" } },
    { id: "door", name: "Door", length: "1d" },
  ],
  links: [
    { from: "frame", to: "roof" },
    { from: "roof", to: "door" },
  ],
};

test("the check-up says what is weak and why, and one click mends it", async ({ page, plan }) => {
  await plan.bringIn(shed);
  await page.getByRole("link", { name: "Check-up" }).click();
  await expect(page.getByRole("heading", { name: "Must fix" })).toBeVisible();
  const broken = page.getByRole("article").filter({ hasText: "2 “Roof” starts 3 working days before its link" });
  await expect(broken).toContainText("Its date stays put though what it waits for is not done by then.");
  await broken.getByRole("button", { name: "Let its links decide" }).click();
  // What it would do is said before it is done.
  await expect(broken.getByRole("status")).toContainText("Roof goes as early as its links allow");
  await broken.getByRole("button", { name: "Cancel" }).click();
  await broken.getByRole("button", { name: "Let its links decide" }).click();
  await broken.getByRole("button", { name: "Apply" }).click();
  await expect(page.locator("#strip").getByRole("status")).toContainText("Roof goes as early as its links allow");
  await expect(broken).toHaveCount(0);
  await page.getByRole("button", { name: "Confirm it" }).click();
  await page.getByRole("button", { name: "Apply" }).click();
  await expect(page.getByText("only a guess")).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("1 length is only a guess.")).toBeVisible();
  await page.getByRole("link", { name: "2 Roof" }).first().click();
  await plan.ready();
  await expect(plan.cell("Roof", "name")).toBeFocused();
});

test("the forecast gives a finish for every confidence, and what sets it", async ({ page, plan }) => {
  await plan.bringIn({ ...shed, tasks: shed.tasks.map(({ pinned: _, ...task }) => task) });
  await page.getByRole("link", { name: "Forecast" }).click();
  await expect(page.getByText("10,000 runs with seed 1.")).toBeVisible();
  await expect(page.getByRole("img", { name: /^Finishes between/ })).toBeVisible();
  await expect(page.getByText(/Deadline/).first()).toBeVisible();
  const with_ = async (/** @type {string} */ seed) => {
    await page.getByLabel("Seed").fill(seed);
    await page.getByLabel("Seed").press("Enter");
    await expect(page.getByText(`10,000 runs with seed ${seed}.`)).toBeVisible();
    return page.locator("#forecast").innerHTML();
  };
  const first = await page.locator("#forecast").innerHTML();
  const second = await with_("2");
  expect(second).not.toBe(first);
  expect(await with_("1")).toBe(first);
  await page.getByRole("textbox", { name: "Runs" }).fill("many");
  await page.getByRole("textbox", { name: "Runs" }).press("Enter");
  await expect(page.getByText("Type a number of runs from 1 to 100,000.")).toBeVisible();
  await expect(page.getByRole("link", { name: "1 Frame" })).toBeVisible();
});

test("settings change the dates, and mistakes are told where they were made", async ({ page, plan }) => {
  await plan.bringIn(shed);
  await page.getByRole("link", { name: "Settings" }).click();
  const field = (/** @type {string} */ name) => page.getByLabel(name, { exact: true });
  await field("Start").fill("24 May");
  await field("Start").press("Enter");
  await expect(page.getByRole("status")).toContainText("The project now starts Mon 24 May.");
  await field("Deadline").fill("soon");
  await field("Deadline").press("Enter");
  await expect(page.getByText("“soon” is not a date")).toBeVisible();
  await expect(field("Deadline")).toHaveValue("soon");
  await field("Plan from").selectOption("the date it must be finished");
  await expect(page.getByRole("status")).toContainText("The project must be finished Wed 26 May; the latest start is");
  await expect(field("Must be finished")).toHaveValue("26 May 2027");
  await field("Hours in a working day").fill("30");
  await field("Hours in a working day").press("Enter");
  await expect(page.getByText("A day has above 0 and at most 24 hours of work")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(field("Start")).toHaveValue("24 May 2027");
});

test("a calendar is made from a ready one, gets holidays, and its year is shown", async ({ page, plan }) => {
  await plan.bringIn(shed);
  await page.getByRole("link", { name: "Settings" }).click();
  await page.getByLabel("New calendar").selectOption("Four-day week");
  await expect(page.getByRole("status")).toContainText("The calendar Four-day week is new.");
  await page.getByLabel("Public holidays").selectOption("England and Wales");
  await expect(page.getByTitle("Fri 26 Mar: Good Friday")).toBeVisible();
  await page.getByRole("textbox", { name: "Friday" }).fill("ten to four");
  await page.getByRole("textbox", { name: "Friday" }).press("Enter");
  await expect(
    page.getByText("is not a stretch of working time: type hours such as 9-13, 14-18, or off."),
  ).toBeVisible();
  await page.getByRole("textbox", { name: "Friday" }).fill("10-16");
  await page.getByRole("textbox", { name: "Friday" }).press("Enter");
  await expect(page.getByTitle("Fri 8 Jan: 6 hours")).toBeVisible();
  await page.getByLabel("Another day").fill("2027-06-05 Regatta 10-22");
  await page.getByLabel("Another day").press("Enter");
  await expect(page.getByTitle("Sat 5 Jun: Regatta, 12 hours")).toBeVisible();
  await page.getByLabel("Calendar", { exact: true }).selectOption("Four-day week");
  await expect(page.getByRole("status")).toContainText("The project goes by the calendar Four-day week.");
  // The sheet is drawn anew with what the edit changed, and what was told before that is gone.
  await expect(async () => {
    await page.getByRole("button", { name: "Remove this calendar" }).click();
    const why = page.getByText("The project goes by “Four-day week”: give that another calendar first.");
    await expect(why).toBeVisible({ timeout: 1_000 });
  }).toPass();
  await page.getByRole("combobox", { name: "Ann Sole" }).selectOption("Four-day week");
  await expect(page.getByRole("status")).toContainText("Ann Sole works by the calendar Four-day week.");
});

test("a project can be begun from the day it must be finished", async ({ page, plan }) => {
  await page.goto("/projects");
  await page.getByRole("link", { name: "New project" }).first().click();
  await page.getByLabel("Name").fill("Open day");
  await expect(page.getByLabel("Start date")).toHaveValue("13 May 2027");
  await page.getByLabel("Start date").fill("");
  await page.getByRole("button", { name: "Create project" }).click();
  await expect(page.getByText("A date is missing")).toBeVisible();
  await page.getByLabel("Must be finished by").fill("25 June");
  await page.getByRole("button", { name: "Create project" }).click();
  await plan.ready();
  await plan.typeTasks("Invite", "Bake");
  await plan.type("Bake", "after", "1");
  await expect(plan.cell("Invite", "start")).toHaveText("24 Jun");
  await expect(plan.cell("Bake", "finish")).toHaveText("25 Jun");
  await expect(plan.strip).toContainText("latest start Fri 25 Jun → Thu 24 Jun.");
  await expect(page.getByRole("img", { name: /^Latest start 24 Jun/ })).toBeVisible();
});

for (const scheme of /** @type {const} */ (["light", "dark"]))
  test(`the card and the sheets have no accessibility violations in ${scheme}`, async ({ page, plan }) => {
    test.slow();
    await page.emulateMedia({ colorScheme: scheme });
    await plan.bringIn(shed);
    await plan.cell("Roof", "no").click();
    await page.keyboard.press("c");
    await page.getByRole("complementary").getByRole("heading", { name: "2 Roof" }).waitFor();
    await expectAccessible(page, "card");
    for (const screen of ["Check-up", "Forecast", "Settings"]) {
      await page.getByRole("link", { name: screen }).click();
      await page.locator("html[data-ready=true]").waitFor();
      await expectAccessible(page, screen);
    }
  });

test("sheets fit a small screen and double-size type", async ({ page, plan }) => {
  await plan.bringIn(shed);
  await page.setViewportSize({ width: 390, height: 844 });
  for (const screen of ["Check-up", "Forecast", "Settings"]) {
    await page.getByRole("link", { name: screen }).click();
    await page.locator("html[data-ready=true]").waitFor();
    expect(await page.evaluate(() => document.documentElement.scrollWidth), screen).toBeLessThanOrEqual(390);
  }
});
