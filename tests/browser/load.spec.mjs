// @ts-check
// Load: who has too much to do, the ways out of it, and levelling; by mouse and by keyboard.
import { expectAccessible } from "./accessible.mjs";
import { expect, test } from "./app.mjs";

/** @param {string} name @param {string} who */
const fair = (name, who) => ({
  format: "auxilium-plan/1",
  project: { name, start: "2027-05-17" },
  people: [
    { id: who.toLowerCase(), name: `${who} Sole` },
    { id: `${who.toLowerCase()}-friend`, name: `Friend of ${who}` },
  ],
  tasks: [
    { id: "sign", name: "Paint the sign", length: "1d", assignments: [{ person: who.toLowerCase() }] },
    { id: "cake", name: "Bake", length: "2d", assignments: [{ person: who.toLowerCase() }] },
    {
      id: "speech",
      name: "Write the speech",
      length: "4d",
      assignments: [{ person: `${who.toLowerCase()}-friend`, share: 0.25 }],
    },
  ],
});

test("whoever has too much to do is found, two ways out are looked at, and one is taken", async ({ page, plan }) => {
  await plan.bringIn(fair("Spring fair", "Dora"));
  await page.getByRole("link", { name: "Load", exact: true }).last().click();
  await expect(page.getByRole("status").first()).toContainText("Dora Sole is overbooked on 1 day.");
  const grid = page.getByRole("grid", { name: "Load" });
  const monday = grid.getByRole("gridcell", { name: "Dora Sole, Mon 17 May: 16 of 8 h, overbooked by 8 h" });
  await expect(monday).toContainText("8 over");
  await monday.click();
  const side = page.getByRole("complementary", { name: "The chosen day" });
  await expect(side).toContainText("16 of 8 h: overbooked by 8 h.");
  await side.getByRole("button", { name: "Ways out by changing Paint the sign" }).click();
  await expect(side.getByText("Start on Wed 19 May")).toBeVisible();
  await side.getByRole("button", { name: "Ways out by changing Bake" }).click();
  await expect(side).toContainText("Dora Sole overbooked by 0 h instead of 8 h.");
  await expectAccessible(page, "Load with ways out");
  await side.getByRole("button", { name: "Accept: Start on Tue 18 May" }).click();
  await expect(page.locator("#strip-text")).toContainText("Levelling delays Bake until Tue 18 May.");
  await expect(page.getByRole("status").first()).toContainText("Nobody is overbooked.");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("status").first()).toContainText("Dora Sole is overbooked on 1 day.");
});

test("a task is dragged to another day and to somebody else, and says before it is let go what that does", async ({
  page,
  plan,
}) => {
  await plan.bringIn(fair("Summer fair", "Elke"));
  await page.getByRole("link", { name: "Load", exact: true }).last().click();
  const grid = page.getByRole("grid", { name: "Load" });
  await grid.getByRole("rowheader", { name: /^Elke Sole/ }).click();
  const bar = grid.getByRole("row", { name: /Bake/ }).locator(".load-bar");
  const at = await bar.boundingBox();
  if (!at) throw new Error("There is no bar.");
  await page.mouse.move(at.x + 20, at.y + 10);
  await page.mouse.down();
  await page.mouse.move(at.x + 20 + 58, at.y + 12, { steps: 4 });
  await expect(page.locator("#strip-text")).toContainText("If you let go: Bake goes not before Tue 18 May.");
  await expect(page.locator("#strip-text")).toContainText("Elke Sole would be overbooked on 0 days instead of 1.");
  await expect(grid.getByRole("gridcell", { name: "Elke Sole, Mon 17 May: 8 of 8 h" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.locator("#strip-text")).toContainText("Nothing changed.");
  await page.mouse.up();
  const friend = await grid.getByRole("rowheader", { name: /^Friend of Elke/ }).boundingBox();
  if (!friend) throw new Error("The friend has no row.");
  await page.mouse.move(at.x + 20, at.y + 10);
  await page.mouse.down();
  await page.mouse.move(at.x + 20, friend.y + 12, { steps: 4 });
  await expect(page.locator("#strip-text")).toContainText("Friend of Elke");
  await page.mouse.up();
  await expect(grid.getByRole("gridcell", { name: /^Elke Sole, Mon 17 May: 8 of 8 h/ })).toBeVisible();
});

test("a helper's bar dragged to somebody else hands over the help, and the task keeps its owner", async ({
  page,
  plan,
}) => {
  const made = fair("Harvest fair", "Ilse");
  made.people.push({ id: "ilse-cousin", name: "Cousin of Ilse" });
  made.tasks.push({
    id: "stall",
    name: "Build the stall",
    length: "2d",
    assignments: [
      { person: "ilse-cousin", share: 1 },
      { person: "ilse-friend", share: 0.5 },
    ],
  });
  await plan.bringIn(made);
  await page.getByRole("link", { name: "Load", exact: true }).last().click();
  const grid = page.getByRole("grid", { name: "Load" });
  await grid.getByRole("rowheader", { name: /^Friend of Ilse/ }).click();
  const at = await grid
    .getByRole("row", { name: /Build the stall/ })
    .locator(".load-bar")
    .boundingBox();
  const other = await grid.getByRole("rowheader", { name: /^Ilse Sole/ }).boundingBox();
  if (!at || !other) throw new Error("There is no bar, or nobody to give it to.");
  await page.mouse.move(at.x + 20, at.y + 10);
  await page.mouse.down();
  await page.mouse.move(at.x + 20, other.y + 12, { steps: 4 });
  await expect(page.locator("#strip-text")).toContainText("If you let go:");
  await page.mouse.up();
  await expect(grid.getByRole("gridcell", { name: /^Ilse Sole, Mon 17 May: 20 of 8 h/ })).toBeVisible();
  await expect(grid.getByRole("gridcell", { name: /^Cousin of Ilse, Mon 17 May: 8 of 8 h/ })).toBeVisible();
});

test("the Plan marks owners who have too much to do, says who is free, and shows load under the timeline", async ({
  page,
  plan,
}) => {
  await plan.bringIn(fair("Winter fair", "Gesa"));
  await expect(plan.cell("Bake", "owner").getByRole("img")).toHaveAccessibleName(
    "Gesa Sole: Gesa Sole is overbooked on a day while it is on",
  );
  await plan.cell("Bake", "owner").click();
  await page.keyboard.press("F2");
  await expect(page.locator('#people option[value="Friend of Gesa"]')).toHaveAttribute(
    "label",
    "Friend of Gesa: 12 h free then",
  );
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Card" }).click();
  await expect(page.getByText("Gesa Sole is overbooked on a day while it is on.")).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("/");
  await page.keyboard.type("Load under");
  await page.keyboard.press("Enter");
  const load = page.getByRole("region", { name: "Load under the timeline" });
  await expect(load.getByRole("img")).toHaveAccessibleName(
    "Load of Gesa Sole. Overbooked on 1 day, first Mon 17 May: 16 of 8 h.",
  );
  // What is too much stands under its day, and goes along with it.
  const flag = load.locator(".flag");
  const bar = await plan.bar("Bake").boundingBox();
  const at = await flag.boundingBox();
  if (!bar || !at) throw new Error("There is no bar or no flag.");
  expect(Math.abs(at.x + at.width / 2 - (bar.x + bar.width / 4))).toBeLessThan(6);
  await page.getByRole("button", { name: "Days", exact: true }).click();
  await expect.poll(async () => (await flag.boundingBox())?.x !== at.x).toBe(true);
  await expectAccessible(page, "load under the timeline");
  await load.getByRole("button", { name: "Close the load" }).click();
  await expect(load).toBeHidden();
});

test("by keyboard: a day is chosen, the plan is levelled in part and whole, and released", async ({ page, plan }) => {
  const plans = fair("Autumn fair", "Flora");
  plans.tasks.push({ id: "flags", name: "Hang flags", length: "1d", assignments: [{ person: "flora" }] });
  await plan.bringIn(plans);
  await page.getByRole("link", { name: "Load", exact: true }).last().press("Enter");
  const grid = page.getByRole("grid", { name: "Load" });
  await expectAccessible(page, "Load");
  const name = grid.getByRole("rowheader", { name: /^Flora Sole/ });
  await name.focus();
  await page.keyboard.press("Enter");
  await expect(grid.getByRole("rowheader", { name: "Hang flags" })).toBeVisible();
  await page.keyboard.press("ArrowDown");
  await expect(grid.getByRole("rowheader", { name: "Paint the sign" })).toBeFocused();
  // A day later, and back.
  await page.keyboard.press("Shift+ArrowRight");
  await expect(page.locator("#strip-text")).toContainText("Paint the sign goes not before Tue 18 May.");
  await page.getByRole("button", { name: "Undo" }).press("Enter");
  await expect(grid.getByRole("gridcell", { name: /^Flora Sole, Mon 17 May: 24 of 8 h/ })).toBeVisible();
  await page.getByRole("button", { name: "Level…" }).press("Enter");
  const dialog = page.getByRole("dialog", { name: "Level" });
  await expect(dialog.getByRole("checkbox", { name: /^Flora Sole \(overbooked/ })).toBeChecked();
  await dialog.getByRole("button", { name: "Find a proposal" }).press("Enter");
  await expect(dialog.getByText(/16 h are overbooked, and none would be. 2 tasks move/)).toBeVisible();
  await expectAccessible(page, "Level");
  const boxes = dialog.getByRole("checkbox", { name: /^Delay / });
  await expect(boxes).toHaveCount(2);
  await boxes.first().focus();
  await page.keyboard.press("Space");
  await expect(dialog.getByRole("button", { name: "Accept 1 of 2" })).toBeVisible();
  await boxes.first().press("Space");
  await dialog.getByRole("button", { name: "Accept all 2" }).press("Enter");
  await expect(dialog).toHaveCount(0);
  await expect(page.getByRole("status").first()).toContainText("Nobody is overbooked.");
  await page.getByRole("button", { name: "Level…" }).press("Enter");
  await dialog.getByRole("button", { name: "Release levelling" }).press("Enter");
  await expect(page.locator("#strip-text")).toContainText("Levelling no longer delays");
  await expect(page.getByRole("status").first()).toContainText("Flora Sole is overbooked on");
});

test("everybody’s load stands on one page, in days, weeks and months, in both themes and on a small screen", async ({
  page,
}) => {
  await page.goto("/load");
  const grid = page.getByRole("grid", { name: "Load" });
  await expect(grid.getByRole("rowheader", { name: /^Workshop/ })).toBeVisible();
  for (const scale of ["Weeks", "Months"]) {
    await page.getByRole("button", { name: scale }).click();
    await expect(page.getByRole("button", { name: scale })).toHaveAttribute("aria-pressed", "true");
    await expect(grid.getByRole("gridcell", { name: /: [\d.]+ of [\d.]+ h/ }).first()).toBeVisible();
  }
  await page.getByLabel("Who").selectOption("team Workshop");
  await expect(grid.getByRole("rowheader", { name: /^Crew/ })).toHaveCount(0);
  await page.emulateMedia({ colorScheme: "dark" });
  await expectAccessible(page, "Load, dark");
  await page.emulateMedia({ colorScheme: "light" });
  await page.setViewportSize({ width: 390, height: 844 });
  await expectAccessible(page, "Load on a small screen");
});
