// @ts-check
// The card of a task: everything about it, edited beside the list.

import { expect, test } from "./app.mjs";

const shed = {
  format: "auxilium-plan/1",
  project: { name: "Shed", start: "2027-05-03", calendar: "week" },
  calendars: [
    {
      id: "week",
      name: "Week",
      week: {
        mon: ["09:00-17:00"],
        tue: ["09:00-17:00"],
        wed: ["09:00-17:00"],
        thu: ["09:00-17:00"],
        fri: ["09:00-17:00"],
      },
    },
    { id: "weekend", name: "Weekend crew", week: { sat: ["10:00-18:00"], sun: ["10:00-18:00"] } },
  ],
  tasks: [
    { id: "frame", name: "Frame", length: "3d" },
    { id: "roof", name: "Roof", length: "2d" },
    { id: "door", name: "Door", length: "1d" },
  ],
  links: [
    { from: "frame", to: "roof" },
    { from: "roof", to: "door" },
  ],
};

test("the card says why a task is there, and opens by key over the timeline", async ({ page, plan }) => {
  await plan.bringIn(shed);
  await plan.cell("Roof", "no").click();
  await page.keyboard.press("c");
  const card = page.getByRole("complementary", { name: "2 Roof" });
  await expect(card.getByText("Starts Thu 6 May: Frame must finish first (Wed 5 May).")).toBeVisible();
  await expect(card.getByText("Frame starts Mon 3 May: the project starts then.")).toBeVisible();
  await expect(card.getByText("Finishes Fri 7 May: 2 days of work from Thu 6 May.")).toBeVisible();
  await expect(card.getByRole("heading", { name: "2 Roof" })).toBeFocused();
  await card.getByRole("button", { name: "Open the card of 3 Door" }).click();
  await expect(page.getByRole("complementary", { name: "3 Door" })).toBeVisible();
  // It stays with that task whatever else is told meanwhile.
  await expect(plan.row("Door")).toHaveClass(/is-current/);
  await expect(page.getByRole("complementary", { name: "3 Door" }).locator(".comments")).toBeAttached();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("complementary")).toHaveCount(0);
  await expect(plan.cell("Door", "no")).toBeFocused();
});

test("links are edited from both ends, and the bottom line says what that did", async ({ page, plan }) => {
  await plan.bringIn(shed);
  const card = await openCard(page, plan, "Roof");
  const before = card.getByRole("group", { name: "Open the card of 1 Frame" });
  await before.getByLabel("Kind").selectOption("with");
  await expect(plan.strip).toContainText("Roof now starts with Frame.");
  await expect(plan.cell("Roof", "after")).toHaveText("with 1");
  await before.getByLabel("Lag").fill("1d");
  await before.getByLabel("Lag").press("Enter");
  await expect(plan.cell("Roof", "after")).toHaveText("with 1 + 1d");
  const after = card.getByRole("group", { name: "Open the card of 3 Door" });
  await after.getByRole("button", { name: "Unlink 3 Door" }).click();
  await expect(plan.strip).toContainText("Door no longer waits for Roof.");
  await card.getByLabel("Another row that comes after it").fill("1");
  await card.getByLabel("Another row that comes after it").press("Enter");
  await expect(card.getByRole("alert").filter({ hasText: "This would go round in a circle" })).toBeVisible();
  await card.getByLabel("Another row that comes after it").fill("3");
  await card.getByLabel("Another row that comes after it").press("Enter");
  await expect(plan.strip).toContainText("Door now comes after Roof.");
});

test("fixed dates, a deadline, a pause, a range and a calendar are set on the card", async ({ page, plan }) => {
  await plan.bringIn(shed);
  const card = await openCard(page, plan, "Roof");
  await card.getByLabel("Fixed date").selectOption("No later than");
  await expect(plan.strip).toContainText("Roof starts no later than Thu 6 May.");
  await card.getByLabel("Day", { exact: true }).fill("4 May");
  await card.getByLabel("Day", { exact: true }).press("Enter");
  await expect(plan.strip).toContainText("Roof” starts 2 working days after its latest allowed date");
  await card.getByLabel("Fixed date").selectOption("Free: its links decide");
  await expect(plan.strip).toContainText("1 warning is gone");
  await card.getByLabel("Deadline").fill("5 May");
  await card.getByLabel("Deadline").press("Enter");
  await expect(plan.strip).toContainText("finishes 2 working days after its deadline");
  await card.getByLabel("Another pause").fill("2d after 3d");
  await card.getByLabel("Another pause").press("Enter");
  await expect(card.getByText("lies beyond the end: the task takes 2 days, so give less than that.")).toBeVisible();
  await card.getByLabel("Another pause").fill("2d after 1d");
  await card.getByLabel("Another pause").press("Enter");
  await expect(plan.strip).toContainText("Roof pauses for 2 days after 1 day of work.");
  await expect(plan.bar("Roof")).toHaveAccessibleName(/with pauses/);
  await card.getByLabel("It may take").fill("1d, 2d");
  await card.getByLabel("It may take").press("Enter");
  await expect(card.getByText("Type three lengths")).toBeVisible();
  await card.getByLabel("It may take").fill("2d, 2d, 5d");
  await card.getByLabel("It may take").press("Enter");
  await expect(plan.strip).toContainText("Roof may take 2 days to 5 days, most likely 2 days.");
  await card.getByLabel("Calendar").selectOption("Weekend crew");
  await expect(plan.strip).toContainText("Roof goes by the calendar Weekend crew.");
  await plan.undo.click();
  await expect(card.getByLabel("Calendar")).toHaveValue("");
});

test("one Enter makes one edit, which one undo takes back", async ({ page, plan }) => {
  const project = await plan.bringIn(shed);
  const card = await openCard(page, plan, "Roof");
  await card.getByLabel("Deadline").fill("5 May");
  await card.getByLabel("Deadline").press("Enter");
  await card.getByLabel("Deadline").press("Tab");
  await expect(plan.strip).toContainText("finishes 2 working days after its deadline");
  await plan.undo.click();
  await expect(card.getByLabel("Deadline")).toHaveValue("");
  const document = await page.request.get(`/api/v1/projects/${project}/plan`);
  expect(document.headers().etag).toBe('"3"');
});

test("progress and work left are reported on the card", async ({ page, plan }) => {
  await plan.bringIn(shed);
  const card = await openCard(page, plan, "Frame");
  await card.getByLabel("Started on").fill("3 May");
  await card.getByLabel("Started on").press("Enter");
  await expect(plan.strip).toContainText("Frame started Mon 3 May.");
  await card.getByLabel("Percent done").fill("lots");
  await card.getByLabel("Percent done").press("Enter");
  await expect(card.getByText("Type a percentage from 0 to 100")).toBeVisible();
  await card.getByLabel("Percent done").fill("50");
  await card.getByLabel("Percent done").press("Enter");
  await card.getByLabel("Work left").fill("3d");
  await card.getByLabel("Work left").press("Enter");
  await expect(plan.strip).toContainText("Frame has 3 days of work left.");
  await card.getByLabel("Takes part").uncheck();
  await expect(plan.strip).toContainText("Frame is now inactive.");
  await expect(plan.cell("Frame", "state")).toHaveText("No date");
});

test("kinds of links are typed in the list as they are shown", async ({ plan }) => {
  await plan.bringIn(shed);
  await plan.type("Door", "after", "ends with 2 + 1d");
  await expect(plan.strip).toContainText("Door now ends 1 day after the end of Roof.");
  await plan.type("Door", "after", "ends after 1 starts");
  await expect(plan.cell("Door", "after")).toHaveText("ends after 1 starts");
});

/** @param {import("@playwright/test").Page} page @param {import("./plan-screen.mjs").PlanScreen} plan @param {string} task */
async function openCard(page, plan, task) {
  await plan.cell(task, "no").click();
  await page.getByRole("button", { name: "Card" }).click();
  const card = page.getByRole("complementary");
  await card.getByRole("heading", { name: task }).waitFor();
  return card;
}
