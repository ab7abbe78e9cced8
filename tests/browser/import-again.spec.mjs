// @ts-check
// Lists that come a second time, long lists, and calendars whose preview is changed.
import { expectAccessible } from "./accessible.mjs";
import { test, expect } from "./app.mjs";

/** @param {string} text @param {string} [name] */
const file = (text, name = "supplier.csv") => ({ name, mimeType: "text/plain", buffer: Buffer.from(text) });

test("a list that comes again is compared with the plan, chosen by keyboard, made as one edit and taken back", async ({
  page,
  plan,
}) => {
  await plan.create("Stage");
  const dialog = page.getByRole("dialog", { name: "Import a list" });
  const bring = async (/** @type {string} */ text) => {
    await page.getByRole("button", { name: "Import…" }).click();
    await dialog.getByLabel("File").setInputFiles(file(text));
  };
  await bring("Task,UID,Length,Owner\nOrder stage,A-1,2d,\nBuild stage,A-2,3d,Tom Lowe\nRent lights,A-3,1d,\n");
  await dialog.getByRole("button", { name: "Add 3 rows" }).click();
  await expect(plan.strip).toContainText("3 rows added.");

  await bring(
    "Task,UID,Length,Owner\nOrder stage,A-1,2d,\nBuild the stage,A-2,5d,Tom Lowe\nCarpets,A-4,1d,\nFlags,A-5,1d,\n",
  );
  await expect(dialog.getByRole("radio", { name: "Update the 2 rows that are in the plan already" })).toBeChecked();
  await expect(dialog).toContainText("4 rows. Nothing changes until you say so.");
  const changed = dialog.getByRole("row", { name: /Build the stage/ });
  await expect(changed).toContainText("Task: Build stage → Build the stage");
  await expect(changed).toContainText("Length: 3d → 5d");
  await expect(dialog).toContainText("One row is as it is in the plan.");
  await expectAccessible(page, "Import a list, compared with the plan");
  await dialog.getByRole("row", { name: /Flags/ }).getByRole("checkbox").focus();
  await page.keyboard.press("Space");
  await expect(dialog.getByRole("button", { name: "Add 1 and change 1" })).toBeEnabled();
  await dialog.getByRole("checkbox", { name: "Remove Rent lights" }).focus();
  await page.keyboard.press("Space");
  await dialog.getByRole("button", { name: "Add 1, change 1 and remove 1" }).press("Enter");
  await expect.poll(() => plan.outline()).toEqual(["1 Order stage", "2 Build the stage", "3 Carpets"]);
  await expect(plan.cell("Build the stage", "length")).toHaveText("5d");
  await plan.undo.click();
  await expect.poll(() => plan.outline()).toEqual(["1 Order stage", "2 Build stage", "3 Rent lights"]);

  await bring("Task,UID,Length,Owner\nOrder stage,A-1,2d,\nRent lights,A-3,1d,\n");
  await expect(dialog).toContainText("The plan has all of this list already.");
  await expect(dialog.getByRole("button", { name: "Nothing to update" })).toBeDisabled();
  await dialog.getByRole("radio", { name: "Add all rows as new ones" }).check();
  await dialog.getByRole("button", { name: "Add 2 rows" }).click();
  await expect(plan.strip).toContainText("2 rows added.");
});

test("a list of thousands is added by the server and taken back as one edit", async ({ page, plan }) => {
  await plan.create("Long list");
  const rows = Array.from({ length: 2_500 }, (_, i) => `${i % 10 === 0 ? "" : "  "}Row ${i + 1}\t${(i % 4) + 1}d`);
  await page.getByRole("button", { name: "Import…" }).click();
  const dialog = page.getByRole("dialog", { name: "Import a list" });
  await dialog.getByRole("textbox", { name: "The list" }).evaluate(
    (box, list) => {
      const data = new DataTransfer();
      data.setData("text/plain", list);
      box.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
    },
    `Task\tLength\n${rows.join("\n")}`,
  );
  await dialog.getByRole("button", { name: "Add 2,500 rows" }).click();
  await expect(plan.strip).toContainText("2,500 rows added.");
  await expect(page.getByRole("treegrid")).toHaveAttribute("aria-rowcount", "2502");
  await plan.undo.click();
  await expect(page.getByRole("treegrid")).toHaveAttribute("aria-rowcount", "2");
});

test("series of a calendar repeat, whatever is changed in its preview", async ({ page, plan }) => {
  await plan.create("Season");
  const calendar = [
    "BEGIN:VCALENDAR",
    "VERSION:2.0",
    "PRODID:-//Boathouse//EN",
    "BEGIN:VEVENT",
    "UID:training@boathouse.example",
    "DTSTAMP:20270501T080000Z",
    "DTSTART;VALUE=DATE:20270517",
    "DTEND;VALUE=DATE:20270518",
    "RRULE:FREQ=WEEKLY;COUNT=3",
    "SUMMARY:Rowing lesson",
    "DESCRIPTION:Bring towels",
    "END:VEVENT",
    "END:VCALENDAR",
  ];
  await page.getByRole("button", { name: "Import…" }).click();
  const dialog = page.getByRole("dialog", { name: "Import a list" });
  await dialog.getByLabel("File").setInputFiles(file(calendar.join("\r\n"), "season.ics"));
  await dialog.getByLabel(/“Note”, is read as/).selectOption("ignored");
  await expect(dialog.getByRole("row", { name: /Rowing lesson/ })).toContainText("training@boathouse.example");
  await dialog.getByRole("button", { name: "Add 1 row" }).click();
  await expect.poll(() => plan.outline()).toHaveLength(4);
});
