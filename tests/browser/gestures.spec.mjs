// @ts-check
/** @import { Page, Locator } from "@playwright/test" */
import { test, expect } from "./app.mjs";

const DAY = 16; // pixels at the scale of weeks

const plan3 = {
  format: "auxilium-plan/1",
  project: { name: "Gestures", start: "2027-05-03" },
  tasks: [
    { id: "p", name: "Phase" },
    { id: "a", name: "Workshop", parent: "p", length: "5d" },
    { id: "b", name: "Rig", parent: "p", length: "2d" },
    { id: "c", name: "Radios", length: "4d" },
    { id: "d", name: "Posters", length: "1d" },
  ],
};

/**
 * Presses at one point and lets go at another, looking in between.
 * @param {Page} page
 * @param {{ x: number, y: number }} from
 * @param {{ x: number, y: number }} to
 * @param {() => Promise<void>} [held]
 */
async function drag(page, from, to, held) {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 3 });
  await page.mouse.move(to.x, to.y, { steps: 3 });
  await held?.();
  await page.mouse.up();
}

/** @param {Locator} of @param {number} share of its width @param {number} [more] pixels */
async function point(of, share, more = 0) {
  const box = await of.boundingBox();
  if (!box) throw new Error("It is not drawn.");
  return { x: box.x + box.width * share + more, y: box.y + box.height / 2 };
}

/** The drawn rectangle of a bar, without its label or marks. @param {Page} page @param {string} id */
const bar = (page, id) => page.locator(`[data-bar="${id}"] .bar`).first();

test("either end of a bar is stretched, and its progress dragged", async ({ page, plan }) => {
  await plan.bringIn(plan3);
  await drag(page, await point(bar(page, "a"), 1, -2), await point(bar(page, "a"), 1, 3 * DAY), async () => {
    await expect(plan.strip).toContainText("Letting go: Workshop now takes 7 days");
  });
  await expect(plan.cell("Workshop", "length")).toHaveText("7d");
  await drag(page, await point(bar(page, "a"), 0, 2), await point(bar(page, "a"), 0, 2 * DAY + 4));
  await expect(plan.cell("Workshop", "length")).toHaveText("5d");
  await expect(plan.cell("Workshop", "start")).toHaveText("5 May");
  await expect(plan.cell("Workshop", "finish")).toHaveText("11 May");
  await bar(page, "a").hover();
  const knob = page.locator("[data-knob=progress]");
  await drag(page, await point(knob, 0.5), await point(bar(page, "a"), 0.5));
  await expect(plan.strip).toContainText("Workshop is 50% done");
});

test("links are drawn from end to end, changed where they are drawn, and taken away", async ({ page, plan }) => {
  await plan.bringIn(plan3);
  await bar(page, "a").hover();
  await drag(page, await point(page.locator("[data-knob=finish]"), 0.5), await point(bar(page, "b"), 0.2), async () => {
    await expect(plan.strip).toContainText("Letting go: Rig now comes after Workshop");
  });
  await expect(plan.cell("Rig", "after")).toHaveText("1.1");
  await bar(page, "c").hover();
  await drag(page, await point(page.locator("[data-knob=start]"), 0.5), await point(bar(page, "d"), 0.2));
  await expect(plan.cell("Posters", "after")).toHaveText("with 2");

  const line = page.locator('[data-link="a>b"]');
  await line.dispatchEvent("click", { clientX: 700, clientY: 300 });
  const panel = page.locator("#link-panel");
  await expect(panel).toContainText("1.1 Workshop → 1.2 Rig");
  await panel.getByLabel("Lag").fill("soon");
  await page.keyboard.press("Enter");
  await expect(panel.getByRole("alert").filter({ visible: true })).toContainText("“soon” is not");
  await panel.getByLabel("Lag").fill("2d");
  await page.keyboard.press("Enter");
  await expect(plan.cell("Rig", "after")).toHaveText("1.1 + 2d");
  await panel.getByRole("button", { name: "Remove the link" }).click();
  await expect(plan.cell("Rig", "after")).toHaveText("");
  await expect(plan.strip).toContainText("Rig no longer waits for Workshop");
});

test("bars and rows are dragged up and down, between rows and into phases, one or many", async ({ page, plan }) => {
  await plan.bringIn(plan3);
  const to = await point(plan.cell("Workshop", "name"), 0.5);
  const from = await point(bar(page, "c"), 0.5);
  await drag(page, from, { x: from.x, y: to.y - 10 }, async () => {
    await expect(page.locator(".drop-mark")).toBeVisible();
  });
  await expect.poll(() => plan.outline()).toEqual(["1 Phase", "1.1 Radios", "1.2 Workshop", "1.3 Rig", "2 Posters"]);

  await plan.cell("Radios", "no").click();
  await page.keyboard.press("Shift+ArrowDown");
  const below = await point(plan.cell("Posters", "no"), 0.5);
  await drag(page, await point(plan.cell("Radios", "no"), 0.5), { x: below.x, y: below.y + 12 });
  await expect.poll(() => plan.outline()).toEqual(["1 Phase", "1.1 Rig", "2 Posters", "3 Radios", "4 Workshop"]);
  await page.keyboard.press("Escape");
  await drag(page, await point(plan.cell("Posters", "name"), 0.2), await point(plan.cell("Phase", "name"), 0.5));
  await expect.poll(() => plan.outline()).toEqual(["1 Phase", "1.1 Rig", "1.2 Posters", "2 Radios", "3 Workshop"]);
});

test("a task is drawn where there is none, and is named at once", async ({ page, plan }) => {
  await plan.bringIn(plan3);
  const line = await point(plan.cell("Posters", "name"), 0.5);
  const end = await point(bar(page, "a"), 0);
  const [from, to] = [
    { x: end.x + 14 * DAY + 4, y: line.y },
    { x: end.x + 16 * DAY + 4, y: line.y },
  ];
  // What is empty is taken along; drawing is meant, and how it is done is shown there.
  const left = () => page.locator("#board").evaluate((board) => board.scrollLeft);
  const before = await left();
  await drag(page, from, { x: from.x - 60, y: from.y });
  expect(await left()).toBe(before + 60);
  await expect(page.getByText("Shift + drag to draw a task")).toBeVisible();
  await expect(plan.undo).toBeDisabled();
  await drag(page, { x: from.x - 60, y: from.y }, from);
  expect(await left()).toBe(before);
  await page.keyboard.down("Shift");
  await drag(page, from, to);
  await page.keyboard.up("Shift");
  await expect(page.getByRole("textbox", { name: "Task of New task" })).toBeFocused();
  await page.keyboard.press("Control+A");
  await page.keyboard.type("Thank everybody");
  await page.keyboard.press("Enter");
  await expect(plan.cell("Thank everybody", "start")).toHaveText("17 May");
  await expect(plan.cell("Thank everybody", "length")).toHaveText("3d");
  await expect(plan.cell("Thank everybody", "no")).toHaveText("4");
});

test("a phase that is dragged takes along what is in it, and makes nothing", async ({ page, plan }) => {
  await plan.bringIn(plan3);
  const grip = await point(page.locator('[data-phase="p"]'), 0.5);
  await drag(page, grip, { x: grip.x + 7 * DAY, y: grip.y }, async () => {
    await expect(plan.strip).toContainText("Letting go");
  });
  await expect(plan.cell("Workshop", "start")).toContainText("10 May");
  await expect(plan.cell("Rig", "start")).toContainText("10 May");
  await expect(plan.cell("Radios", "start")).toContainText("3 May");
  await expect.poll(() => plan.outline()).toEqual(["1 Phase", "1.1 Workshop", "1.2 Rig", "2 Radios", "3 Posters"]);
});

test("a link is pressed where it is drawn, and its lag may be of the clock", async ({ page, plan }) => {
  await plan.bringIn({ ...plan3, links: [{ from: "a", to: "b" }] });
  const at = await page.locator('[data-link="a>b"]').evaluate((line) => {
    const path = /** @type {SVGPathElement} */ (/** @type {unknown} */ (line));
    const middle = path.getPointAtLength(path.getTotalLength() / 2);
    const { x, y } = middle.matrixTransform(/** @type {DOMMatrix} */ (path.getScreenCTM()));
    return { x, y };
  });
  await page.mouse.click(at.x, at.y);
  const panel = page.locator("#link-panel");
  await expect(panel).toContainText("1.1 Workshop → 1.2 Rig");
  await panel.getByLabel("Lag").fill("12h elapsed");
  await page.keyboard.press("Enter");
  await expect(plan.cell("Rig", "after")).toHaveText("1.1 + 12h elapsed");
  // What is not changed stays as it is.
  await panel.getByLabel("Kind").selectOption("startToStart");
  await expect(plan.cell("Rig", "after")).toHaveText("with 1.1 + 12h elapsed");
});

test("Escape leaves everything as it was, whatever is being dragged", async ({ page, plan }) => {
  await plan.bringIn(plan3);
  const before = await plan.outline();
  const cancel = () => page.keyboard.press("Escape");
  await drag(page, await point(bar(page, "a"), 0.5), await point(bar(page, "a"), 0.5, 90), cancel);
  await drag(page, await point(bar(page, "a"), 1, -2), await point(bar(page, "a"), 1, 90), cancel);
  await bar(page, "a").hover();
  await drag(page, await point(page.locator("[data-knob=finish]"), 0.5), await point(bar(page, "b"), 0.2), cancel);
  await drag(page, await point(plan.cell("Posters", "no"), 0.5), await point(plan.cell("Phase", "no"), 0.5), cancel);
  const empty = await point(plan.cell("Posters", "name"), 0.5);
  await drag(page, { x: 1000, y: empty.y }, { x: 1100, y: empty.y }, cancel);
  await expect(page.locator(".ghost, .thread, .drop-line")).toHaveCount(0);
  await expect(plan.strip).toContainText("After each edit this line says");
  await expect.poll(() => plan.outline()).toEqual(before);
  await expect(plan.undo).toBeDisabled();
});

test("the scale follows the wheel about the pointer, from hours to years, and fits the project", async ({
  page,
  plan,
}) => {
  await plan.open("Lantern Regatta");
  const day = () => page.evaluate(() => Number(document.querySelector(".today-column")?.getAttribute("width")));
  const column = page.locator(".today-column");
  await column.hover({ position: { x: 4, y: 300 }, force: true });
  const x = (await column.boundingBox())?.x ?? 0;
  await page.keyboard.down("Control");
  await page.mouse.wheel(0, -1200);
  await expect.poll(day).toBeGreaterThan(130);
  await expect(page.locator(".time-head")).toContainText("10:00");
  // What was under the pointer, a quarter of the day in, still is.
  const now = await column.boundingBox();
  expect(Math.abs((now?.x ?? 0) + (now?.width ?? 0) / 4 - (x + 4))).toBeLessThan(3);
  await page.mouse.wheel(0, 2000);
  await page.keyboard.up("Control");
  await expect(page.locator(".time-head")).toContainText("Q2");
  await page.getByRole("button", { name: "Fit" }).click();
  await expect(plan.bar("Dry-run at dusk")).toBeInViewport();
  await expect(plan.bar("Agree towpath closing")).toBeInViewport();
});

test("a little zoom stretches what is drawn to where it then comes to rest", async ({ page, plan }) => {
  await plan.open("Lantern Regatta");
  /**
   * Turns the wheel, and looks before the page can do anything else.
   * @param {number} deltaY
   * @param {number} [down] pixels to scroll down after that
   */
  const turn = (deltaY, down = 0) =>
    page.evaluate(
      ([by, further]) => {
        const edges = () => {
          const bar = document.querySelector('[data-bar] .bar[class*="sets-finish"]')?.getBoundingClientRect();
          const today = document.querySelector(".time-head .today-tab")?.getBoundingClientRect();
          return [bar?.left ?? 0, bar?.right ?? 0, (today?.left ?? 0) + (today?.width ?? 0) / 2];
        };
        const before = edges();
        if (by !== 0)
          document
            .getElementById("timeline")
            ?.dispatchEvent(new WheelEvent("wheel", { deltaY: by, ctrlKey: true, clientX: 900, clientY: 400 }));
        const turned = edges();
        const isStretched = document.querySelector(".time-body.is-stretched") !== null;
        const board = document.getElementById("board");
        if (board) board.scrollTop += further;
        return { before, turned, isStretched };
      },
      [deltaY, down],
    );
  // The last is scrolled down meanwhile, which moves nothing to the side.
  for (const [deltaY, down] of [
    [-90, 0],
    [60, 0],
    [-60, 40],
  ]) {
    await expect(page.locator(".time-body")).not.toHaveClass(/is-stretched|is-still/);
    const { before, turned, isStretched } = await turn(deltaY, down);
    expect(isStretched).toBe(true);
    expect(Math.max(...turned.map((x, i) => Math.abs(x - before[i])))).toBeGreaterThan(10);
    await expect(page.locator(".time-body")).not.toHaveClass(/is-stretched|is-still/);
    const { before: rested } = await turn(0);
    for (const [i, x] of rested.entries()) expect(Math.abs(x - turned[i]), `${turned} ${rested}`).toBeLessThan(2);
  }
});

test("what a bar is linked to is lit while the pointer is on it", async ({ page, plan }) => {
  await plan.open("Lantern Regatta");
  await plan.bar("Lantern workshop").hover();
  await expect(page.locator("[data-bar].is-lit")).toHaveCount(3);
  await expect(page.locator(".link.is-lit")).toHaveCount(2);
  await page.getByRole("heading", { level: 1 }).hover();
  await expect(page.locator(".is-lit")).toHaveCount(0);
});
