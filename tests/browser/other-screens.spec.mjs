// @ts-check
/** @import { Page, Locator } from "@playwright/test" */
import { readFileSync } from "node:fs";
import { expectAccessible } from "./accessible.mjs";
import { test, expect } from "./app.mjs";

const lantern = JSON.parse(readFileSync(new URL("../../demo/1-lantern-regatta.plan.json", import.meta.url), "utf8"));
const fair = {
  format: "auxilium-plan/1",
  project: { name: "Fair", start: "2027-05-03" },
  people: [
    { id: "ann-lee", name: "Ann Lee", initials: "AL" },
    { id: "bo-dahl", name: "Bo Dahl", initials: "BD" },
  ],
  tasks: [
    { id: "p", name: "Before" },
    { id: "a", name: "Permit", parent: "p", length: "3d", assignments: [{ person: "ann-lee" }] },
    { id: "b", name: "Posters", parent: "p", length: "2d" },
    { id: "q", name: "The day" },
    { id: "c", name: "Stalls up", parent: "q", length: "1d" },
    { id: "m", name: "Gates open", parent: "q", length: "0d", milestone: true },
  ],
  links: [
    { from: "a", to: "b" },
    { from: "b", to: "c" },
    { from: "c", to: "m" },
  ],
};

/** @param {Page} page @param {Locator} from @param {Locator} to */
async function drag(page, from, to) {
  const [a, b] = [await from.boundingBox(), await to.boundingBox()];
  if (!a || !b) throw new Error("It is not drawn.");
  await page.mouse.move(a.x + 20, a.y + a.height / 2);
  await page.mouse.down();
  await page.mouse.move(b.x + 20, b.y + Math.min(60, b.height / 2), { steps: 6 });
}

test("in Lanes a card is moved by pointer and by key, and it is an edit like any other", async ({ page, plan }) => {
  await plan.bringIn(fair);
  await page.getByRole("link", { name: "Lanes" }).click();
  await plan.ready();
  const lane = (/** @type {string} */ name) => page.getByRole("region", { name: new RegExp(`^${name},`) });
  const card = (/** @type {string} */ name) => page.locator(".lane-card").filter({ hasText: name });
  await expect(lane("To do").getByRole("button")).toHaveCount(4);

  await drag(page, card("Permit"), lane("Under way"));
  await expect(plan.strip).toContainText("Letting go: Permit started Mon 3 May");
  await page.mouse.up();
  await expect(lane("Under way").getByText("Permit")).toBeVisible();
  await expect(plan.strip).toContainText("Permit started Mon 3 May.");
  await drag(page, card("Permit"), lane("Done"));
  await page.keyboard.press("Escape");
  await page.mouse.up();
  await expect(lane("Under way").getByText("Permit")).toBeVisible();
  await plan.undo.click();
  await expect(lane("To do").getByText("Permit")).toBeVisible();

  await card("Posters").focus();
  await page.keyboard.press("Control+ArrowRight");
  await expect(lane("Under way").getByText("Posters")).toBeVisible();
  await expect(card("Posters")).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("complementary").getByRole("heading", { level: 2 })).toHaveText("1.2 Posters");
  await page.keyboard.press("Escape");

  // What belongs to the timeline says so here, and changes nothing there.
  await page.keyboard.press("/");
  await page.keyboard.type("fit the project");
  await page.keyboard.press("Enter");
  await expect(plan.strip).toHaveText("The timeline is in Plan: open that screen first.");
  await page.getByLabel("Lanes by").selectOption("owner");
  await drag(page, card("Stalls up"), lane("Bo Dahl"));
  await page.mouse.up();
  await expect(lane("Bo Dahl").getByText("Stalls up")).toBeVisible();
  await page.getByLabel("Lanes by").selectOption("phase");
  await drag(page, card("Stalls up"), lane("1 Before"));
  await page.mouse.up();
  await expect(lane("1 Before").getByText("Stalls up")).toBeVisible();
  await expect(plan.strip).toContainText("Stalls up is now in Before.");
});

test("in Month bars lie on their days and are moved by pointer and by key", async ({ page, plan }) => {
  await plan.bringIn(fair);
  await page.getByRole("link", { name: "Month" }).click();
  await plan.ready();
  await expect(page.getByRole("heading", { name: "May 2027" })).toBeVisible();
  const bar = (/** @type {string} */ name) => page.locator(".month-bar").filter({ hasText: name });
  const days = async (/** @type {string} */ name) => bar(name).first().getAttribute("title");
  expect(await days("Permit")).toContain("Permit, 3 May to 5 May");

  await drag(page, bar("Permit"), page.locator(".month-day").filter({ hasText: /^12$/ }));
  await expect(plan.strip).toContainText("Letting go: Permit goes not before Wed 12 May.");
  await page.mouse.up();
  await expect(plan.strip).toContainText("Permit goes not before Wed 12 May.");
  await expect.poll(() => days("Permit")).toContain("12 May to 14 May");
  await expect.poll(() => days("Gates open")).toContain("19 May");

  await bar("Permit").focus();
  await page.keyboard.press("Control+ArrowRight");
  await expect.poll(() => days("Permit")).toContain("13 May to 17 May");
  // It goes over the weekend, so it has a piece in each week.
  await expect(bar("Permit")).toHaveCount(2);
  await page.getByRole("button", { name: "The month after" }).click();
  await expect(page.getByRole("heading", { name: "June 2027" })).toBeVisible();
  await expect(bar("Permit")).toHaveCount(0);
  await page.getByRole("button", { name: "This month" }).click();
  await page.getByRole("button", { name: "View…" }).click();
  await page.locator("#view").getByLabel("Milestones").check();
  await expect(page.locator(".month-bar")).toHaveCount(1);
});

test("the journal lists what was done, filters it, and takes it back", async ({ page, plan }) => {
  await plan.bringIn(fair);
  await plan.type("Permit", "length", "5d");
  await expect(plan.strip).toContainText("Permit now takes 5 days");
  await plan.type("Stalls up", "owner", "Bo Dahl");
  await expect(plan.strip).toContainText("Stalls up is now Bo Dahl’s");
  await page.getByRole("link", { name: "Journal" }).click();
  const entry = page.locator(".journal-entry");
  await expect(entry).toHaveCount(2);
  await expect(entry.last()).toContainText("Imke Varga");
  await expect(entry.last()).toContainText("Permit now takes 5 days instead of 3 days. 3 other tasks moved");
  await page.getByLabel("Task", { exact: true }).selectOption({ label: "Permit" });
  await expect(entry).toHaveCount(1);
  await entry.getByRole("button", { name: /^Take back/ }).click();
  await expect(page.locator("#strip-text")).toContainText("Taken back: Permit now takes 5 days");
  await expect(page.locator(".journal-entry.is-gone")).toContainText("Taken back");
  await page.getByLabel("Task", { exact: true }).selectOption("");
  await page
    .locator(".journal-entry")
    .first()
    .getByRole("button", { name: /^Do again/ })
    .click();
  await expect(page.locator("#strip-text")).toContainText("Done again: Permit now takes 5 days");
});

test("ten steps are undone after a reload, and done again", async ({ page, plan }) => {
  await plan.bringIn(fair);
  for (let i = 1; i <= 10; i++) {
    await plan.type("Permit", "length", `${i + 3}d`);
    await expect(plan.strip).toContainText(`Permit now takes ${i + 3} days`);
  }
  await page.reload();
  await plan.ready();
  for (let i = 10; i >= 1; i--) {
    await plan.undo.click();
    await expect(plan.cell("Permit", "length")).toHaveText(`${i + 2}d`);
  }
  await expect(plan.undo).toBeDisabled();
  await page.reload();
  await plan.ready();
  for (let i = 1; i <= 10; i++) {
    await page.getByRole("button", { name: "Redo" }).click();
    await expect(plan.cell("Permit", "length")).toHaveText(`${i + 3}d`);
  }
});

for (const colorScheme of /** @type {const} */ (["light", "dark"])) {
  test(`axe-core finds nothing wrong in the other screens in the ${colorScheme} theme`, async ({ page, plan }) => {
    test.slow();
    await page.emulateMedia({ colorScheme });
    const check = (/** @type {string} */ where) => expectAccessible(page, where);
    // A copy of its own: how a plan is viewed is remembered, and other tests look at the demo's.
    await plan.bringIn({ ...lantern, project: { ...lantern.project, name: `Lanterns in ${colorScheme}` } });
    await plan.cell("Event insurance", "name").click();
    await page.keyboard.press("Shift+ArrowDown");
    await check("picked rows");
    await page.getByRole("button", { name: "View…" }).click();
    await page.getByLabel("Sort by").selectOption("finish");
    await page.getByLabel("Bar colour").selectOption("owner");
    await page.getByLabel("Bar labels").selectOption("name");
    await check("what to show");
    await page.keyboard.press("Escape");
    await page.keyboard.press("/");
    await page.keyboard.type("la");
    await check("finding");
    await page.keyboard.press("Escape");
    await page.getByRole("button", { name: "Import…" }).click();
    await page.getByRole("textbox", { name: "The list" }).fill("Task\tStart\tLength\nA\t5/6\tlong");
    await expect(page.getByRole("button", { name: "Add 1 row" })).toBeVisible();
    await check("pasting");
    for (const screen of ["Lanes", "Month", "Chains", "Journal"]) {
      await page.keyboard.press("Escape");
      await page.getByRole("link", { name: screen }).click();
      await plan.ready();
      await check(screen);
    }
  });
}

test("in Chains links are seen from left to right, drawn, changed and taken away", async ({ page, plan }) => {
  await plan.bringIn({ ...fair, tasks: [...fair.tasks, { id: "r", name: "Radio", length: "1d" }] });
  await page.getByRole("link", { name: "Chains" }).click();
  await plan.ready();
  const box = (/** @type {string} */ name) => page.getByRole("button", { name: new RegExp(`^[\\d.]+ ${name}`) });
  const x = async (/** @type {string} */ name) => (await box(name).boundingBox())?.x ?? 0;
  await expect(box("Posters")).toBeVisible();
  expect(await x("Permit")).toBeLessThan(await x("Posters"));
  expect(await x("Posters")).toBeLessThan(await x("Stalls up"));
  await expect(page.getByText("Linked to nothing")).toBeVisible();
  // A task of one day says that day once.
  await expect(box("Radio")).not.toContainText("–");

  const dot = page.locator('[data-dot="r"]');
  const [from, to] = [await dot.boundingBox(), await box("Stalls up").boundingBox()];
  if (!from || !to) throw new Error("It is not drawn.");
  await page.mouse.move(from.x + 6, from.y + 6);
  await page.mouse.down();
  await page.mouse.move(to.x + 60, to.y + 20, { steps: 5 });
  await expect(plan.strip).toContainText("Letting go: Stalls up now comes after Radio.");
  await page.mouse.up();
  await expect(plan.strip).toContainText("Stalls up now comes after Radio.");
  await expect(page.getByText("Linked to nothing")).toHaveCount(0);

  await page.locator('#chains [data-link="r>c"]').dispatchEvent("click", { clientX: 500, clientY: 400 });
  await page.locator("#link-panel").getByRole("button", { name: "Remove the link" }).click();
  await expect(page.getByText("Linked to nothing")).toBeVisible();
  await plan.undo.click();
  await expect(page.getByText("Linked to nothing")).toHaveCount(0);

  await box("Permit").focus();
  await page.keyboard.press("ArrowRight");
  await expect(box("Posters")).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("complementary").getByRole("heading", { level: 2 })).toHaveText("1.2 Posters");
});

test("a finger that rests on a card takes hold of it, and one that moves on scrolls", async ({
  browser,
  url,
  plan,
}) => {
  const id = await plan.bringIn(fair);
  const context = await browser.newContext({ hasTouch: true, viewport: { width: 900, height: 700 } });
  const page = await context.newPage();
  await page.goto(`${url}/projects/${id}/lanes`);
  await page.locator("html[data-ready=true]").waitFor();
  const client = await context.newCDPSession(page);
  const touch = (/** @type {string} */ type, /** @type {number} */ x = 0, /** @type {number} */ y = 0) =>
    client.send("Input.dispatchTouchEvent", {
      type: /** @type {"touchStart"} */ (type),
      touchPoints: type === "touchEnd" ? [] : [{ x, y }],
    });
  const center = async (/** @type {import("@playwright/test").Locator} */ what) => {
    const box = await what.boundingBox();
    if (!box) throw new Error("It is not in sight.");
    return { x: box.x + box.width / 2, y: box.y + Math.min(box.height / 2, 60) };
  };
  const card = page.getByRole("button", { name: /Permit/ });
  const lane = page.getByRole("region", { name: /^Under way/ });
  const [from, to] = [await center(card), await center(lane)];
  await touch("touchStart", from.x, from.y);
  await expect(page.locator(".lanes-board.is-held")).toBeVisible();
  for (let i = 1; i <= 5; i++)
    await touch("touchMove", from.x + ((to.x - from.x) * i) / 5, from.y + ((to.y - from.y) * i) / 5);
  await expect(page.locator("#strip-text")).toContainText("Letting go: Permit started");
  await touch("touchEnd");
  await expect(lane).toContainText("Permit");

  // A swipe is none of that.
  await touch("touchStart", from.x, from.y);
  for (let i = 1; i <= 3; i++) await touch("touchMove", from.x + i * 30, from.y);
  await expect(page.locator(".lanes-board.is-held")).toHaveCount(0);
  await touch("touchEnd");
  await context.close();
});
