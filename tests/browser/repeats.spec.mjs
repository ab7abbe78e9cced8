// @ts-check
// Tasks that come again, and tasks that wait for a day.

import { expectAccessible } from "./accessible.mjs";
import { expect, test } from "./app.mjs";

const season = {
  format: "auxilium-plan/1",
  project: {
    name: "Season",
    start: "2027-05-03",
    periods: [{ name: "Open days", from: "2027-05-17", to: "2027-05-19" }],
  },
  tasks: [
    { id: "work", name: "Paint the hull", length: "15d" },
    { id: "crew", name: "Crew meeting", length: "2h" },
    { id: "idea", name: "Brass band", length: "1d", active: false },
  ],
};

test("a task repeats by a rule that is said with its dates before it is kept, and goes on with its project", async ({
  page,
  plan,
}) => {
  await plan.bringIn(season);
  await plan.cell("Crew meeting", "no").click();
  await page.keyboard.press("r");
  const dialog = page.getByRole("dialog", { name: "Repeat “Crew meeting”" });
  await expect(dialog.getByRole("status")).toHaveText(
    "Every week on Mon, 2 hours each: 3 times, from Mon 3 May to Mon 17 May.",
  );
  await expectAccessible(page, "repeat");
  await dialog.getByRole("checkbox", { name: "Mon" }).uncheck();
  await dialog.getByRole("checkbox", { name: "Tue" }).check();
  await dialog.getByLabel("at", { exact: true }).fill("18:30");
  await expect(dialog.getByRole("status")).toHaveText(
    "Every week on Tue at 18:30, 2 hours each: 3 times, from Tue 4 May to Tue 18 May.",
  );
  await dialog.getByLabel("Ends").selectOption("until");
  await dialog.getByLabel("Last day").fill("1 May 2027");
  await expect(dialog.getByRole("status")).toContainText("The last day is before the first");
  await expect(dialog.getByRole("button", { name: "Repeat task" })).toBeDisabled();
  await dialog.getByLabel("Ends").selectOption("project");
  await dialog.getByRole("button", { name: "Repeat task" }).click();
  await expect(plan.strip).toContainText("Crew meeting comes every week on Tue at 18:30, 2 hours each: 3 times.");
  await expect
    .poll(() => plan.outline())
    .toEqual([
      "1 Paint the hull",
      "2 Crew meeting",
      "2.1 Crew meeting 1",
      "2.2 Crew meeting 2",
      "2.3 Crew meeting 3",
      "3 Brass band",
    ]);
  const series = plan.row("Crew meeting Comes every week on Tue at 18:30, 2 hours each");
  await expect(series).toBeVisible();

  // One is moved, one skipped, alone.
  await plan.type("Crew meeting 2", "start", "pinned 12 May");
  await expect(plan.cell("Crew meeting 2", "start")).toHaveText("12 May");
  await plan.cell("Crew meeting 3", "no").click();
  await page.keyboard.press("c");
  await page.locator("#card").getByRole("button", { name: "Skip this one" }).click();
  await expect(plan.cell("Crew meeting 3", "state")).toHaveText("Skipped");
  await page.keyboard.press("Escape");

  // The project runs longer: the series is offered to go on, and can be taken back.
  await plan.type("Paint the hull", "length", "25d");
  const extend = page.getByRole("button", { name: "Extend Crew meeting" });
  await extend.click();
  await expect(plan.strip).toContainText("Crew meeting goes on to Tue 1 Jun: 2 times more.");
  await expect(plan.row("Crew meeting 5")).toBeVisible();
  await expect(extend).toBeHidden();
  await plan.undo.click();
  await expect(plan.row("Crew meeting 5")).toHaveCount(0);
  await series.locator("[data-col=no]").click();
  await page.keyboard.press("c");
  await page.locator("#card").getByRole("button", { name: "It ends there" }).click();
  await expect(plan.strip).toContainText("ends where it does");
  // A press that cannot be done says why, in the bottom line.
  await page.route("**/edits?changes=true", (route) =>
    route.fulfill({
      status: 422,
      contentType: "application/problem+json",
      body: JSON.stringify({ detail: "Not now." }),
    }),
  );
  await page.locator("#card").getByRole("button", { name: "Stop repeating" }).click();
  await expect(plan.strip).toHaveText("Not now.");
  await expect(extend).toBeHidden();
});

test("a task without a date waits in the tray, and is dropped onto a day or given one by typing", async ({
  page,
  plan,
}) => {
  await plan.bringIn(season);
  await page.getByRole("button", { name: "No date 1" }).click();
  const tray = page.getByRole("complementary", { name: "Tasks without a date" });
  await expectAccessible(page, "tray");
  const card = tray.getByRole("button", { name: "Brass band" });
  const from = /** @type {{ x: number, y: number }} */ (await card.boundingBox());
  const body = /** @type {{ x: number, y: number }} */ (await page.locator(".time-body").boundingBox());
  const target = await plan.bar("Paint the hull").boundingBox();
  await page.mouse.move(from.x + 10, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(from.x - 30, from.y - 30, { steps: 4 });
  const x = /** @type {{ x: number, width: number }} */ (target).x + 16 * 9 + 8;
  await page.mouse.move(x, body.y + 60, { steps: 4 });
  await expect(plan.strip).toContainText("Letting go: Brass band is active again and starts Wed 12 May");
  await page.mouse.up();
  await expect(plan.strip).toContainText("Brass band is active again and starts Wed 12 May");
  await expect(plan.cell("Brass band", "start")).toHaveText("12 May");

  // Put aside by key, and taken up by typing a day; what cannot be read is told at its place.
  await plan.cell("Brass band", "no").click();
  await page.keyboard.press("u");
  await expect(plan.cell("Brass band", "state")).toHaveText("No date");
  const day = tray.getByLabel("Day of Brass band");
  await day.fill("someday");
  await day.press("Enter");
  await expect(tray.getByRole("alert").filter({ hasText: "“someday” is not a date" })).toBeVisible();
  await day.fill("20 May");
  await day.press("Enter");
  await expect(plan.cell("Brass band", "start")).toHaveText("20 May");
  await expect(tray).toContainText("Nothing waits here.");
});

test("named periods and other projects lie softly behind the plan", async ({ page, plan }) => {
  await plan.bringIn(season);
  await expect(page.locator(".band-name", { hasText: "Open days" })).toBeVisible();
  await page.getByRole("button", { name: "View…" }).click();
  await page.getByLabel("Other projects").check();
  await expect(page.locator(".band-name", { hasText: "Lantern Regatta" })).toBeVisible();
  await page.getByLabel("Named periods").uncheck();
  await expect(page.locator(".band-name", { hasText: "Open days" })).toHaveCount(0);
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Settings" }).click();
  await page.getByLabel("Another period").fill("Quay closed");
  await page.getByLabel("Another period").press("Enter");
  const period = page.getByRole("group", { name: "Quay closed" });
  await period.getByLabel("To", { exact: true }).fill("1 May");
  await period.getByLabel("To", { exact: true }).blur();
  await expect(period.getByRole("alert").filter({ hasText: "ends before it begins" })).toBeVisible();
  await period.getByLabel("To", { exact: true }).fill("20 May");
  await period.getByLabel("To", { exact: true }).blur();
  await expect(page.getByRole("status").filter({ hasText: "Named periods" })).toContainText("Quay closed");
});
