// @ts-check
import { test, expect } from "./app.mjs";
import { PlanScreen } from "./plan-screen.mjs";

const pair = {
  format: "auxilium-plan/1",
  project: { name: "Pair", start: "2027-05-03" },
  tasks: [
    { id: "a", name: "Workshop", length: "5d" },
    { id: "b", name: "Rig", length: "2d" },
  ],
};

test("two windows: other fields are merged, the same field is a choice between both", async ({
  page,
  plan,
  context,
  url,
}) => {
  const id = await plan.bringIn(pair);
  const other = new PlanScreen(await context.newPage(), url);
  await other.page.goto(`/projects/${id}`);
  await other.ready();

  await plan.type("Workshop", "length", "6d");
  await expect(plan.strip).toContainText("Workshop now takes 6 days");
  await expect(other.cell("Workshop", "length")).toHaveText("6d");
  await other.type("Workshop", "name", "Lantern workshop");
  await expect(plan.cell("Lantern workshop", "length")).toHaveText("6d");

  // What is half typed stays as it is when the same cell is changed elsewhere, and then both are shown.
  await other.cell("Lantern workshop", "length").click();
  await other.page.keyboard.press("F2");
  await other.page.keyboard.press("Control+A");
  await other.page.keyboard.type("3d");
  await plan.type("Lantern workshop", "length", "7d");
  await expect(other.strip).toContainText("now takes 7 days");
  await expect(other.page.locator("input.editor")).toHaveValue("3d");
  await expect(other.page.locator("input.editor")).toBeFocused();
  await other.page.keyboard.press("Enter");
  await expect(other.problem).toContainText(
    "You changed this since, in another window: it is now “7d”, and this would make it “3d”.",
  );
  await expect(plan.cell("Lantern workshop", "length")).toHaveText("7d");
  await other.page.getByRole("button", { name: "Use “3d”" }).click();
  await expect(other.strip).toContainText("Lantern workshop now takes 3 days instead of 7 days.");
  await expect(plan.cell("Lantern workshop", "length")).toHaveText("3d");
  await page.reload();
  await plan.ready();
  await expect(plan.cell("Lantern workshop", "length")).toHaveText("3d");
});

test("an edit made while the server cannot be reached is kept, said to be unsaved, and applied once", async ({
  page,
  plan,
  context,
}) => {
  await plan.bringIn(pair);
  await context.setOffline(true);
  await plan.typeTasks.call({ ...plan, page, newTask: plan.newTask, saved: async () => {} }, "Vests", "Radios");
  await expect(plan.strip).toContainText("Not saved yet");
  await expect(page.locator(".list-row.is-pending")).toHaveCount(2);
  await context.setOffline(false);
  await plan.saved();
  await expect(plan.strip).toContainText("Radios added.");
  await page.reload();
  await plan.ready();
  await expect.poll(() => plan.outline()).toEqual(["1 Workshop", "2 Rig", "3 Vests", "4 Radios"]);
});

test("an answer that is lost on the way does not make the edit happen twice", async ({ page, plan }) => {
  await plan.bringIn(pair);
  let lost = 0;
  await page.route("**/edits?changes=true", async (route) => {
    if (lost++ > 0) return route.continue();
    await route.fetch();
    return route.abort();
  });
  await plan.typeTasks("Vests");
  await expect.poll(() => lost).toBeGreaterThan(1);
  await expect.poll(() => plan.outline()).toEqual(["1 Workshop", "2 Rig", "3 Vests"]);
});

test("what has no answer when the page is closed is sent by the next one, once", async ({
  page,
  plan,
  context,
  url,
}) => {
  await plan.create("Closed too soon");
  await plan.typeTasks("One");
  let sent = 0;
  await page.route("**/edits?changes=true", async (route) => {
    // The server gets the first of them; its answer does not get back.
    if (++sent === 1) await route.fetch();
    return route.abort();
  });
  await plan.type("One", "length", "4d");
  await plan.type("One", "name", "First");
  await expect(plan.strip).toContainText("Not saved yet");
  const address = page.url();
  await page.close({ runBeforeUnload: false });

  const next = await context.newPage();
  await next.goto(address);
  await next.locator("html[data-ready=true]").waitFor();
  await expect(next.locator("#strip-text")).toContainText("is now called First");
  await expect(next.locator(".list-row [data-col=length]").first()).toHaveText("4d");
  const journal = await (await next.request.get(`${url}/api/v1${new URL(address).pathname}/journal`)).json();
  expect(journal.entries).toHaveLength(3);
  const unsent = () => next.evaluate(() => Object.keys(localStorage).filter((key) => key.includes("unsent")));
  await expect.poll(unsent).toEqual([]);
});
