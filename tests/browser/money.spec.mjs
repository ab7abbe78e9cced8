// @ts-check
// Money: a budget is planned, hours and payments are reported for a month, and the curve is read; by keyboard.
import { expectAccessible } from "./accessible.mjs";
import { expect, signIn, test } from "./app.mjs";
import { pageToken } from "./page-token.mjs";

/** @param {string} name */
const fair = (name) => ({
  format: "auxilium-plan/1",
  project: { name, start: "2027-04-12" },
  people: [{ id: "tomas", name: "Tomas Lindqvist" }],
  tasks: [
    { id: "site", name: "Site" },
    {
      id: "fence",
      name: "Fence",
      parent: "site",
      length: "5d",
      progress: 1,
      actualStart: "2027-04-12",
      actualFinish: "2027-04-16",
      assignments: [{ person: "tomas" }],
    },
    { id: "paint", name: "Paint", parent: "site", length: "30d", progress: 0.5, actualStart: "2027-04-19" },
  ],
  links: [{ from: "fence", to: "paint" }],
});

test("by keyboard: costs are typed on the card, a budget is set, hours and payments are reported, and the curve is read", async ({
  page,
  plan,
}) => {
  const project = await plan.bringIn(fair("Harbour wall"));
  const headers = await pageToken(page);
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Alt+Enter");
  const card = page.locator("#card");
  await expect(card.getByRole("heading", { level: 2 })).toContainText("Paint");

  // An item: its name makes it, and the keys go on to its quantity and price.
  const item = card.getByLabel("New item");
  await item.focus();
  await page.keyboard.type("Lime paint");
  await page.keyboard.press("Enter");
  await expect(page.locator("#strip-text")).toContainText("“Lime paint” added to “Paint”, without a price yet.");
  await expect(card.getByLabel("Quantity of Lime paint")).toBeFocused();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("40");
  await page.keyboard.press("Tab");
  await expect(card.getByLabel("Price of Lime paint")).toBeFocused();
  await page.keyboard.type("12,5");
  await page.keyboard.press("Enter");
  await expect(page.locator("#strip-text")).toContainText("Expected cost 1,500.00 €, 500.00 € more.");
  await expect(card.locator(".costs-sum")).toContainText("Planned 500.00 €");

  // What is no amount is said where it was typed, and kept.
  await card.getByLabel("Price of Lime paint").fill("a lot");
  await page.keyboard.press("Enter");
  await expect(card.getByRole("alert").filter({ hasText: "“a lot” is no number." })).toBeVisible();
  await page.keyboard.press("Escape");

  await page.request.post(`/api/v1/projects/${project}/edits`, {
    headers,
    data: { id: crypto.randomUUID(), baseVersion: 1, edit: { type: "takeBaseline", name: "As agreed" } },
  });

  // A payment, typed in one line.
  await card.getByRole("button", { name: "More about Lime paint" }).press("Enter");
  await card.getByLabel("Add a payment").fill("4 May 300 R-12");
  await page.keyboard.press("Enter");
  await expect(page.locator("#strip-text")).toContainText("300.00 € paid for “Lime paint” of “Paint”.");
  await expect(card.locator(".costs-sum")).toContainText("Spent 300.00 €");

  // Hours of the month.
  for (const day of ["2027-04-13", "2027-04-14", "2027-05-05"])
    await page.request.put(`/api/v1/projects/${project}/tasks/fence/hours`, {
      headers,
      data: { day, hours: 6, person: "tomas" },
    });

  await page.goto(`/projects/${project}/money`);
  await page.locator("main[data-whole]").waitFor();
  const lead = page.locator(".lead");
  const budget = page.getByLabel("Budget of the project");
  await budget.fill("3000");
  await page.keyboard.press("Enter");
  await expect(page.locator("#strip-text")).toContainText("The project may cost 3,000.00 €.");
  await expect(lead).toContainText("of the budget of 3,000.00 € stay free.");
  await expect(lead).toContainText("of what was planned by now is done.");
  await page.locator(".money-figure summary").filter({ hasText: "Expected" }).press("Enter");
  await expect(page.getByText("Spent + left.")).toBeVisible();

  const curve = page.getByRole("group", { name: /^Curve/ });
  await curve.focus();
  await expect(page.locator(".money-said")).toContainText("13 May: to be done");
  await page.keyboard.press("Home");
  await expect(page.locator(".money-said")).toContainText("11 Apr: to be done 0.00 €");
  await page.keyboard.press("End");
  await expect(page.locator(".money-said")).toContainText("to be done");
  await page.getByRole("button", { name: "Undo my last change" }).press("Enter");
  await expect(lead).toContainText("nobody has set a budget");
});

test("costs on the card, the Money page and the import of costs are accessible", async ({ page, plan }) => {
  const plain = fair("Slipway");
  const items = [{ id: "oak", name: "Oak", kind: "material", quantity: 4, unit: "m", price: 55.5, category: "Timber" }];
  const payments = [{ day: "2027-05-04", amount: 80, receipt: "R-1" }];
  const project = await plan.bringIn({
    ...plain,
    project: { ...plain.project, budget: 1000, measure: "b" },
    tasks: plain.tasks.map((task) => (task.id === "paint" ? { ...task, items: [{ ...items[0], payments }] } : task)),
    baselines: [
      {
        id: "b",
        name: "As agreed",
        taken: "2027-04-12",
        rows: [{ task: "paint", start: "2027-04-19T09:00", finish: "2027-05-28T17:00", costAtStart: 222 }],
      },
    ],
  });
  await plan.row("Paint").click();
  await page.keyboard.press("Alt+Enter");
  await page.locator("#card").getByRole("button", { name: "More about Oak" }).press("Enter");
  await expectAccessible(page, "Costs on the card");
  await page.goto(`/projects/${project}/money`);
  await page.locator("main[data-whole]").waitFor();
  await expectAccessible(page, "Money");
  await page.emulateMedia({ colorScheme: "dark" });
  await expectAccessible(page, "Money in the dark");
  await page.emulateMedia({ colorScheme: "light" });
  await page.setViewportSize({ width: 400, height: 800 });
  await expectAccessible(page, "Money on a small screen");
  await page.goto(`/projects/${project}/money/import`);
  await page.getByLabel("Cells of a spreadsheet").fill("Task,Item,Price\nPaint,Oak,60\nRoof,Tar,3");
  await page.getByRole("button", { name: "Preview" }).press("Enter");
  await expect(page.getByText("1 line cannot be read")).toBeVisible();
  await expectAccessible(page, "Import of costs");
});

test("by keyboard: a receipt is added as a file to its payment, read on the Money page, removed and brought back", async ({
  page,
  plan,
}) => {
  const { project: about, ...rest } = fair("Wheelhouse");
  const item = { id: "oak", name: "Oak", kind: "material", quantity: 4, price: 55.5 };
  const payments = [
    { day: "2027-05-04", amount: 80, receipt: "R-1" },
    { day: "2027-05-11", amount: 20 },
  ];
  const tasks = rest.tasks.map((task) => (task.id === "paint" ? { ...task, items: [{ ...item, payments }] } : task));
  const project = await plan.bringIn({ ...rest, project: about, tasks });
  await plan.row("Paint").click();
  await page.keyboard.press("Alt+Enter");
  const card = page.locator("#card");
  await card.getByRole("button", { name: "More about Oak" }).press("Enter");
  /** @param {string} of @param {string} name @param {string} text */
  const attach = async (of, name, text) => {
    const asked = page.waitForEvent("filechooser");
    await card.getByRole("button", { name: `Add receipt… for the payment of ${of}` }).press("Enter");
    await (await asked).setFiles({ name, mimeType: "application/pdf", buffer: Buffer.from(text) });
  };
  // What is no receipt is said where it was added.
  await attach("4 May 2027", "scan.pdf", "no PDF");
  await expect(card.getByRole("alert").filter({ hasText: "“R-1.pdf” is called like one kind of file" })).toBeVisible();
  // It is called as its payment calls it; a payment that names none is told what it is called.
  await attach("4 May 2027", "scan.pdf", "%PDF-1.7 one");
  await expect(card.getByRole("link", { name: "R-1.pdf" })).toBeVisible();
  await expect(card.getByRole("button", { name: "Change receipt… for the payment of 4 May 2027" })).toBeFocused();
  await attach("11 May 2027", "till.pdf", "%PDF-1.7 two");
  await expect(card.getByRole("link", { name: "till.pdf" })).toBeVisible();
  await expectAccessible(page, "Receipts on the card");

  await page.goto(`/projects/${project}/money`);
  const paid = page.getByRole("region", { name: "Payments" });
  await expect(paid.getByRole("row").nth(1)).toContainText("11 May 2027");
  const link = paid.getByRole("link", { name: "R-1.pdf" });
  const file = await page.request.get((await link.getAttribute("href")) ?? "");
  expect(await file.text()).toBe("%PDF-1.7 one");
  await expect(page.getByText("2 of 2 payments have a receipt file.")).toBeVisible();
  await paid.getByRole("button", { name: "Remove the receipt R-1.pdf" }).press("Enter");
  await expect(page.locator("#strip-text")).toHaveText("“R-1.pdf” removed.");
  await expect(link).toHaveCount(0);
  await expect(page.getByRole("button", { name: "Add receipts…" })).toBeFocused();
  await page.locator("#undo").press("Enter");
  await expect(page.locator("#strip-text")).toHaveText("“R-1.pdf” restored.");
  await expect(link).toBeVisible();

  // Several at once: each finds its payment, or is listed without one.
  const asked = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "Add receipts…" }).press("Enter");
  const another = { mimeType: "application/pdf", buffer: Buffer.from("%PDF-1.7 three") };
  await (await asked).setFiles(["R-7.pdf", "R-8.pdf"].map((name) => ({ ...another, name })));
  await expect(page.locator("#strip-text")).toHaveText("2 receipts added.");
  await expect(page.getByRole("heading", { name: "Files without a payment" })).toBeVisible();
  await expect(page.getByRole("link", { name: "R-8.pdf" })).toBeVisible();
});

test("lists bring costs: of a task by its card, and tasks of the price list with theirs; others see it at once", async ({
  page,
  plan,
  browser,
  url,
}) => {
  const project = await plan.bringIn(fair("Ferry pier"));
  await plan.row("Paint").click();
  await page.keyboard.press("Alt+Enter");
  const card = page.locator("#card");
  await expect(card.locator(".costs-sum")).toContainText("Planned 0.00 €");

  const context = await browser.newContext({ storageState: await signIn(browser, url, "Imke Varga"), baseURL: url });
  const other = await context.newPage();
  await other.goto(`/projects/${project}/money/import?task=paint`);
  await other.getByLabel("Cells of a spreadsheet").fill("Item\tQuantity\tPrice\nPrimer\t3\t20\n");
  await other.getByRole("button", { name: "Preview" }).press("Enter");
  await other.getByRole("button", { name: "Import 1 item" }).press("Enter");
  await expect(other.locator(".said")).toContainText(
    "1 item imported. “Primer” added to “Paint”. Expected cost 1,060.00 €, 60.00 € more.",
  );
  await context.close();
  // It is there without a reload.
  await expect(card.locator(".costs-sum")).toContainText("Planned 60.00 €");

  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Import…" }).press("Enter");
  await page.getByRole("button", { name: "From the price list…" }).press("Enter");
  const dialog = page.getByRole("dialog", { name: "From the price list" });
  await dialog.getByLabel("How many of Folding chair").fill("100");
  await dialog.getByRole("button", { name: "Preview 1 task" }).press("Enter");
  await page.getByRole("button", { name: "Add 2 rows" }).press("Enter");
  await expect(page.locator("#strip-text")).toContainText(
    "“Folding chair” added to “Folding chair”. Expected cost 1,180.00 €, 120.00 € more.",
  );
});

test("whoever may not know sees no money, until a coordinator lets them", async ({ page, plan, browser, url }) => {
  const project = await plan.bringIn({
    ...fair("Quiet fair"),
    project: { name: "Quiet fair", start: "2027-04-12", budget: 765.43 },
  });
  const state = await signIn(browser, url, "Tomas Lindqvist");
  const context = await browser.newContext({ storageState: state, baseURL: url });
  const tomas = await context.newPage();
  await tomas.goto(`/projects/${project}`);
  await tomas.locator("html[data-ready=true]").waitFor();
  await expect(tomas.getByRole("link", { name: "Money", exact: true })).toHaveCount(0);
  await tomas.keyboard.press("Alt+Enter");
  await expect(tomas.locator("#card").getByText("Why is it there", { exact: true })).toBeVisible();
  await expect(tomas.locator("#card").getByText("Costs", { exact: true })).toHaveCount(0);
  expect((await tomas.request.get(`/api/v1/projects/${project}/money`)).status()).toBe(403);

  await page.goto(`/projects/${project}/sharing`);
  const row = page.getByRole("row", { name: /Tomas Lindqvist/ });
  await row.getByLabel("may see it").check();
  await page.getByRole("button", { name: "Save" }).first().click();
  await expect(page.locator(".said")).toContainText("Tomas Lindqvist may now see the money.");
  await tomas.goto(`/projects/${project}/money`);
  await expect(tomas.locator(".lead")).toContainText("765.43 €");
  await expect(tomas.getByLabel("Budget of the project")).toHaveCount(0);
  await context.close();
});
