// @ts-check
// A server of its own for each worker: the built application on a new database of the test server, on Thursday 13 May 2027.
import { test as base } from "@playwright/test";
import { spawn } from "node:child_process";
import { randomUUID } from "node:crypto";
import { once } from "node:events";
import { fileURLToPath } from "node:url";
import { PlanScreen } from "./plan-screen.mjs";

const web = fileURLToPath(new URL("../../.build/web/", import.meta.url));

/** The server that tests are given. @param {string} database */
export function databaseNamed(database) {
  const server = process.env.AUXILIUM_TEST_SERVER;
  if (!server) throw new Error("Set AUXILIUM_TEST_SERVER, or run ./test, which starts a PostgreSQL server.");
  return server.replace("Database=postgres", `Database=${database}`);
}

/** Starts the application. @param {string} connection to its database */
export async function start(connection) {
  const child = spawn(
    "dotnet",
    [
      `${web}Auxilium.Web.dll`,
      "--urls",
      "http://127.0.0.1:0",
      "--contentRoot",
      web,
      "--Logging:Console:FormatterName=simple",
    ],
    {
      env: {
        ...process.env,
        AUXILIUM_DB: connection,
        AUXILIUM_TODAY: "2027-05-13",
        AUXILIUM_DOOR_TRIES: "10000",
        // A server that lives for minutes does not earn back what profiling itself costs.
        DOTNET_TieredPGO: "0",
      },
      stdio: ["ignore", "pipe", "inherit"],
    },
  );
  let output = "";
  /** @type {string} */
  const url = await new Promise((resolve, reject) => {
    child.stdout.on("data", (text) => {
      output += text;
      const found = /Now listening on: (http:\S+)/.exec(output);
      if (found) resolve(found[1]);
    });
    child.once("exit", () => reject(new Error(`The server did not start:\n${output}`)));
  });
  return { url, child };
}

/**
 * What the browser of somebody of the demo has once they are signed in.
 * @param {import("@playwright/test").Browser} browser
 * @param {string} url
 * @param {string} name
 */
export async function signIn(browser, url, name) {
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const page = await context.newPage();
  await page.goto(`${url}/sign-in`);
  await page.getByRole("button", { name }).click();
  await page.getByRole("link", { name: `signed in as ${name}` }).waitFor();
  const state = await context.storageState();
  await context.close();
  return state;
}

/** @typedef {{ plan: PlanScreen, noErrors: void }} EachTest the Plan screen; what the page's script complained of fails the test */
/** @typedef {Awaited<ReturnType<import("@playwright/test").BrowserContext["storageState"]>>} Cookies */
/** @typedef {{ url: string, imke: Cookies }} EachWorker where the application is, and the organiser's browser */

const extend = /** @type {typeof base.extend<EachTest, EachWorker>} */ (base.extend.bind(base));

export const test = extend({
  url: [
    async ({}, use) => {
      const { url, child } = await start(databaseNamed(`browser_${randomUUID().replaceAll("-", "")}`));
      await use(url);
      const ended = once(child, "exit");
      child.kill("SIGTERM");
      await ended;
    },
    { scope: "worker", timeout: 60_000 },
  ],
  imke: [async ({ browser, url }, use) => use(await signIn(browser, url, "Imke Varga")), { scope: "worker" }],
  // Whoever tests is the organiser, unless a test says otherwise.
  storageState: async ({ imke }, use) => use(imke),
  baseURL: async ({ url }, use) => use(url),
  plan: async ({ page, url }, use) => use(new PlanScreen(page, url)),
  noErrors: [
    async ({ page }, use) => {
      /** @type {string[]} */ const errors = [];
      page.on("pageerror", (error) => errors.push(error.message));
      page.on("console", (message) => {
        if (/Content Security Policy/.test(message.text())) errors.push(message.text());
      });
      await use();
      if (errors.length > 0) throw new Error(`The page's script failed: ${errors.join("; ")}`);
    },
    { auto: true },
  ],
});

export { expect } from "@playwright/test";
