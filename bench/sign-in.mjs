// @ts-check

/** Becomes the organiser of the demo. @param {import("@playwright/test").Page} page @param {string} url */
export async function signIn(page, url) {
  await page.goto(`${url}/sign-in`);
  await page.getByRole("button", { name: "Imke Varga" }).click();
  await page.getByRole("link", { name: "signed in as Imke Varga" }).waitFor();
}
