// @ts-check
import { test, expect } from "./app.mjs";

/** @param {number} count */
const rows = (count) => ({
  format: "auxilium-plan/1",
  project: { name: "Rows", start: "2027-05-03" },
  people: [{ id: "ann-lee", name: "Ann Lee", initials: "AL" }],
  tasks: [
    { id: "p", name: "Phase" },
    ...Array.from({ length: count }, (_, i) => ({ id: `t${i + 1}`, name: `Task ${i + 1}`, parent: "p", length: "1d" })),
    { id: "z", name: "Last", length: "1d" },
  ],
});

/** Pastes text as another program would have copied it. @param {import("@playwright/test").Page} page @param {string} text */
async function pasteText(page, text) {
  await page.evaluate((copied) => {
    const data = new DataTransfer();
    data.setData("text/plain", copied);
    const target = document.activeElement ?? document.body;
    target.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
  }, text);
}

test("rows that are picked change together, and one undo takes it all back", async ({ page, plan }) => {
  await plan.bringIn(rows(4));
  await plan.cell("Task 1", "owner").click();
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  const bar = page.getByRole("region", { name: "Picked rows" });
  await expect(bar).toContainText("3 rows picked");
  await expect(plan.row("Task 2")).toHaveAttribute("aria-selected", "true");
  await expect(plan.row("Task 4")).toHaveAttribute("aria-selected", "false");
  await page.keyboard.type("Ann Lee");
  await page.keyboard.press("Enter");
  await expect(plan.strip).toContainText("3 tasks are now Ann Lee’s");
  await expect(plan.cell("Task 2", "owner").getByRole("img", { name: "Ann Lee" })).toBeVisible();

  // The second row is left out again, and the others are shifted from the bar.
  await plan.cell("Task 2", "name").click({ modifiers: ["Control"] });
  await plan.cell("Task 2", "name").click({ modifiers: ["Control"] });
  await bar.getByLabel("Shift by days").fill("2");
  await page.keyboard.press("Enter");
  await expect(plan.strip).toContainText("have another place");
  await expect(plan.cell("Task 1", "start")).toHaveText("5 May");
  await bar.getByLabel("Shift by days").fill("two");
  await page.keyboard.press("Enter");
  await expect(plan.strip).toContainText("is no number of days");
  await bar.getByLabel("Length").fill("3d");
  await page.keyboard.press("Enter");
  await expect(plan.strip).toContainText("now take 3 days each");
  await plan.undo.click();
  await expect(plan.cell("Task 1", "length")).toHaveText("1d");
  await page.getByRole("button", { name: "Clear selection" }).click();
  await expect(bar).toBeHidden();
});

test("rows are chained in the order they were picked, filled down, duplicated, moved and removed by keys", async ({
  page,
  plan,
}) => {
  await plan.bringIn(rows(4));
  for (const name of ["Task 3", "Task 1", "Task 4"]) {
    await plan.cell(name, "no").click({ modifiers: name === "Task 3" ? [] : ["Control"] });
  }
  await page.keyboard.press("F9");
  await expect(plan.cell("Task 1", "after")).toHaveText("1.3");
  await expect(plan.cell("Task 4", "after")).toHaveText("1.1");
  await expect(plan.strip).toContainText("2 tasks now wait for one another");

  await page.keyboard.press("Escape");
  await plan.type("Task 1", "length", "2d");
  await plan.cell("Task 1", "length").click();
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("F8");
  await expect(plan.cell("Task 2", "length")).toHaveText("2d");
  await expect(plan.cell("Task 3", "length")).toHaveText("2d");

  await page.keyboard.press("F4");
  await expect(plan.strip).toContainText("3 rows copied");
  await expect
    .poll(() => plan.outline())
    .toEqual([
      "1 Phase",
      "1.1 Task 1",
      "1.2 Task 2",
      "1.3 Task 3",
      "1.4 Task 1",
      "1.5 Task 2",
      "1.6 Task 3",
      "1.7 Task 4",
      "2 Last",
    ]);
  await page.keyboard.press("Alt+ArrowDown");
  await expect.poll(() => plan.outline()).toContain("1.2 Task 1");
  await page.keyboard.press("Control+Delete");
  await expect
    .poll(() => plan.outline())
    .toEqual(["1 Phase", "1.1 Task 1", "1.2 Task 2", "1.3 Task 3", "1.4 Task 4", "2 Last"]);
});

test("several rows go in and out of a phase together", async ({ page, plan }) => {
  await plan.bringIn(rows(4));
  await plan.cell("Task 2", "name").click();
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Control+.");
  await expect.poll(() => plan.outline()).toContain("1.1.2 Task 3");
  await page.keyboard.press("Control+,");
  await expect.poll(() => plan.outline()).toContain("1.3 Task 3");
  await page.keyboard.press("Control+,");
  await expect
    .poll(() => plan.outline())
    .toEqual(["1 Phase", "1.1 Task 1", "2 Task 2", "3 Task 3", "3.1 Task 4", "4 Last"]);
});

test("rows are copied, cut and pasted within a plan and into another one", async ({ page, plan }) => {
  await page.context().grantPermissions(["clipboard-read", "clipboard-write"]);
  await plan.bringIn(rows(3));
  await plan.cell("Task 1", "no").click();
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Control+C");
  await expect(plan.strip).toContainText("2 rows copied");
  await page.keyboard.press("Escape");
  await plan.cell("Last", "no").click();
  await page.keyboard.press("Control+V");
  await expect.poll(() => plan.outline()).toContain("4 Task 2");
  await plan.cell("Task 3", "no").click();
  await page.keyboard.press("Control+X");
  await plan.cell("Last", "no").click();
  await page.keyboard.press("Control+V");
  await expect.poll(() => plan.outline()).toContain("3 Task 3");

  // A cell alone is a cell.
  await plan.cell("Last", "length").click();
  await page.keyboard.press("Control+C");
  await expect.poll(() => page.evaluate(() => navigator.clipboard.readText())).toBe("1d");

  await plan.cell("Phase", "no").click();
  await page.keyboard.press("Control+C");
  await expect.poll(() => page.evaluate(() => navigator.clipboard.readText())).toMatch(/^No\.\tTask\t.*\n1\tPhase\t/);
  await plan.create("Other");
  await plan.newTask.focus();
  await page.keyboard.press("Control+V");
  await page.getByRole("button", { name: "Add 3 rows" }).click();
  await expect.poll(() => plan.outline()).toEqual(["1 Phase", "1.1 Task 1", "1.2 Task 2"]);
  await expect(plan.cell("Task 1", "length")).toHaveText("1d");
});

test("phases fold, and filters and sorting change what is seen, not the plan", async ({ page, plan }) => {
  await plan.bringIn(rows(3));
  await plan.cell("Phase", "no").click();
  await page.keyboard.press("-");
  await expect(plan.row("Phase")).toHaveAttribute("aria-expanded", "false");
  await expect(plan.row("Task 1")).toHaveCount(0);
  await expect(page.locator(".inside-mark")).toHaveCount(3);
  await page.reload();
  await plan.ready();
  await expect(plan.row("Phase")).toHaveAttribute("aria-expanded", "false");
  await plan.row("Phase").locator(".fold").click();
  await expect(plan.row("Task 1")).toBeVisible();

  await plan.type("Task 3", "owner", "Ann Lee");
  await page.getByRole("button", { name: "View…" }).click();
  await page.locator('#view [name="only-owner"]').selectOption({ label: "Ann Lee" });
  await expect(page.getByText("1 of 4 tasks: of Ann Lee.")).toBeVisible();
  await expect.poll(() => plan.outline()).toEqual(["1 Phase", "1.3 Task 3"]);
  // Both before the next frame: the field that still says “Ann Lee” must not bring the filter back.
  await page.locator("#view").evaluate((view) => {
    /** @type {HTMLElement} */ (view.querySelector("[data-command=showAll]")).click();
    const sort = /** @type {HTMLSelectElement} */ (view.querySelector("[name=sort]"));
    sort.value = "name";
    sort.dispatchEvent(new Event("input", { bubbles: true }));
  });
  await page.getByLabel("Descending").check();
  await expect.poll(() => plan.outline()).toEqual(["1.3 Task 3", "1.2 Task 2", "1.1 Task 1", "2 Last"]);
  await page.keyboard.press("Escape");
  await page.locator("#view-line").getByRole("button", { name: "Show everything" }).click();
  await expect.poll(() => plan.outline()).toEqual(["1 Phase", "1.1 Task 1", "1.2 Task 2", "1.3 Task 3", "2 Last"]);
});

test("anything is found by typing: a task that is folded away, a person, an action", async ({ page, plan }) => {
  await plan.bringIn(rows(3));
  await plan.cell("Phase", "no").click();
  await page.keyboard.press("-");
  await page.keyboard.press("/");
  const line = page.getByRole("combobox", { name: "Find a task" });
  await expect(line).toBeFocused();
  await page.keyboard.type("task 2");
  await expect(page.getByRole("option", { selected: true })).toContainText("Task 2");
  await page.keyboard.press("Enter");
  await expect(plan.cell("Task 2", "name")).toBeFocused();
  await page.keyboard.press("/");
  await page.keyboard.type("duplicate");
  await page.keyboard.press("Enter");
  await expect(plan.strip).toContainText("Task 2 is a copy");
  await page.keyboard.press("/");
  await page.keyboard.type("nothing like it");
  await expect(page.getByText("Nothing found.")).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toContainText("Link the picked rows as a chain");
});

test("a messy list is pasted with a preview, and lands as one edit", async ({ page, plan }) => {
  await plan.bringIn(rows(1));
  await plan.cell("Last", "no").click();
  await pasteText(
    page,
    "What\tWho\tHow long\tFrom\tNeeds\nFair\n  Book the band\tTilda Rowe\t2d\t5/6/2027\t\n" +
      "  Print posters\tAnn Lee\tages\t7/6/2027\t2\n  Hang posters\t\t1d\t\t3, 4\n=1+1\t\t1d\t\t9\n",
  );
  const dialog = page.getByRole("dialog", { name: "Import a list" });
  const add = dialog.getByRole("button", { name: /^Add/ });
  await expect(dialog).toContainText("5 rows, 1 of them a phase. Say how the dates are meant first.");
  await expect(add).toBeDisabled();
  await dialog.getByLabel("Dates such as 5/6").selectOption("monthFirst");
  await expect(dialog).toContainText("Thu 6 May 2027");
  await expect(dialog.getByRole("row", { name: /Print posters/ })).toContainText("“ages” is not a length");
  await expect(dialog.getByRole("row", { name: /Hang posters/ })).toContainText("A row cannot come after itself");
  await expect(dialog.getByRole("row", { name: /=1\+1/ })).toContainText("The list has no row 9");
  await dialog.getByLabel(/New on this plan: Tilda Rowe/).uncheck();
  await expect(dialog).toContainText("Nobody here is called Tilda Rowe");
  await expect.poll(() => plan.outline()).toEqual(["1 Phase", "1.1 Task 1", "2 Last"]);
  await add.click();
  await expect(plan.strip).toContainText("5 rows added.");
  await expect
    .poll(() => plan.outline())
    .toEqual([
      "1 Phase",
      "1.1 Task 1",
      "2 Last",
      "3 Fair",
      "3.1 Book the band",
      "3.2 Print posters",
      "3.3 Hang posters",
      "4 =1+1",
    ]);
  await expect(plan.cell("Hang posters", "after")).toHaveText("3.2");
  await plan.undo.click();
  await expect.poll(() => plan.outline()).toEqual(["1 Phase", "1.1 Task 1", "2 Last"]);
});

test("what is no list is refused before anything is made", async ({ page, plan }) => {
  await plan.bringIn(rows(1));
  await page.getByRole("button", { name: "Import…" }).click();
  const dialog = page.getByRole("dialog", { name: "Import a list" });
  const list = dialog.getByRole("textbox", { name: "The list" });
  await list.fill("\u0001\u0002PNG");
  await expect(dialog).toContainText("This is not text");
  await list.evaluate((box) => {
    /** @type {HTMLTextAreaElement} */ (box).value = "x".repeat(10_000_000);
    box.dispatchEvent(new Event("input"));
  });
  await expect(dialog).toContainText("10,000 thousand characters");
  await expect(dialog.getByRole("button", { name: "Add rows" })).toBeDisabled();
});

test("however fast a list is typed, it is asked about once at a time, and the last of it counts", async ({
  page,
  plan,
}) => {
  await plan.bringIn(rows(1));
  let [open, most] = [0, 0];
  const isAbout = (/** @type {import("@playwright/test").Request} */ request) => request.url().endsWith("/lists");
  page.on("request", (request) => isAbout(request) && (most = Math.max(most, ++open)));
  page.on("requestfinished", (request) => isAbout(request) && open--);
  await page.getByRole("button", { name: "Import…" }).click();
  await page
    .getByRole("textbox", { name: "The list" })
    .fill(Array.from({ length: 30 }, (_, i) => `Row ${i}`).join("\n"));
  await page.getByRole("textbox", { name: "The list" }).pressSequentially("\nOne more\nAnd a last one");
  await expect(page.getByRole("button", { name: "Add 32 rows" })).toBeEnabled();
  expect(most).toBe(1);
});

test("five hundred lines land as one edit", async ({ page, plan }) => {
  await plan.create("Long list");
  const list = Array.from({ length: 500 }, (_, i) => `${i % 10 === 0 ? "" : "  "}Row ${i + 1}\t${(i % 4) + 1}d`).join(
    "\n",
  );
  await plan.newTask.focus();
  await pasteText(page, `Task\tLength\n${list}`);
  await page.getByRole("button", { name: "Add 500 rows" }).click();
  await expect(plan.strip).toContainText("500 rows added.");
  await expect(page.getByRole("treegrid")).toHaveAttribute("aria-rowcount", "502");
});

test("columns are chosen, put in order, resized, and kept with views under a name", async ({ page, plan }) => {
  await plan.bringIn(rows(3));
  const heads = () => page.getByRole("columnheader").allTextContents();
  await page.getByRole("button", { name: "View…" }).click();
  await page.getByText("Columns", { exact: true }).click();
  const view = page.locator("#view");
  await view.getByRole("checkbox", { name: "Deadline" }).check();
  await view.getByRole("checkbox", { name: "After" }).uncheck();
  await view.getByRole("button", { name: "Move Deadline to the left" }).click();
  await expect.poll(heads).toEqual(["No.", "Task", "Owner", "Length", "Start", "Finish", "Deadline", "State"]);
  await view.getByLabel("Width of Task").fill("260");
  await page.keyboard.press("Tab");
  await expect.poll(async () => (await plan.cell("Task 1", "name").boundingBox())?.width).toBe(260);
  await page.getByText("Saved views").click();
  await view.getByLabel("Name", { exact: true }).fill("Deadlines");
  await view.getByRole("button", { name: "Save view" }).click();
  await page.keyboard.press("Escape");

  await plan.type("Task 1", "deadline", "12 May");
  await expect(plan.strip).toContainText("Task 1 should be finished by Wed 12 May.");
  await expect(plan.cell("Task 1", "deadline")).toHaveText("12 May");

  // The edge of a column is dragged; a double click fits it.
  const grip = page.locator('[data-grip="name"]');
  const edge = await grip.boundingBox();
  if (!edge) throw new Error("There is no edge to drag.");
  await page.mouse.move(edge.x + 4, edge.y + 20);
  await page.mouse.down();
  await page.mouse.move(edge.x + 4 - 60, edge.y + 20, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await plan.cell("Task 1", "name").boundingBox())?.width).toBe(200);
  await grip.dblclick();
  await expect.poll(async () => (await plan.cell("Task 1", "name").boundingBox())?.width).toBeLessThan(130);

  await page.reload();
  await plan.ready();
  await expect.poll(heads).toContain("Deadline");
  await page.getByRole("button", { name: "View…" }).click();
  await page.getByText("Saved views").click();
  await view.locator("#saved-views").selectOption("Deadlines");
  await expect.poll(async () => (await plan.cell("Task 1", "name").boundingBox())?.width).toBe(260);
});

test("a file is imported as it was pasted, from the row with its headings, or dropped on the page", async ({
  page,
  plan,
}) => {
  await plan.bringIn(rows(1));
  const content = "Summer fair,,\n,,\nWhat,How long,Needs\nTents,2d,\nStalls,3d,Tents\n";
  const file = { name: "fair.csv", mimeType: "text/csv", buffer: Buffer.from(content) };
  await page.getByRole("button", { name: "Import…" }).click();
  const dialog = page.getByRole("dialog", { name: "Import a list" });
  await dialog.getByLabel("File").setInputFiles(file);
  await expect(dialog.getByLabel("The headings are in row")).toHaveValue("3");
  await expect(dialog).toContainText("2 rows. Nothing is added until you say so.");
  await dialog.getByLabel("The headings are in row").fill("4");
  await dialog.getByLabel("The headings are in row").press("Tab");
  await expect(dialog.getByRole("textbox", { name: "The list" })).toHaveValue(/^Tents/);
  await dialog.getByRole("button", { name: "Cancel" }).click();

  const dropped = await page.evaluateHandle((text) => {
    const data = new DataTransfer();
    data.items.add(new File([text], "fair.csv", { type: "text/csv" }));
    return data;
  }, content);
  await page.dispatchEvent("#main", "drop", { dataTransfer: dropped });
  await page.getByRole("button", { name: "Add 2 rows" }).click();
  await expect(plan.strip).toContainText("2 rows added.");
  await expect(plan.cell("Stalls", "after")).toHaveText("2");

  await page.getByRole("button", { name: "Import…" }).click();
  await dialog.getByLabel("File").setInputFiles({ ...file, name: "poster.pdf", buffer: Buffer.from("%PDF-1.7") });
  await expect(dialog).toContainText(
    "“poster.pdf” is a PDF: save the list as a spreadsheet (XLSX) or as CSV, and choose that.",
  );
});
