// @ts-check
// Handing a plan out as a file.

import { readFile } from "node:fs/promises";
import { expectAccessible } from "./accessible.mjs";
import { expect, test } from "./app.mjs";

const fair = {
  format: "auxilium-plan/1",
  project: { name: "Quay fair", start: "2027-05-10" },
  tasks: [
    { id: "site", name: "Site" },
    { id: "fence", name: "Fence", parent: "site", length: "2d" },
    { id: "power", name: "Power", parent: "site", length: "1d" },
    { id: "open", name: "Open", milestone: true },
  ],
};

test("a plan is handed out as it is shown, by keyboard, and the choice is remembered", async ({ page, plan }) => {
  await plan.bringIn(fair);
  const file = async () => {
    const [download] = await Promise.all([page.waitForEvent("download"), page.keyboard.press("Enter")]);
    return { name: download.suggestedFilename(), content: await readFile(await download.path()) };
  };
  await page.getByRole("button", { name: "Export…" }).press("Enter");
  const dialog = page.getByRole("dialog", { name: "Export" });
  await expectAccessible(page, "Export");
  await expect(dialog.getByRole("group", { name: "Separator" })).toBeHidden();
  await dialog.getByRole("radio", { name: /^Spreadsheet/ }).focus();
  const spreadsheet = await file();
  expect(spreadsheet.name).toBe("Quay fair.xlsx");
  expect(spreadsheet.content.subarray(0, 2).toString()).toBe("PK");

  // A folded phase hides its rows.
  await plan.cell("Site", "no").click();
  await page.keyboard.press("-");
  await expect.poll(() => plan.outline()).toEqual(["1 Site", "2 Open"]);
  await page.getByRole("button", { name: "Export…" }).press("Enter");
  await dialog.getByRole("radio", { name: "CSV" }).check();
  await dialog.getByRole("group", { name: "Rows" }).getByRole("radio", { name: "As shown" }).check();
  await dialog.getByRole("radio", { name: "Semicolon" }).check();
  await dialog.getByRole("radio", { name: "Semicolon" }).focus();
  const table = await file();
  expect(table.name).toBe("Quay fair.csv");
  expect(
    table.content
      .toString()
      .split("\r\n")
      .map((line) => line.split(";")[1]),
  ).toEqual(["Task", "Site", "Open", undefined]);

  await page.reload();
  await plan.ready();
  await page.getByRole("link", { name: "Lanes" }).click();
  await plan.ready();
  await page.getByRole("button", { name: "Export…" }).press("Enter");
  await expect(dialog.getByRole("radio", { name: "CSV" })).toBeChecked();
  await expect(dialog.getByRole("radio", { name: "Semicolon" })).toBeChecked();
});
