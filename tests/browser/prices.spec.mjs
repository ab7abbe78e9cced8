// @ts-check
// The organisation's price list, and tasks that are made of it.
import { expectAccessible } from "./accessible.mjs";
import { test, expect } from "./app.mjs";

test("items of the price list become tasks under a phase for each category, once they have been looked at", async ({
  page,
  plan,
}) => {
  await plan.create("Quay fair");
  await page.getByRole("button", { name: "Import…" }).click();
  await page.getByRole("button", { name: "From the price list…" }).click();
  const prices = page.getByRole("dialog", { name: "From the price list" });
  await expect(prices.getByRole("button", { name: "Preview" })).toBeDisabled();
  await prices.getByRole("checkbox", { name: /^Stage 6 × 4 m/ }).focus();
  await page.keyboard.press("Space");
  await prices.getByLabel("How many of Folding chair").fill("120");
  await expect(prices.getByRole("checkbox", { name: /^Folding chair/ })).toBeChecked();
  await expectAccessible(page, "From the price list");
  await prices.getByRole("button", { name: "Preview 2 tasks" }).press("Enter");
  const dialog = page.getByRole("dialog", { name: "Import a list" });
  await expect(dialog.getByRole("row", { name: /Folding chair/ })).toContainText("120 piece");
  await dialog.getByRole("button", { name: "Add 4 rows" }).press("Enter");
  await expect
    .poll(() => plan.outline())
    .toEqual(["1 Stage and sound", "1.1 Stage 6 × 4 m", "2 Guests", "2.1 Folding chair"]);
  const stage = page.locator(".list-row", { hasText: "Stage 6 × 4 m" });
  await expect(stage.locator('[data-col="length"]')).toHaveText("1d");
});

test("organisers change the price list as one list, and see what is wrong before it is saved", async ({ page }) => {
  await page.goto("/organisation");
  await page.getByRole("link", { name: "Price list" }).click();
  await expect(page.getByRole("heading", { name: "Stage and sound" })).toBeVisible();
  await expectAccessible(page, "Price list");
  const list = page.getByLabel("The whole list, a line for each item");
  await list.press("Control+End");
  await list.pressSequentially("\nGuests\tParasol\tpiece\tdear");
  await page.getByRole("button", { name: "Preview" }).click();
  await expect(page.getByRole("row", { name: /Parasol/ })).toContainText(
    "“dear” is not a price: write one such as 12.50.",
  );
  await expectAccessible(page, "Price list, as it was read");
  await list.fill((await list.inputValue()).replace("\tdear", "\t9"));
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("status")).toContainText("Saved: the price list has 16 items.");
  await expect(page.getByRole("row", { name: /Parasol/ })).toContainText("9.00 per piece");
});
