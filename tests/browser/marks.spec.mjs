// @ts-check
// What tasks are marked with, and lists that are grouped, coloured and filtered by it.

import { pageToken } from "./page-token.mjs";
import { expectAccessible } from "./accessible.mjs";
import { expect, test } from "./app.mjs";

const fair = {
  format: "auxilium-plan/1",
  project: { name: "Fair", start: "2027-05-03" },
  people: [{ id: "mia-fair", name: "Mia Fair", initials: "MF" }],
  tasks: [
    { id: "p", name: "Stalls" },
    { id: "a", name: "Order tents", parent: "p", length: "2d", label: "hire", assignments: [{ person: "mia-fair" }] },
    {
      id: "b",
      name: "A very long name for a task that nobody could ever fit into one line of the list",
      parent: "p",
      length: "1d",
    },
    { id: "c", name: "Print posters", length: "3d", label: "print" },
  ],
};

test("a task is marked on its card, with small marks on its row", async ({ page, plan }) => {
  await plan.bringIn(fair);
  await plan.cell("Order tents", "no").click();
  await page.keyboard.press("k");
  await expect(plan.strip).toContainText("Order tents is a key task.");
  await page.keyboard.press("c");
  const card = page.locator("#card");
  await card.getByLabel("Another step").fill("Ask for a price");
  await card.getByLabel("Another step").press("Enter");
  await expect(card.getByRole("checkbox", { name: "Ask for a price" })).toBeVisible();
  await card.getByLabel("Another step").fill("Pay the deposit");
  await card.getByLabel("Another step").press("Enter");
  await card.getByRole("checkbox", { name: "Ask for a price" }).check();
  await expect(plan.strip).toContainText("1 of 2 steps done");
  await card.getByRole("button", { name: "Move “Pay the deposit” up" }).click();
  await expect(card.locator(".step").first()).toContainText("Pay the deposit");
  await card.getByLabel("Another page").fill("javascript:alert(1)");
  await card.getByLabel("Another page").press("Enter");
  await expect(card.getByRole("alert").filter({ hasText: "This is not an address" })).toBeVisible();
  await card.getByLabel("Another page").fill("https://tents.example/hire Tents for hire");
  await card.getByLabel("Another page").press("Enter");
  await expect(card.getByRole("link", { name: "Tents for hire" })).toHaveAttribute(
    "href",
    "https://tents.example/hire",
  );
  await card.getByLabel("Colour").selectOption("moss");
  await expect(plan.strip).toContainText("is marked in moss");
  await card.getByLabel("Label").fill("camp");
  await card.getByLabel("Label").press("Enter");
  await expect(plan.strip).toContainText("is labelled camp");
  await card.getByLabel("Priority").fill("lots");
  await card.getByLabel("Priority").press("Enter");
  await expect(card.getByRole("alert").filter({ hasText: "whole number from 0 to 1000" })).toBeVisible();
  await expectAccessible(page, "card with marks");
  // The row is called by its name and its marks.
  const row = plan.row("Order tents Key task 1 of 2 steps done Has a link");
  for (const name of ["Key task", "1 of 2 steps done", "Has a link"])
    await expect(row.getByRole("img", { name })).toBeVisible();
  await expect(row).toHaveAttribute("data-tint", "moss");
});

test("rows stand together by owner, state or label, and the plan keeps its order", async ({ page, plan }) => {
  await plan.bringIn(fair);
  await page.getByRole("button", { name: "View…" }).click();
  const view = page.locator("#view");
  await view.getByLabel("Group by").selectOption("label");
  await view.getByLabel("Row colour").selectOption("label");
  await page.keyboard.press("Escape");
  await expect
    .poll(() => plan.outline())
    .toEqual([
      " hire (1)",
      "1.1 Order tents",
      " print (1)",
      "2 Print posters",
      " No label (1)",
      `1.2 ${fair.tasks[2].name}`,
    ]);
  await expect(plan.row("Order tents")).toHaveAttribute("data-hue", /\d/);
  await expect(page.getByText("Grouped by label, without phases.")).toBeVisible();
  // Headings fold, and nothing of the plan can be done to them.
  await page.getByRole("rowheader", { name: "hire (1)" }).click();
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("-");
  await expect(plan.row("Order tents")).toHaveCount(0);
  await page.keyboard.press("Control+Delete");
  await expect(plan.strip).toContainText("Choose a row of the list first.");
  await page.keyboard.press("+");
  await expect(plan.row("Order tents")).toBeVisible();
  await expectAccessible(page, "grouped");
  await page.getByRole("button", { name: "Show everything" }).first().click();
  await expect.poll(async () => (await plan.outline())[0]).toBe("1 Stalls");
});

test("long names go on in a second line, and what one chose is there on another machine", async ({
  page,
  plan,
  browser,
  url,
}) => {
  const id = await plan.bringIn(fair);
  await page.getByRole("button", { name: "View…" }).click();
  const kept = page.waitForResponse((answer) => answer.url().endsWith("/view") && answer.ok());
  await page.locator("#view").getByLabel("Two lines for long names").check();
  await page.keyboard.press("Escape");
  const row = plan.row(fair.tasks[2].name);
  await expect(row).toHaveCSS("height", "46px");
  await expect
    .poll(async () => {
      const bar = await plan.bar("Print posters").boundingBox();
      const line = await plan.row("Print posters").boundingBox();
      return Math.abs((bar?.y ?? 0) + (bar?.height ?? 0) / 2 - (line?.y ?? 0) - 23);
    })
    .toBeLessThan(3);
  await kept;
  const other = await browser.newContext();
  const elsewhere = await other.newPage();
  await elsewhere.goto(`${url}/projects/${id}`);
  await elsewhere.locator("html[data-ready=true]").waitFor();
  await expect(elsewhere.locator(".list-row").first()).toHaveCSS("height", "46px");
  await other.close();
});

test("tasks are found by label, phase, days and key, and cards lie in lanes of one's own", async ({ page, plan }) => {
  const id = await plan.bringIn(fair);
  await page.getByRole("button", { name: "View…" }).click();
  const view = page.locator("#view");
  await view.locator("[name=only-label]").selectOption("hire");
  await expect(plan.row("Order tents")).toBeVisible();
  await expect(plan.row("Print posters")).toHaveCount(0);
  await view.locator("[name=only-label]").selectOption("");
  const from = view.locator("[name=from]");
  await from.fill("5/6");
  await from.blur();
  await expect(view.getByRole("alert").filter({ hasText: "could be read two ways" })).toBeVisible();
  await from.fill("5 May");
  await from.blur();
  await expect(from).toHaveValue("5 May 2027");
  await expect(plan.row("Order tents")).toHaveCount(0);
  await expect(plan.row("Print posters")).toBeVisible();
  await from.fill("");
  await from.blur();
  await view.locator("[name=phase]").selectOption({ label: "1 Stalls" });
  await expect(page.locator("#view-words")).toHaveText("2 of 3 tasks: in Stalls.");
  await view.locator("[name=phase]").selectOption("");
  await page.goto(`/projects/${id}/lanes`);
  await plan.ready();
  await page.getByLabel("Lanes by").selectOption("label");
  await page.getByLabel("New lane").fill("later");
  await page.getByLabel("New lane").press("Enter");
  await expect(page.getByRole("region", { name: "later, 0" })).toBeVisible();
  await page.getByRole("button", { name: /Print posters/ }).focus();
  await page.keyboard.press("Control+ArrowRight");
  await expect(page.getByRole("region", { name: "later, 1" })).toContainText("Print posters");
  await expectAccessible(page, "lanes by label");
});

test("people talk about a task on its card, and add files that are what they say", async ({ page, plan }) => {
  const id = await plan.bringIn(fair);
  await plan.cell("Print posters", "no").click();
  await page.keyboard.press("c");
  const card = page.locator("#card");
  await card.getByLabel("Comment", { exact: true }).fill("<img src=x onerror=alert(1)> twice, please");
  await page.keyboard.press("Control+Enter");
  await expect(card.locator(".comment-text")).toHaveText("<img src=x onerror=alert(1)> twice, please");
  const png = Buffer.from(
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
    "base64",
  );
  await card.getByLabel("Add a file").setInputFiles({ name: "poster.pdf", mimeType: "application/pdf", buffer: png });
  const wrong = card.getByRole("alert").filter({ hasText: "give it that name" });
  await expect(wrong).toBeVisible();
  // What is wrong with the file stays told when news of the task comes in.
  const comments = `/api/v1/projects/${id}/tasks/c/comments`;
  await page.request.post(comments, { data: { text: "And the banner" }, headers: await pageToken(page) });
  await expect(card.locator(".comment-text")).toHaveCount(2);
  await expect(wrong).toBeVisible();
  await card.getByRole("button", { name: "Take back this comment" }).last().click();
  await expect(card.locator(".comment-text")).toHaveCount(1);
  await card.getByLabel("Add a file").setInputFiles({ name: "poster.png", mimeType: "image/png", buffer: png });
  await expect(card.getByRole("link", { name: "poster.png" })).toBeVisible();
  await card
    .getByLabel("Add a file")
    .setInputFiles({ name: "big.png", mimeType: "image/png", buffer: Buffer.concat([png, Buffer.alloc(11_000_000)]) });
  await expect(card.getByRole("alert").filter({ hasText: "at most 10 MB" })).toBeVisible();
  // What is begun stays while the plan changes around it and another card is open.
  await card.getByLabel("Comment", { exact: true }).fill("And the");
  await plan.type("Order tents", "length", "4d");
  await expect(card.getByRole("heading", { name: "A very long name" })).toBeVisible();
  await expect(card.locator(".comment-text")).toHaveCount(0);
  await plan.cell("Print posters 1 comment 1 file", "no").click();
  await expect(card.getByRole("heading", { name: "Print posters" })).toBeVisible();
  await expect(card.getByLabel("Comment", { exact: true })).toHaveValue("And the");
  await expectAccessible(page, "talk");
  await page.reload();
  await plan.ready();
  await expect(plan.row("Print posters 1 comment 1 file")).toBeVisible();
});
