// @ts-check
// Several people on one plan, each with their rights: members propose, viewers look, links show; and a week on a phone.
import { test, expect, signIn } from "./app.mjs";
import { expectAccessible } from "./accessible.mjs";
import { pageToken } from "./page-token.mjs";
import { PlanScreen } from "./plan-screen.mjs";

const HOSTILE = `<img src=x onerror="document.title='owned'">`;

const pontoon = {
  format: "auxilium-plan/1",
  project: { name: "Pontoon", start: "2027-05-10" },
  people: [
    { id: "oona", name: "Oona Reilly", initials: "OR" },
    { id: "tomas", name: "Tomas Lindqvist", initials: "TL" },
  ],
  tasks: [
    { id: "sand", name: "Sand the deck", length: "4d", assignments: [{ person: "oona" }] },
    { id: "paint", name: "Paint the deck", length: "2d", assignments: [{ person: "tomas" }] },
  ],
  links: [{ from: "sand", to: "paint" }],
};

/**
 * The plan in the browser of somebody else.
 * @param {import("@playwright/test").Browser} browser
 * @param {string} url
 * @param {string} name
 * @param {string} path
 * @param {import("@playwright/test").BrowserContextOptions} [how]
 */
async function as(browser, url, name, path, how = {}) {
  const context = await browser.newContext({
    baseURL: url,
    storageState: await signIn(browser, url, name),
    viewport: { width: 1280, height: 800 },
    ...how,
  });
  const page = await context.newPage();
  await page.goto(path);
  return new PlanScreen(page, url);
}

test("a member ticks their own task, proposes the rest, and sees it accepted at once", async ({
  plan,
  browser,
  url,
}) => {
  const id = await plan.bringIn(pontoon);
  const oona = await as(browser, url, "Oona Reilly", `/projects/${id}`);
  await oona.ready();
  await oona.type("Sand the deck", "state", "50");
  await expect(oona.strip).toContainText("Sand the deck is 50% done");
  await oona.type("Paint the deck", "length", "3d");
  await expect(oona.strip).toContainText("Proposed to the coordinator: Paint the deck now takes 3 days");
  await expect(oona.cell("Paint the deck", "length")).toHaveText("2d");
  await oona.typeTasks.call(
    { ...oona, page: oona.page, newTask: oona.newTask, saved: async () => {} },
    "Oil the cleats",
  );
  await expect(oona.row("Oil the cleats")).toHaveCount(0);

  // The plan goes on meanwhile: the list says what each would do now, and nobody's change is overruled unseen.
  await plan.type("Paint the deck", "length", "4d");
  await expect(plan.strip).toContainText("Paint the deck now takes 4 days");
  await plan.page.getByRole("button", { name: "2 proposals" }).click();
  const list = plan.page.getByRole("dialog", { name: "Proposals" });
  await expect(list).toContainText("Oona Reilly: Paint the deck now takes 3 days instead of 4 days");
  await expectAccessible(plan.page, "proposals");
  await list.getByRole("listitem").first().getByRole("button", { name: "Accept" }).click();
  await expect(list.getByRole("alert")).toContainText([
    "Imke Varga changed this since: it is now “4d”, and “3d” is proposed.",
  ]);
  await expectAccessible(plan.page, "a proposal that meets another change");
  await list.getByRole("button", { name: "Use “3d”" }).click();
  await expect(oona.cell("Paint the deck", "length")).toHaveText("3d");
  await expect(list.getByRole("listitem")).toHaveCount(1);
  await list.getByRole("button", { name: "Decline" }).click();
  await expect(list).toContainText("Nothing waits for a decision.");
  await oona.page.getByRole("link", { name: /Notifications/ }).click();
  await expect(oona.page.getByText("Imke Varga accepted what you proposed")).toBeVisible();
});

test("a viewer looks, and is told why nothing can be changed", async ({ plan, browser, url }) => {
  await plan.open("Lantern Regatta");
  const greta = await as(browser, url, "Greta Holm", plan.page.url());
  await greta.ready();
  await expect(greta.newTask).toBeHidden();
  await expect(greta.page.getByRole("button", { name: "Import…" })).toBeHidden();
  await greta.cell("Agree towpath closing", "length").click();
  await greta.page.keyboard.press("F2");
  await expect(greta.strip).toContainText("You may look at this plan");
  await expect(greta.page.locator("input.editor")).toHaveCount(0);
  await expectAccessible(greta.page, "a viewer's plan");
});

test("somebody who is taken off while they type loses nothing they typed and is told so", async ({
  plan,
  browser,
  url,
}) => {
  const id = await plan.bringIn(pontoon);
  const oona = await as(browser, url, "Oona Reilly", `/projects/${id}`);
  await oona.ready();
  await oona.cell("Sand the deck", "state").click();
  await oona.page.keyboard.press("F2");
  await oona.page.keyboard.press("Control+A");
  await oona.page.keyboard.type("75");
  await plan.page.goto(`/projects/${id}/sharing`);
  await plan.page.getByLabel("Role of Oona Reilly").selectOption("None");
  await plan.page.getByRole("button", { name: "Save roles" }).click();
  await expect(plan.page.getByRole("status")).toContainText("Oona Reilly now has no access.");
  await oona.page.keyboard.press("Enter");
  await expect(oona.problem).toContainText("There is no such project, or you have no part in it any more.");
  await oona.cell("Sand the deck", "state").click();
  await oona.page.keyboard.press("F2");
  await expect(oona.page.locator("input.editor")).toHaveValue("75");
  await oona.page.goto(`/projects/${id}`);
  await expect(oona.page.getByRole("heading", { name: "There is no such page" })).toBeVisible();
});

test("who else is there is shown, and what they do arrives while one types and drags nothing away", async ({
  plan,
  browser,
  url,
}) => {
  const id = await plan.bringIn(pontoon);
  const tomas = await as(browser, url, "Tomas Lindqvist", `/projects/${id}`);
  await tomas.ready();
  await expect(plan.page.getByRole("img", { name: "Also here: Tomas Lindqvist" })).toBeVisible();
  await tomas.cell("Paint the deck", "name").click();
  await expect(plan.page.locator(".here-badge[data-on=paint]", { hasText: "TL" })).toBeVisible();
  const oona = await as(browser, url, "Oona Reilly", `/projects/${id}`);
  await oona.ready();
  await oona.cell("Paint the deck", "name").click();
  await expect(plan.page.locator(".here-badge[data-on=paint]")).toHaveText(/^(TL|OR) \+1$/);
  await expect(plan.page.locator(".here-badge[data-on=paint]")).toHaveAttribute("title", /Tomas Lindqvist.* are here/);
  await oona.page.close();
  await expect(plan.page.locator(".here-badge[data-on=paint]")).toHaveText("TL");

  // Somebody's comment comes to the open card, with its half-typed answer left alone.
  await plan.cell("Paint the deck", "name").click();
  await plan.page.getByRole("button", { name: "Card" }).click();
  const answer = plan.page.getByRole("textbox", { name: "Comment" });
  await answer.fill("Half an ans");
  const said = await tomas.page.request.post(`/api/v1/projects/${id}/tasks/paint/comments`, {
    data: { text: `@Imke ${HOSTILE}` },
    headers: await pageToken(tomas.page),
  });
  expect(said.ok()).toBe(true);
  await expect(plan.page.getByText(HOSTILE)).toBeVisible();
  await expect(answer).toHaveValue("Half an ans");
  await expect(plan.page.locator("#notices-count")).toHaveText(/[1-9]/);
  await tomas.page.request.post(`/api/v1/projects/${id}/edits`, {
    data: { id: crypto.randomUUID(), baseVersion: 1, edit: { type: "reportProgress", task: "paint", progress: 0.5 } },
    headers: await pageToken(tomas.page),
  });
  await expect(plan.strip).toContainText("Tomas Lindqvist: Paint the deck is 50% done");
  await expect(answer).toHaveValue("Half an ans");
  await expect(answer).toBeFocused();
  expect(await plan.page.title()).not.toContain("owned");
  await tomas.page.close();
  await expect(plan.page.getByRole("img", { name: /Also here/ })).toBeHidden();
});

test("hostile names and files are shown as what they are, and nothing in them runs", async ({ plan }) => {
  const { page } = plan;
  await page.goto("/people/new");
  await page.getByLabel("Name").fill(HOSTILE);
  await page.getByRole("button", { name: "Add person" }).click();
  await expect(page.getByRole("heading", { name: HOSTILE })).toBeVisible();
  await page.goto("/people");
  await expect(page.getByRole("link", { name: HOSTILE })).toBeVisible();
  await plan.bringIn({
    ...pontoon,
    tasks: [{ id: "x", name: `${HOSTILE}</script><script>document.title='owned'</script>`, length: "1d" }],
    links: [],
  });
  await plan.cell(`${HOSTILE}</script><script>document.title='owned'</script>`, "owner").click();
  await page.keyboard.press("F2");
  await page.keyboard.type(HOSTILE);
  await page.keyboard.press("Enter");
  await expect(plan.strip).toContainText(HOSTILE);
  await plan.cell(`${HOSTILE}</script><script>document.title='owned'</script>`, "name").click();
  await page.getByRole("button", { name: "Card" }).click();
  const add = page.getByLabel("Add a file");
  const problem = page.locator("#card").getByRole("alert").filter({ hasText: /\S/ });
  const script = Buffer.from("<svg xmlns='http://www.w3.org/2000/svg'><script>document.title='owned'</script></svg>");
  for (const [name, buffer] of /** @type {[string, Buffer][]} */ ([
    ["page.html", Buffer.from("<script>document.title='owned'</script>")],
    ["picture.svg", script],
    ["picture.png", script],
    ["archive.zip", Buffer.from("PK\u0003\u0004 and more", "latin1")],
    ["run.exe", Buffer.from("MZ\u0090\u0000", "latin1")],
  ])) {
    await add.setInputFiles({ name, mimeType: "application/octet-stream", buffer });
    await expect(problem, name).toBeVisible();
    await expect(page.locator("#card .files li"), name).toHaveCount(0);
  }
  await add.setInputFiles({
    name: "..\\..\\etc\\<b>notes.txt",
    mimeType: "text/plain",
    buffer: Buffer.from("<script>document.title='owned'</script>"),
  });
  const link = page.locator("#card .files a");
  await expect(link).toHaveCount(1);
  const served = await page.request.get((await link.getAttribute("href")) ?? "");
  expect(served.headers()["content-security-policy"]).toContain("sandbox");
  expect(served.headers()["content-disposition"]).toMatch(/^attachment/);
  expect(served.headers()["x-content-type-options"]).toBe("nosniff");
  expect(served.headers()["content-type"]).toContain("text/plain");
  await page.goto("/my-week");
  expect(await page.title()).not.toContain("owned");
});

test("a mention is offered while one types it", async ({ plan }) => {
  await plan.bringIn(pontoon);
  await plan.cell("Sand the deck", "name").click();
  await plan.page.getByRole("button", { name: "Card" }).click();
  const comment = plan.page.getByRole("textbox", { name: "Comment" });
  await comment.pressSequentially("Ask @oo");
  await plan.page.getByRole("button", { name: "@Oona Reilly" }).click();
  await expect(comment).toHaveValue("Ask @Oona Reilly ");
  await expect(comment).toBeFocused();
});

test("a second person is asked for once: shorter, or more effort; the task remembers", async ({ plan }) => {
  await plan.bringIn(pontoon);
  await plan.cell("Sand the deck", "name").click();
  await plan.page.getByRole("button", { name: "Card" }).click();
  const helper = plan.page.getByLabel("Add a helper");
  await helper.fill("Tomas Lindqvist");
  await helper.press("Enter");
  await plan.page.getByRole("button", { name: "It gets shorter" }).click();
  await expect(plan.strip).toContainText("With 2 people it takes 2 days instead of 4 days.");
  await expect(plan.cell("Sand the deck", "length")).toHaveText("2d");
  await expect(plan.page.getByText("Effort: 32 h")).toBeVisible();
  // The effort is what it was: that the card knows of the helper, and of the answer, is seen by their row.
  await expect(plan.page.getByRole("button", { name: "Take off Tomas Lindqvist" })).toBeVisible();
  await helper.fill("Wanda Coles");
  await helper.press("Enter");
  await expect(plan.strip).toContainText("With 3 people");
  await plan.page.getByRole("button", { name: "Take off Wanda Coles" }).click();
  await expect(plan.cell("Sand the deck", "length")).toHaveText("2d");
  await plan.page.getByLabel("Tomas Lindqvist: share of their time").fill("0 %");
  await plan.page.keyboard.press("Enter");
  await expect(plan.page.getByText("Type a part of their time from 1 to 100%.")).toBeVisible();
});

test("a link shows a plan to somebody without an account, and nothing of it can be changed", async ({
  plan,
  browser,
  url,
}) => {
  const id = await plan.bringIn({ ...pontoon, project: { ...pontoon.project, name: HOSTILE } });
  const { page } = plan;
  await page.goto(`/projects/${id}/sharing`);
  await expectAccessible(page, "sharing");
  await page.getByLabel("For whom").fill(HOSTILE);
  await page.getByRole("button", { name: "Create link" }).click();
  const link = (await page.locator("code.secret").textContent()) ?? "";
  const stranger = await (await browser.newContext({ storageState: { cookies: [], origins: [] } })).newPage();
  await stranger.goto(link);
  const shared = new PlanScreen(stranger, url);
  await shared.ready();
  await expect(shared.row("Sand the deck")).toBeVisible();
  await expect(stranger.getByRole("columnheader", { name: "Length" })).toHaveCount(0);
  await expect(shared.newTask).toBeHidden();
  await shared.cell("Sand the deck", "name").click();
  await stranger.keyboard.press("F2");
  await expect(shared.strip).toContainText("by a link");
  await expectAccessible(stranger, "a shared plan");
  await stranger.getByRole("link", { name: "Month" }).click();
  await expect(stranger.getByText("Sand the deck").first()).toBeVisible();
  expect(await stranger.title()).toContain("<img");

  await stranger.getByRole("link", { name: "Report" }).click();
  await expect(stranger.getByRole("heading", { name: "In the next two weeks" })).toBeVisible();
  await expectAccessible(stranger, "a shared report");

  await page.getByRole("button", { name: /^Withdraw the link/ }).click();
  await stranger.goto(link);
  await expect(stranger.getByRole("heading", { name: "This link does not open" })).toBeVisible();
  await expectAccessible(stranger, "a withdrawn link");
});

test("my week on a phone: tick, hours, comment, and can't make it tells the coordinator what it would move", async ({
  plan,
  browser,
  url,
}) => {
  const id = await plan.bringIn({ ...pontoon, project: { name: "Phone", start: "2027-05-13" } });
  const { page } = await as(browser, url, "Oona Reilly", "/my-week", { viewport: { width: 390, height: 844 } });
  const task = page.getByRole("listitem").filter({ hasText: "Sand the deck" }).filter({ hasText: "Phone" });
  await expect(task).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await task.getByText("Report on Sand the deck").click();
  await task.getByLabel("Done in %").fill("25");
  await task.getByLabel("Done in %").press("Enter");
  await expect(page.locator("#week-said")).toContainText("Sand the deck is 25% done");
  await task.getByLabel("Hours worked today").fill("30");
  await task.getByLabel("Hours worked today").press("Enter");
  await expect(task.getByRole("alert")).toContainText("A day has 0 to 24 hours");
  await task.getByLabel("Hours worked today").fill("2.5");
  await task.getByLabel("Hours worked today").press("Enter");
  await expect(page.locator("#week-said")).toContainText("2.5 hours worked today");
  await task.getByRole("textbox", { name: "Comment" }).fill("Sandpaper is out");
  await task.getByRole("button", { name: "Add the comment" }).click();
  await expect(page.locator("#week-said")).toContainText("Your comment is on the task");
  await expectAccessible(page, "my week");
  await page.goto("/my-week?from=2027-05-17");
  await expect(page.getByRole("heading", { name: "My week" })).toBeVisible();

  // Tomas has not begun: he can't make it.
  const tomas = await as(browser, url, "Tomas Lindqvist", "/my-week?from=2027-05-17");
  const paint = tomas.page.getByRole("listitem").filter({ hasText: "Paint the deck" }).filter({ hasText: "Phone" });
  await paint.getByText("Report on Paint the deck").click();
  await paint.getByLabel("I could start on").fill("2027-05-26");
  await paint.getByLabel("because").fill("The compressor is away");
  await paint.getByRole("button", { name: "See what it would move" }).click();
  await expect(paint.getByRole("status")).toContainText("26 May");
  await paint.getByRole("button", { name: "Tell the coordinator" }).click();
  await expect(tomas.page.locator("#week-said")).toContainText("The coordinator is told");
  await plan.page.goto(`/projects/${id}`);
  await plan.ready();
  await plan.page.getByRole("button", { name: "1 proposal" }).click();
  await expect(plan.page.getByRole("dialog", { name: "Proposals" })).toContainText("The compressor is away");
});

test("the first person invites a second, who comes in by the mailed link", async ({ page, browser, url }) => {
  await page.goto("/people/new");
  await page.getByLabel("Name").fill("Nell Harbour");
  await page.getByLabel("Mail address").fill("nell at quay");
  await page.getByRole("button", { name: "Add person" }).click();
  await expect(page.getByText("“nell at quay” is no mail address")).toBeVisible();
  await page.getByLabel("Mail address").fill("nell@quay.example");
  await page.getByRole("button", { name: "Add person" }).click();
  await page.getByRole("button", { name: "Send invitation" }).click();
  await expect(page.getByText("The invitation is on its way by mail")).toBeVisible();
  await page.goto("/post");
  await expect(async () => {
    await page.reload();
    await expect(page.getByRole("article").filter({ hasText: "nell@quay.example" })).toBeVisible({ timeout: 500 });
  }).toPass();
  await expectAccessible(page, "post tray");
  const letter = (await page.locator("article", { hasText: "nell@quay.example" }).first().textContent()) ?? "";
  const link = /\/invitation\/\S+/.exec(letter)?.[0] ?? "";
  const nell = await (await browser.newContext({ baseURL: url, storageState: { cookies: [], origins: [] } })).newPage();
  await nell.goto(link);
  await expectAccessible(nell, "an invitation");
  await nell.getByLabel("Password", { exact: true }).fill("oars and rowlocks");
  await nell.getByLabel("Repeat password").fill("oars and rowlocks");
  await nell.getByRole("button", { name: "Create account" }).click();
  await expect(nell.getByText("No project is shared with you yet")).toBeVisible();
});

for (const scheme of /** @type {const} */ (["light", "dark"]))
  test(`pages about people have no accessibility violations in ${scheme}`, async ({ page, browser, url }) => {
    test.slow();
    await page.emulateMedia({ colorScheme: scheme });
    for (const path of [
      "/",
      "/people",
      "/people/tomas",
      "/people/import",
      "/account",
      "/notices",
      "/my-week",
      "/post",
    ]) {
      await page.goto(path);
      await expectAccessible(page, path);
    }
    const stranger = await (
      await browser.newContext({ baseURL: url, colorScheme: scheme, storageState: { cookies: [], origins: [] } })
    ).newPage();
    for (const path of ["/sign-in", "/forgot", "/invitation/none", "/reset/none/none"]) {
      await stranger.goto(path);
      await expectAccessible(stranger, path);
    }
  });
