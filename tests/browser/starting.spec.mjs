// @ts-check
// A project that starts from a template or from an earlier project, and a plan that is saved for others to start from.

import { expectAccessible } from "./accessible.mjs";
import { expect, test } from "./app.mjs";

test("a concert starts from a template with its roles, and the template of its plan starts another", async ({
  page,
  plan,
}) => {
  await page.goto("/projects/new");
  await expectAccessible(page, "New project");
  const who = page.getByLabel("Who comes along");
  await expect(who).toBeHidden();
  await page.getByRole("radio", { name: "Concert in a hall" }).press("Space");
  await who.selectOption("as roles to fill");
  await page.getByLabel("Name", { exact: true }).fill("Autumn concert");
  await page.getByLabel("Start date").fill("");
  await page.getByLabel("Must be finished by").fill("");
  await page.getByRole("button", { name: "Create project" }).click();
  await expect(page.locator("#Start-problem")).toContainText("A date is missing");
  await expect(page.getByRole("radio", { name: "Concert in a hall" })).toBeChecked();
  await page.getByLabel("Start date").fill("6 September 2027");
  await page.getByRole("button", { name: "Create project" }).click();
  await plan.ready();
  await expect(plan.cell("Choose date and performers", "start")).toContainText("6 Sep");
  await expect(plan.cell("Reserve the hall", "after")).toHaveText("2.1");
  await plan.cell("Reserve the hall", "name").click();
  await page.keyboard.press("Alt+Enter");
  await expect(page.getByRole("complementary", { name: /Reserve the hall/ }).getByLabel("Role")).toHaveValue(
    "coordinator",
  );

  await page.getByRole("link", { name: "Settings" }).click();
  await page.getByRole("link", { name: "Save as template" }).click();
  await expectAccessible(page, "Save as template");
  await page.getByLabel("Name").fill("Concert in a hall");
  await page.getByRole("button", { name: "Save template" }).click();
  await expect(page.locator("#Name-problem")).toContainText("already: type another name");
  await page.getByLabel("Name").fill("Our concerts");
  await page.getByRole("button", { name: "Save template" }).click();
  await expect(page.getByRole("status")).toContainText("“Our concerts” is saved");
  await expectAccessible(page, "Templates");
  await page.getByRole("link", { name: "Our concerts" }).click();
  await expect(page.getByRole("radio", { name: "Our concerts" })).toBeChecked();
  await page.goto("/templates");
  await page.getByRole("button", { name: "Delete Our concerts" }).click();
  await expect(page.getByRole("status")).toContainText("is deleted. Projects that started from it stay.");
});

test("a list that exists is asked for as soon as its project is there", async ({ page, plan }) => {
  await page.goto("/projects/new");
  await page.getByRole("radio", { name: "A list I have" }).check();
  await page.getByLabel("Name", { exact: true }).fill("From a list");
  await page.getByRole("button", { name: "Create project" }).click();
  await plan.ready();
  const list = page.getByRole("dialog", { name: "Import a list" }).getByRole("textbox", { name: "The list" });
  await expect(list).toBeFocused();
  await list.fill("Tents\nStalls");
  await page.getByRole("button", { name: "Add 2 rows" }).click();
  await expect.poll(() => plan.outline()).toEqual(["1 Tents", "2 Stalls"]);
});
