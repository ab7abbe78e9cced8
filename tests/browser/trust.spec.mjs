// @ts-check
// What a browser keeps is one person's: edits that were not saved stay theirs, and only they discard them.
import { test, expect, signIn } from "./app.mjs";
import { expectAccessible } from "./accessible.mjs";

const kayaks = {
  format: "auxilium-plan/1",
  project: { name: "Kayaks", start: "2027-05-10" },
  tasks: [{ id: "a", name: "Patch the hulls", length: "2d" }],
};

test("an edit that was not saved is its person's: another who signs in does not send it, and signing out asks", async ({
  plan,
  page,
  browser,
  url,
}) => {
  const id = await plan.bringIn(kayaks);
  let isDown = true;
  await page.route("**/edits?changes=true", (route) => (isDown ? route.abort() : route.continue()));
  await plan.cell("Patch the hulls", "length").dblclick();
  await page.keyboard.type("5d");
  await page.keyboard.press("Enter");
  await expect(plan.strip).toContainText("Not saved yet");
  const kept = () => page.evaluate(() => Object.keys(localStorage).filter((key) => key.startsWith("auxilium-unsent:")));
  expect(await kept()).toEqual([expect.stringContaining(`auxilium-unsent:imke:${id}:`)]);

  // Somebody else on the same browser: nothing of it is sent as theirs.
  const [page2] = [await page.context().newPage()];
  await page.context().clearCookies();
  await page.context().addCookies((await signIn(browser, url, "Tomas Lindqvist")).cookies);
  isDown = false;
  /** @type {string[]} */ const sent = [];
  page2.on("request", (request) => request.method() === "POST" && sent.push(request.url()));
  await page2.goto("/projects");
  await page2.getByRole("link", { name: "Slipway" }).first().click();
  await page2.locator("html[data-ready=true]").waitFor();
  expect(sent.filter((address) => address.includes(id))).toEqual([]);
  // The page that made it is told that somebody else signed in, and keeps it.
  await expect(plan.strip).toContainText("somebody else signed in", { timeout: 20_000 });
  expect(await kept()).toHaveLength(1);

  // Its person again: asked before it is discarded, and it is still there when they stay.
  await page.close();
  await page2.context().clearCookies();
  await page2.context().addCookies((await signIn(browser, url, "Imke Varga")).cookies);
  await page2.goto("/account");
  await page2.getByRole("button", { name: "Sign out", exact: true }).click();
  const question = page2.getByRole("dialog");
  await expect(question).toContainText("One edit of yours was not saved yet");
  await expectAccessible(page2, "the question before signing out");
  await question.getByRole("button", { name: "Stay signed in" }).click();
  await page2.goto(`/projects/${id}`);
  await expect(page2.locator("#strip").getByRole("status")).toContainText("Patch the hulls now takes 5 days");

  // Nothing is left to ask about.
  await page2.goto("/account");
  await page2.getByRole("button", { name: "Sign out", exact: true }).click();
  await expect(page2).toHaveURL(/sign-in/);
});

test("an edit that the server fails at again and again can be discarded, and the others go on", async ({
  plan,
  page,
}) => {
  await plan.bringIn(kayaks);
  await page.route("**/edits?changes=true", async (route) => {
    const isBroken = route.request().postData()?.includes("setLength");
    if (isBroken) await route.fulfill({ status: 500, contentType: "application/problem+json", body: "{}" });
    else await route.continue();
  });
  await plan.cell("Patch the hulls", "length").dblclick();
  await page.keyboard.type("5d");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Discard this edit" }).click({ timeout: 30_000 });
  await plan.cell("Patch the hulls", "owner").dblclick();
  await page.keyboard.type("Wanda");
  await page.keyboard.press("Enter");
  await expect(plan.strip).toContainText("Patch the hulls is now Wanda Coles’s");
});

test("organisers read what happened beside the plans", async ({ page }) => {
  await page.goto("/people");
  await page.getByRole("link", { name: "Audit trail" }).click();
  await expect(page.getByRole("heading", { name: "Audit trail" })).toBeVisible();
  await expectAccessible(page, "the audit trail");
});
