// @ts-check
// All projects with their folders, milestones that gather what serves them, reminders, and the outline as a tree.

import { expectAccessible } from "./accessible.mjs";
import { expect, test } from "./app.mjs";

const fair = (/** @type {string} */ name) => ({
  format: "auxilium-plan/1",
  project: { name, start: "2027-05-10", coordinator: "imke" },
  people: [
    { id: "imke", name: "Imke Varga", initials: "IV" },
    { id: "wanda", name: "Wanda Coles", initials: "WC" },
  ],
  tasks: [
    { id: "site", name: "Site" },
    { id: "fence", name: "Fence", parent: "site", length: "2d", assignments: [{ person: "wanda" }] },
    { id: "power", name: "Power", parent: "site", length: "1d" },
    { id: "stalls", name: "Book stalls", length: "3d", assignments: [{ person: "imke" }] },
    {
      id: "permit",
      name: "Permit granted",
      milestone: true,
      deliveredBy: "Town council",
      pinned: { start: "2027-05-28" },
    },
  ],
});

test("folders, favourites and status by keyboard, each told and taken back", async ({ page, plan }) => {
  await plan.bringIn(fair("Harbour fair"));
  await page.goto("/projects");
  await plan.ready();
  const said = page.locator("#projects-said");
  await page.getByText("New folder", { exact: true }).press("Enter");
  const form = page.locator('form[data-act="make-folder"]');
  await form.getByLabel("Name").press("Enter");
  await expect(form.getByRole("alert")).toContainText("A folder needs a name");
  await expect(form.getByLabel("Name")).toBeFocused();
  await page.keyboard.type("Fairs");
  await page.keyboard.press("Enter");
  await expect(said).toHaveText("The folder Fairs is there.");

  const menu = page.getByLabel("Folder and status of Harbour fair");
  await menu.press("Enter");
  await page
    .locator('[data-project]:has-text("Harbour fair")')
    .getByRole("combobox", { name: "Folder" })
    .selectOption("Fairs");
  await expect(said).toHaveText("Harbour fair is in Fairs.");
  const folder = page.getByRole("region", { name: "Fairs" });
  await expect(folder.getByRole("link", { name: "Harbour fair", exact: true })).toBeVisible();
  // The focus stays with the project.
  await expect(page.getByLabel("Folder and status of Harbour fair")).toBeFocused();
  await page.getByRole("button", { name: "Undo" }).press("Enter");
  await expect(said).toHaveText("Harbour fair is in no folder.");
  await menu.press("Enter");
  await page
    .locator('[data-project]:has-text("Harbour fair")')
    .getByRole("combobox", { name: "Folder" })
    .selectOption("Fairs");
  await expect(said).toHaveText("Harbour fair is in Fairs.");

  await folder.getByRole("button", { name: "Favourite: Harbour fair" }).press("Space");
  await expect(
    page.getByRole("region", { name: "Favourites" }).getByRole("link", { name: "Harbour fair" }),
  ).toBeVisible();
  await page.getByRole("button", { name: "Favourite: Harbour fair" }).press("Space");
  await expect(page.getByRole("region", { name: "Favourites" })).toHaveCount(0);

  await page.getByLabel("Folder and status of Harbour fair").press("Enter");
  await page
    .locator('[data-project]:has-text("Harbour fair")')
    .getByRole("combobox", { name: "Status" })
    .selectOption("on hold");
  await expect(said).toContainText("The project is on hold.");
  await expect(folder).toContainText("On hold");
  await page.getByRole("button", { name: "Undo" }).press("Enter");
  await expect(said).toContainText("Taken back: The project is on hold.");
  await expect(folder).toContainText("Active");

  // A folder in another one, closed and deleted: its projects stay.
  await page.getByLabel("Change the folder Fairs").press("Enter");
  await folder.getByRole("combobox", { name: "In" }).selectOption("House and grounds");
  await folder.getByRole("button", { name: "Save" }).press("Enter");
  const outer = page.getByRole("region", { name: "House and grounds" });
  await expect(outer.getByRole("region", { name: "Fairs" })).toBeVisible();
  const kept = page.waitForResponse("**/folded");
  await outer.getByRole("button", { name: "House and grounds" }).press("Enter");
  await kept;
  await expect(outer.getByRole("link", { name: "Harbour fair", exact: true })).toBeHidden();
  await page.reload();
  await plan.ready();
  await expect(outer.getByRole("link", { name: "Harbour fair", exact: true })).toBeHidden();
  await outer.getByRole("button", { name: "House and grounds" }).press("Enter");
  await page.getByLabel("Change the folder Fairs").press("Enter");
  await page.getByRole("button", { name: "Delete folder" }).and(page.locator(":visible")).press("Enter");
  await expect(said).toHaveText("The folder Fairs is deleted. Its projects stay.");
  await expect(outer.getByRole("link", { name: "Harbour fair", exact: true })).toBeVisible();
});

test("a project is dragged into a folder, and each look is accessible", async ({ page, plan }) => {
  await plan.bringIn(fair("River fair"));
  // Nothing scrolls while it is dragged.
  await page.setViewportSize({ width: 1280, height: 1800 });
  await page.goto("/projects");
  await plan.ready();
  const project = page.locator('[data-project]:has-text("River fair")').first();
  await project.dragTo(page.getByRole("region", { name: "Events and campaigns" }), {
    targetPosition: { x: 200, y: 14 },
  });
  await expect(page.locator("#projects-said")).toHaveText("River fair is in Events and campaigns.");
  const cards = page.getByRole("region", { name: "Events and campaigns" });
  await expect(cards.getByRole("link", { name: "River fair", exact: true })).toBeVisible();
  await expectAccessible(page, "projects as cards");
  await page.getByRole("button", { name: "Table" }).click();
  await expect(page.getByRole("columnheader", { name: "Chance" }).first()).toBeVisible();
  await page.getByRole("columnheader", { name: "Finish" }).first().getByRole("button").click();
  await expect(page.getByRole("columnheader", { name: "Finish" }).first()).toHaveAttribute("aria-sort", "ascending");
  await expectAccessible(page, "projects as a table");
  await page.getByRole("button", { name: "Timeline" }).click();
  await expect(
    page
      .getByRole("group", { name: "Milestones of River fair" })
      .getByRole("link", { name: /^Permit granted, Fri 28 May, delivered by Town council/ }),
  ).toBeVisible();
  await expectAccessible(page, "projects on a timeline");
  await page.emulateMedia({ colorScheme: "dark" });
  await expectAccessible(page, "projects on a timeline");
  await page.getByRole("button", { name: "Cards" }).click();
  await expectAccessible(page, "projects as cards");
  // A count opens just those tasks, and what was looked at before stays remembered.
  await page.locator('[data-project]:has-text("River fair")').getByRole("link", { name: "3 overdue" }).click();
  await plan.ready();
  await expect(plan.row("Power")).toBeVisible();
  await expect(page.getByRole("rowheader", { name: /^Permit granted/ })).toHaveCount(0);
  await expect(page.locator("#view-words")).toContainText("overdue", { ignoreCase: true });
  await page.goto(page.url().replace(/\?.*/, ""));
  await plan.ready();
  await expect(page.getByRole("rowheader", { name: /^Permit granted/ })).toBeVisible();
});

test("tasks serve a milestone, which says how many are left, and are linked to it", async ({ page, plan }) => {
  await plan.bringIn(fair("Quay fair"));
  await plan.cell("Book stalls", "name").click();
  await page.keyboard.press("Alt+Enter");
  const card = page.getByRole("complementary", { name: /Book stalls/ });
  await card.getByLabel("Serves").fill("Fence");
  await card.getByLabel("Serves").press("Enter");
  await expect(card.getByRole("alert").filter({ hasText: "“Fence” is not a milestone" })).toBeVisible();
  await card.getByLabel("Serves").fill("permit granted");
  await card.getByLabel("Serves").press("Enter");
  await expect(plan.strip).toContainText("Book stalls serves the milestone Permit granted.");
  await expect(plan.bar("Permit granted")).toContainText("28 May · 1 left");
  await card.getByRole("button", { name: "Link it to Permit granted" }).press("Enter");
  await expect(plan.strip).toContainText("Permit granted");
  await expect(card.getByRole("button", { name: "Link it to Permit granted" })).toHaveCount(0);

  // A reminder, with what is wrong told where it was typed.
  await card.getByLabel("Days before").fill("soon");
  await card.getByRole("button", { name: "Add the reminder" }).press("Enter");
  await expect(card.getByText("Type how many days before")).toBeVisible();
  await card.getByLabel("Days before").fill("3");
  await card.getByLabel("Whom to remind").selectOption("Wanda Coles");
  await card.getByRole("button", { name: "Add the reminder" }).press("Enter");
  await expect(plan.strip).toContainText("Reminders of Book stalls: 3 days before the start.");
  await expect(card).toContainText("3 days before the start: Wanda Coles");
  await expectAccessible(page, "card with reminders");
  await page.getByRole("button", { name: "Close the card" }).press("Enter");
  await expect(card).toBeHidden();

  // A row is dragged onto the pennant; what is inside a phase serves what the phase does.
  const from = await plan.cell("Site", "no").boundingBox();
  const to = await plan.bar("Permit granted").locator(".pennant").boundingBox();
  if (!from || !to) throw new Error("Nothing to drag.");
  await page.mouse.move(from.x + 8, from.y + 12);
  await page.mouse.down();
  await page.mouse.move(to.x + 3, to.y + 20, { steps: 8 });
  await page.mouse.move(to.x + 3, to.y + 5, { steps: 3 });
  await page.mouse.up();
  await expect(plan.strip).toContainText("Site serves the milestone Permit granted.");
  await expect(plan.bar("Permit granted")).toContainText("28 May · 3 left");

  // Grouped by milestone, a row is dragged into the group of none.
  await page.getByRole("button", { name: "View…" }).click();
  await page.getByLabel("Group by").selectOption("Serves");
  await page.getByRole("button", { name: "View…" }).click();
  await expect(page.locator('.list-row[aria-rowindex="2"]')).toContainText("Permit granted, 3 left (4)");
  await plan.cell("Book stalls", "name").click();
  await page.keyboard.press("Alt+Enter");
  await page
    .getByRole("complementary", { name: /Book stalls/ })
    .getByLabel("Serves")
    .fill("");
  await page
    .getByRole("complementary", { name: /Book stalls/ })
    .getByLabel("Serves")
    .press("Enter");
  await page.keyboard.press("Escape");
  await expect(page.locator('.list-row[aria-rowindex="2"]')).toContainText("Permit granted, 2 left (3)");
  const row = await plan.cell("Book stalls", "no").boundingBox();
  const group = await page.locator('.list-row[aria-rowindex="2"]').boundingBox();
  if (!row || !group) throw new Error("Nothing to drag.");
  await page.mouse.move(row.x + 8, row.y + 12);
  await page.mouse.down();
  await page.mouse.move(group.x + 120, group.y + 40, { steps: 8 });
  await page.mouse.up();
  await expect(page.locator('.list-row[aria-rowindex="2"]')).toContainText("Permit granted, 3 left (4)");
});

test("the outline is a tree that is gone along, folded and opened by keyboard", async ({ page, plan }) => {
  const id = await plan.bringIn(fair("Lock fair"));
  await page.goto(`/projects/${id}/outline`);
  await plan.ready();
  const box = (/** @type {string} */ name) => page.getByRole("treeitem", { name: new RegExp(name) });
  await expect(page.getByRole("treeitem")).toHaveCount(6);
  await expect(box("Site")).toContainText("24h");
  await expect(page.locator("#outline .outside-shape")).toHaveCount(1);
  await expectAccessible(page, "outline");
  await box("Lock fair").focus();
  await page.keyboard.press("ArrowRight");
  await expect(box("Site")).toBeFocused();
  await page.keyboard.press("ArrowRight");
  await expect(box("Fence")).toBeFocused();
  await page.keyboard.press("ArrowDown");
  await expect(box("Power")).toBeFocused();
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("Space");
  await expect(page.getByRole("treeitem")).toHaveCount(4);
  await expect(box("Site")).toHaveAttribute("aria-expanded", "false");
  await page.keyboard.press("Space");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("complementary", { name: /Book stalls/ })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Top down" }).press("Enter");
  await expect(page.getByRole("button", { name: "Top down" })).toHaveAttribute("aria-pressed", "true");
  const [site, fence] = await Promise.all([box("Site").boundingBox(), box("Fence").boundingBox()]);
  expect(Number(fence?.y)).toBeGreaterThan(Number(site?.y) + 40);
  await page.emulateMedia({ colorScheme: "dark" });
  await expectAccessible(page, "outline");
  // Others mark what others deliver, too.
  await page.goto(`/projects/${id}/lanes`);
  await plan.ready();
  await expect(page.locator("#lanes").getByRole("img", { name: "Delivered by Town council" })).toBeVisible();
  await page.goto(`/projects/${id}/chains`);
  await plan.ready();
  await expect(page.locator("#chains .outside-shape")).toHaveCount(1);
  await page.goto(`/projects/${id}/month`);
  await plan.ready();
  await expect(page.locator("#month").getByRole("img", { name: "Delivered by Town council" })).toBeVisible();
});
