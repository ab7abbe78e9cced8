// @ts-check

/**
 * What a page of ours sends along with what changes something.
 * @param {import("@playwright/test").Page} page that is signed in
 * @param {string} [url] where the application is, unless the page knows
 * @returns {Promise<{ "X-Auxilium-Token": string }>}
 */
export async function pageToken(page, url = "") {
  const text = await (await page.request.get(`${url}/account`)).text();
  const [, token = ""] = /name="__RequestVerificationToken" type="hidden" value="([^"]+)"/.exec(text) ?? [];
  return { "X-Auxilium-Token": token };
}
