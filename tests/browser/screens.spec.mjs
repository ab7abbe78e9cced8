// @ts-check
import Ajv from "ajv/dist/2020.js";
import { readFileSync, readdirSync } from "node:fs";
import { expectAccessible } from "./accessible.mjs";
import { test, expect } from "./app.mjs";

const demo = new URL("../../demo/", import.meta.url);

for (const colorScheme of /** @type {const} */ (["light", "dark"])) {
  test(`axe-core finds nothing wrong in the ${colorScheme} theme`, async ({ page, plan }) => {
    test.slow();
    await page.emulateMedia({ colorScheme });
    const check = (/** @type {string} */ where) => expectAccessible(page, where);
    await page.goto("/projects");
    await check("projects");
    await page.goto("/projects/new");
    await page.getByRole("button", { name: "Create project" }).click();
    await check("new project");
    await plan.open("Slipway & Shed Roof");
    await check("plan");
    await plan.type("Roof survey", "after", "99");
    await expect(plan.problem).toBeVisible();
    await check("plan with a problem");
    await page.getByRole("button", { name: "Keys" }).click();
    await check("keys");
  });
}

test("18 rows fit at 1280x800, and nothing sticks out of the page", async ({ page, plan }) => {
  await plan.open("Lantern Regatta");
  // The view of a plan is remembered, and another test may have changed it.
  const everything = page.locator("#view-line").getByRole("button", { name: "Show everything" });
  if (await everything.isVisible()) await everything.click();
  await expect(everything).toBeHidden();
  const rows = await page.locator(".list-row").evaluateAll((all) => {
    const end = document.getElementById("strip")?.getBoundingClientRect().top ?? 0;
    return all.filter((row) => row.getBoundingClientRect().bottom <= end + 1).length;
  });
  expect(rows).toBeGreaterThanOrEqual(18);
  for (const [width, height] of [
    [1280, 800],
    [1920, 1080],
    [640, 400],
    [390, 844],
  ]) {
    await page.setViewportSize({ width, height });
    await expect
      .poll(() => page.evaluate(() => document.documentElement.scrollWidth - innerWidth))
      .toBeLessThanOrEqual(0);
  }
});

test("on a small screen every column can still be reached", async ({ page, plan }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await plan.open("Lantern Regatta");
  await page.getByRole("button", { name: "List" }).click();
  await plan.cell("Event insurance", "state").scrollIntoViewIfNeeded();
  await expect(plan.cell("Event insurance", "state")).toBeInViewport();
  await page.getByRole("button", { name: "Timeline", exact: true }).click();
  await expect(plan.bar("Event insurance")).toBeVisible();
});

test("the timeline draws trays, pennants, float, the way to the finish, today and days off at every scale", async ({
  page,
  plan,
}) => {
  await plan.open("Lantern Regatta");
  for (const scale of ["Days", "Months", "Weeks"]) {
    await page.getByRole("button", { name: scale, exact: true }).click();
    await expect(page.getByRole("button", { name: scale, exact: true })).toHaveAttribute("aria-pressed", "true");
    await page.getByRole("button", { name: "Go to today" }).click();
    for (const shape of [
      ".tray",
      ".pennant",
      ".float-tail",
      ".keel",
      ".link.sets-finish",
      ".today-column",
      ".closed",
      ".bar-done",
    ])
      await expect.poll(() => page.locator(shape).count(), { message: `${shape} at ${scale}` }).toBeGreaterThan(0);
    await expect(page.locator(".today-column")).toBeInViewport();
  }
  await page.reload();
  await plan.ready();
  await expect(page.getByRole("button", { name: "Weeks" })).toHaveAttribute("aria-pressed", "true");
});

test("what a team does is found, stands together and has its colour", async ({ page, plan }) => {
  await plan.open("Lantern Regatta");
  await page.getByRole("button", { name: "View…" }).click();
  const view = page.locator("#view");
  await view.locator("[name=only-team]").selectOption("Crew");
  await expect(plan.row("Call the local radio")).toBeVisible();
  await expect(plan.row("Harbour permit")).toHaveCount(0);
  await expect(page.locator("#view-words")).toContainText("of the team Crew");
  await view.locator("[name=only-team]").selectOption("");
  await view.getByLabel("Group by").selectOption("team");
  await view.getByLabel("Bar colour").selectOption("team");
  await page.keyboard.press("Escape");
  await expect.poll(async () => (await plan.outline()).filter((row) => row.startsWith(" ")).length).toBeGreaterThan(3);
  await expect(page.getByRole("rowheader", { name: /^Workshop \(\d+\)$/ })).toBeVisible();
  await expect(page.getByRole("rowheader", { name: /^No team \(\d+\)$/ })).toBeAttached();
  await expect(page.locator("[data-bar][data-hue]").first()).toBeVisible();
  await expectAccessible(page, "by team");
  // The view of a plan is remembered, so put it back.
  await page.getByRole("button", { name: "View…" }).click();
  await view.getByLabel("Bar colour").selectOption("state");
  const kept = page.waitForResponse((answer) => answer.url().endsWith("/view") && answer.ok());
  await view.getByRole("button", { name: "Show everything" }).click();
  await kept;
});

test("a long plan keeps only the rows in sight in the page", async ({ page, plan }) => {
  const tasks = Array.from({ length: 2_000 }, (_, i) => ({ id: `t${i}`, name: `Task ${i}`, length: "1d" }));
  const links = tasks.slice(1).map(({ id }, i) => ({ from: `t${Math.floor(i / 2)}`, to: id }));
  await plan.bringIn({ format: "auxilium-plan/1", project: { name: "Long", start: "2027-05-03" }, tasks, links });
  expect(await page.locator(".list-row").count()).toBeLessThan(60);
  expect(await page.locator("*").count()).toBeLessThan(2_500);
  await plan.cell("Task 0", "name").click();
  await page.keyboard.press("Control+End");
  await expect(plan.cell("Task 1999", "name")).toBeFocused();
  // The names of the columns and the dates stay above the rows.
  await expect(page.getByRole("columnheader", { name: "Length" })).toBeInViewport({ ratio: 1 });
  const above = await page.locator(".list-head").boundingBox();
  expect(above?.y).toBe((await page.locator(".time-head").boundingBox())?.y);
  await page.keyboard.press("F2");
  await page.keyboard.type("The last");
  await page.keyboard.press("Enter");
  await expect(plan.cell("The last", "no")).toHaveText("2000");
});

for (const start of ["2025-05-05", "2029-05-07"])
  test(`a plan of ${start} opens where its work is, however far that is from today`, async ({ plan }) => {
    const tasks = [{ id: "sails", name: "Patch the sails", length: "3d" }];
    await plan.bringIn({ format: "auxilium-plan/1", project: { name: `Of ${start}`, start }, tasks, links: [] });
    await expect(plan.bar("Patch the sails")).toBeInViewport();
  });

test("the Plan screen's script and style stay under 90 kB compressed, in at most eight files", async ({
  page,
  plan,
}) => {
  await plan.open("Lantern Regatta");
  const client = await page.context().newCDPSession(page);
  await client.send("Network.enable");
  // Of the Plan screen alone, and all of it: neither what the page before it took, nor less by what the browser has kept of it.
  await client.send("Network.setCacheDisabled", { cacheDisabled: true });
  let bytes = 0;
  /** @type {Set<string>} */ const wanted = new Set();
  client.on("Network.responseReceived", ({ requestId, type }) => {
    if (type === "Script" || type === "Stylesheet") wanted.add(requestId);
  });
  client.on("Network.loadingFinished", ({ requestId, encodedDataLength }) => {
    if (wanted.has(requestId)) bytes += encodedDataLength;
  });
  await page.reload({ waitUntil: "networkidle" });
  await plan.ready();
  expect(bytes).toBeGreaterThan(5_000);
  expect(bytes).toBeLessThan(90_000);
  expect(wanted.size).toBeLessThanOrEqual(8);
});

test("the demo's documents, and what is saved of them, meet the schema that is served", async ({ request }) => {
  const schema = await (await request.get("/api/v1/schema/auxilium-plan-1.json")).json();
  const validate = new Ajv.default({ strict: false, validateFormats: false }).compile(schema);
  for (const file of readdirSync(demo).filter((name) => name.endsWith(".plan.json"))) {
    expect(validate(JSON.parse(readFileSync(new URL(file, demo), "utf8"))), JSON.stringify(validate.errors)).toBe(true);
  }
  for (const project of await (await request.get("/api/v1/projects")).json()) {
    const document = await (await request.get(`/api/v1/projects/${project.id}/plan`)).json();
    expect(validate(document), JSON.stringify(validate.errors)).toBe(true);
  }
  expect(validate({ format: "auxilium-plan/1", project: { name: "x", start: "2027-05-03" }, more: 1 })).toBe(false);
});
