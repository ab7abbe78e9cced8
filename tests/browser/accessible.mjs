// @ts-check
import AxeBuilder from "@axe-core/playwright";
import { expect } from "@playwright/test";

/** Fails with what axe-core finds wrong on a page. @param {import("@playwright/test").Page} page @param {string} where it is, for the message */
export async function expectAccessible(page, where) {
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(
    violations.map((v) => `${where}: ${v.id} ${v.nodes.map((n) => n.target).join(" ")}`),
    where,
  ).toEqual([]);
}
