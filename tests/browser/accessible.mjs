// @ts-check
import AxeBuilder from "@axe-core/playwright";
import { expect } from "@playwright/test";

/** The rules of axe-core that are about colour. */
const OF_COLOUR = ["color-contrast", "link-in-text-block"];

/**
 * Fails with what axe-core finds wrong on a page. It is asked for what is wrong alone, and in the page itself: no page of ours holds
 * a frame, and to carry all it found right to a second page and back takes four times as long as to look.
 * @param {import("@playwright/test").Page} page @param {string} where it is, for the message
 */
export async function expectAccessible(page, where) {
  await expectWhole(page, where);
  // Another theme changes colours alone: the rest is looked at in the light one.
  const isDark = await page.evaluate(() => matchMedia("(prefers-color-scheme: dark)").matches);
  const { violations } = await new AxeBuilder({ page })
    .setLegacyMode(true)
    .options({ resultTypes: ["violations"], ...(isDark ? { runOnly: OF_COLOUR } : {}) })
    .analyze();
  expect(
    violations.map((v) => `${where}: ${v.id} ${v.nodes.map((n) => n.target).join(" ")}`),
    where,
  ).toEqual([]);
}

/**
 * Fails where the head of the page is not across its top, or its title is covered.
 * @param {import("@playwright/test").Page} page
 * @param {string} where
 */
async function expectWhole(page, where) {
  const wrong = await page.evaluate(() => {
    const head = document.querySelector(".masthead")?.getBoundingClientRect();
    const title = document.querySelector("h1");
    if (!head || !title) return "no head";
    if (head.left > 0 || head.width < document.documentElement.clientWidth) return "the head is not across the page";
    if (document.querySelector("dialog[open], :popover-open") || scrollY > 0) return "";
    const { left, top, width, height } = title.getBoundingClientRect();
    const over = document.elementFromPoint(left + Math.min(width, 20) / 2, top + height / 2);
    return over && title.contains(over) ? "" : `the title is covered by ${over?.className}`;
  });
  expect(wrong, where).toBe("");
}
