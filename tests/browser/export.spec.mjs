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
  // What will come out is seen before.
  await expect(dialog.getByRole("img", { name: "Preview, 1 page" })).toBeVisible();
  await expectAccessible(page, "Export");
  await expect(dialog.getByLabel("Separator")).toBeHidden();
  await dialog.getByRole("radio", { name: "PDF" }).focus();
  const pdf = await file();
  expect(pdf.name).toBe("Quay fair.pdf");
  expect(pdf.content.subarray(0, 5).toString()).toBe("%PDF-");

  await page.getByRole("button", { name: "Export…" }).press("Enter");
  await dialog.getByRole("radio", { name: /^Spreadsheet/ }).check();
  await expect(dialog.getByLabel("The first lines")).toContainText("Fence");
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
  await dialog.getByLabel("Rows").selectOption("As shown");
  await dialog.getByLabel("Separator").selectOption("Semicolon");
  await dialog.getByRole("radio", { name: "CSV" }).focus();
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
  await expect(dialog.getByLabel("Separator")).toHaveValue("semicolon");
});

test("the preview follows what is chosen: pages, days and what cannot be", async ({ page, plan }) => {
  const tasks = Array.from({ length: 90 }, (_, i) => ({ id: `t${i}`, name: `Task ${i}`, length: "1d" }));
  await plan.bringIn({ ...fair, tasks });
  await page.getByRole("button", { name: "Export…" }).click();
  const dialog = page.getByRole("dialog", { name: "Export" });
  // Ninety rows on one sheet are too small to read, which is said before anybody prints it.
  await expect(dialog.getByRole("status")).toContainText("too small to read");
  await dialog.getByLabel("Fit").selectOption("Several pages");
  await expect(dialog.getByRole("status")).toHaveText(/^Page 1 of [4-9] · letters 8.3 points high$/);
  await dialog.getByRole("button", { name: "Next page" }).click();
  await expect(dialog.getByRole("img", { name: /^Preview, page 2 of/ })).toBeVisible();
  await dialog.getByRole("textbox", { name: "From" }).fill("1 Feb 2028");
  await dialog.getByRole("textbox", { name: "To" }).fill("1 Jan 2028");
  await dialog.getByRole("textbox", { name: "To" }).press("Tab");
  await expect(dialog.getByRole("status")).toContainText("is before the first");
  await dialog.getByLabel("Screen").selectOption("Month");
  await dialog.getByRole("textbox", { name: "From" }).fill("");
  await dialog.getByRole("textbox", { name: "To" }).fill("");
  await dialog.getByRole("textbox", { name: "To" }).press("Tab");
  await expect(dialog.getByRole("status")).toHaveText(/^Page 1 of 2/);
  await dialog.getByRole("radio", { name: /^Picture/ }).check();
  await expect(dialog.getByLabel("Size")).toBeVisible();
});

test("whoever sees the plan by a link exports what it shows, where that is allowed", async ({
  page,
  plan,
  browser,
}) => {
  await plan.bringIn(fair);
  const project = new URL(page.url()).pathname;
  await page.goto(`${project}/sharing`);
  await page.getByLabel("For whom").fill("Harbour office");
  await page.getByRole("checkbox", { name: /^It may be exported/ }).check();
  await page.getByRole("button", { name: "Create link" }).click();
  const link = /http\S+\/shared\/[\w-]+/.exec(await page.locator("main").innerText())?.[0] ?? "";
  const context = await browser.newContext();
  const guest = await context.newPage();
  await guest.goto(new URL(new URL(link).pathname, page.url()).href);
  await guest.getByRole("button", { name: "Export…" }).click();
  const dialog = guest.getByRole("dialog", { name: "Export" });
  await expect(dialog.getByRole("img", { name: "Preview, 1 page" })).toBeVisible();
  await expect(dialog.getByRole("radio", { name: "Plan document" })).toHaveCount(0);
  const [download] = await Promise.all([
    guest.waitForEvent("download"),
    dialog.getByRole("button", { name: "Download" }).click(),
  ]);
  expect(download.suggestedFilename()).toBe("Quay fair.pdf");
  await context.close();
});

test("a long plan is drawn in the background, with its pages counted, and can be cancelled", async ({ page, plan }) => {
  const tasks = Array.from({ length: 1_600 }, (_, i) => ({ id: `t${i}`, name: `Plank ${i + 1}`, length: "1d" }));
  await plan.bringIn({ format: "auxilium-plan/1", project: { name: "Long quay", start: "2027-05-10" }, tasks });
  const dialog = page.getByRole("dialog", { name: "Export" });
  const ask = async () => {
    await page.getByRole("button", { name: "Export…" }).click();
    await dialog.getByLabel("Fit").selectOption("pages");
    await dialog.getByRole("button", { name: "Download" }).click();
  };
  await ask();
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    expect(dialog).toContainText(/of \d+ …|turn …|pages …/),
  ]);
  expect(file.suggestedFilename()).toBe("Long quay.pdf");
  await expect(dialog).toBeHidden();

  // It goes on without the dialog, and the result waits.
  await ask();
  await dialog.getByRole("button", { name: "Continue in the background" }).click();
  await expect(dialog).toBeHidden();
  await page.goto("/notices");
  await expect
    .poll(async () => {
      await page.reload();
      return page.getByRole("link", { name: "“Long quay.pdf” is ready to download." }).count();
    })
    .toBe(2);

  await page.goBack();
  await plan.ready();
  // As one that takes long.
  await page.route(/\/api\/v1\/exports\/[\w-]+$/, async (route) => {
    if (route.request().method() !== "GET") return route.continue();
    const response = await route.fetch();
    const json = { ...(await response.json()), state: "running", pages: 9, drawn: 3, file: null };
    return route.fulfill({ response, json });
  });
  let deleted = 0;
  page.on("response", (answer) => answer.request().method() === "DELETE" && deleted++);
  await ask();
  await expect(dialog.getByText("Page 4 of 9 …")).toBeVisible();
  await expectAccessible(page, "Export, while a file is made");
  await dialog.getByRole("button", { name: "Cancel export" }).click();
  await expect(dialog).toBeHidden();
  expect(deleted).toBe(1);
});
