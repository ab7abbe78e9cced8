// @ts-check
// Fields that people add to the tasks of a project.

import { readFile } from "node:fs/promises";
import { expectAccessible } from "./accessible.mjs";
import { expect, test } from "./app.mjs";

const fair = {
  format: "auxilium-plan/1",
  project: { name: "Quay fair", start: "2027-05-10" },
  tasks: [
    { id: "fence", name: "Fence", length: "2d" },
    { id: "power", name: "Power", length: "1d" },
    { id: "tents", name: "Tents", length: "1d" },
  ],
};

test("fields are made by keyboard, filled in, filtered and grouped by, handed out, and retired", async ({
  page,
  plan,
}) => {
  await plan.bringIn(fair);
  const project = new URL(page.url()).pathname;
  await page.goto(`${project}/settings`);
  await page.locator("html[data-ready]").waitFor();
  const add = async (/** @type {string} */ name, /** @type {string} */ kind) => {
    await page.getByRole("textbox", { name: "Another field" }).fill(name);
    await page.keyboard.press("Enter");
    const row = page.getByRole("group", { name, exact: true });
    await row.getByLabel("Holds").selectOption(kind);
    await expect(row.getByLabel("Holds").locator("option:checked")).toHaveText(kind);
    return row;
  };
  const seats = await add("Seats", "Amount");
  await seats.getByLabel("Unit").fill("chairs");
  await page.keyboard.press("Enter");
  const hall = await add("Hall", "Choice");
  await hall.getByLabel("Choice 1").fill("Great hall");
  await page.keyboard.press("Enter");
  await hall.getByLabel("Another choice").fill("Kitchen");
  await page.keyboard.press("Enter");
  await hall.getByLabel("Colour of Kitchen").selectOption("Moss");
  await expect(page.locator("#strip-text")).toContainText("The fields of the project changed.");
  await expectAccessible(page, "Settings with fields");

  await page.goto(project);
  await plan.ready();
  await page.getByRole("button", { name: "View…" }).click();
  await page.locator("#view-columns-part summary").click();
  for (const name of ["Seats", "Hall"]) await page.getByRole("checkbox", { name, exact: true }).check();
  await page.keyboard.press("Escape");
  await plan.type("Fence", "own:seats", "40");
  await expect(plan.cell("Fence", "own:seats")).toHaveText("40 chairs");
  await expect(plan.strip).toContainText("Fence has the Seats 40 chairs.");
  await plan.type("Power", "own:hall", "kitchen");
  await expect(plan.cell("Power", "own:hall")).toHaveText("Kitchen");
  await plan.type("Tents", "own:seats", "many");
  await expect(page.getByText("“many” is not a number for Seats: write one such as 12 or 2.5.").first()).toBeVisible();
  await page.keyboard.press("Escape");

  // From the card as well.
  await plan.cell("Tents", "name").click();
  await page.keyboard.press("Alt+Enter");
  const card = page.getByRole("complementary", { name: /Tents/ });
  await card.getByLabel("Hall", { exact: true }).selectOption("Great hall");
  await expect(plan.cell("Tents", "own:hall")).toHaveText("Great hall");
  await page.keyboard.press("Escape");

  await page.getByRole("button", { name: "View…" }).click();
  await page.getByLabel("Group by").selectOption("Hall");
  await expect
    .poll(() => plan.outline())
    .toEqual([" Hall: Great hall (1)", "3 Tents", " Hall: Kitchen (1)", "2 Power", " No Hall (1)", "1 Fence"]);
  await page.locator('#view [name="only-own:hall"]').selectOption({ label: "Kitchen" });
  await expect(page.getByText("1 of 3 tasks: Hall: Kitchen; grouped by hall, without phases.")).toBeVisible();
  await page.locator("#view").getByRole("button", { name: "Show everything" }).click();
  await page.keyboard.press("Escape");

  await page.getByRole("button", { name: "Export…" }).click();
  const dialog = page.getByRole("dialog", { name: "Export" });
  await dialog.getByRole("radio", { name: "CSV" }).check();
  await dialog.getByLabel("Columns").selectOption("As shown");
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    dialog.getByRole("button", { name: "Download" }).click(),
  ]);
  expect((await readFile(await download.path())).toString()).toContain("Hall");

  await page.goto(`${project}/settings`);
  await page.getByRole("button", { name: "Delete Seats" }).click();
  await expect(page.locator("#strip-text")).toContainText("A row has something in Seats: retire it");
  await page.getByRole("button", { name: "Retire Seats" }).click();
  await expect(page.getByRole("group", { name: "Seats, retired" })).toBeVisible();
  await page.goto(project);
  await plan.ready();
  await expect(plan.cell("Fence", "own:seats")).toHaveCount(0);
  await expect(plan.cell("Power", "own:hall")).toHaveText("Kitchen");
});

test("a column of a list that nobody knows becomes a field, if somebody wants it to", async ({ page, plan }) => {
  await plan.bringIn(fair);
  await page.getByRole("button", { name: "Import…" }).click();
  const dialog = page.getByRole("dialog", { name: "Import a list" });
  await dialog.getByRole("textbox", { name: "The list" }).fill("Task\tDays\tCrew size\nStage\t2d\t12\nLights\t1d\t3");
  await dialog.getByLabel("Column 3, “Crew size”, is read as").selectOption("New field “Crew size”");
  // The page comes anew, with the field in it: waited for before anything is pressed, so that it is not missed.
  const anew = page.waitForEvent("load");
  await page.getByRole("button", { name: "Add 2 rows" }).click();
  await anew;
  await plan.ready();
  await expect(plan.cell("Stage", "name")).toBeVisible();
  await page.getByRole("button", { name: "View…" }).click();
  await page.locator("#view-columns-part summary").click();
  await page.getByRole("checkbox", { name: "Crew size", exact: true }).check();
  await page.keyboard.press("Escape");
  await expect(plan.cell("Stage", "own:crewsize")).toHaveText("12");
});

test("a fact of the project itself is said in its settings and taken back", async ({ page, plan }) => {
  await plan.bringIn(fair);
  const project = new URL(page.url()).pathname;
  await page.goto(`${project}/settings`);
  await page.locator("html[data-ready]").waitFor();
  await page.getByRole("textbox", { name: "Another field" }).fill("Visitors");
  await page.keyboard.press("Enter");
  const row = page.getByRole("group", { name: "Visitors", exact: true });
  await row.getByLabel("Holds").selectOption("Number");
  await row.getByLabel("Is a fact of").selectOption("The project itself");
  await row.getByLabel("Visitors of this project").fill("a few");
  await page.keyboard.press("Enter");
  await expect(row).toContainText("“a few” is not a number for Visitors: write one such as 12 or 2.5.");
  await row.getByLabel("Visitors of this project").fill("400");
  await page.keyboard.press("Enter");
  await expect(page.locator("#strip-text")).toContainText("The project has the Visitors 400.");
  await expectAccessible(page, "Settings with a fact of the project");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(row.getByLabel("Visitors of this project")).toHaveValue("");

  // Tasks do not have it.
  await page.goto(project);
  await plan.ready();
  await page.getByRole("button", { name: "View…" }).click();
  await page.locator("#view-columns-part summary").click();
  await expect(page.getByRole("checkbox", { name: "Deadline", exact: true })).toBeVisible();
  await expect(page.getByRole("checkbox", { name: "Visitors", exact: true })).toHaveCount(0);
});
