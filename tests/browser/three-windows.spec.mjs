// @ts-check
// Three people in three windows, two servers on one database behind a balancer: one server is killed and the database restarted
// while all three type.
import { spawn } from "node:child_process";
import { once } from "node:events";
import { mkdtempSync, rmSync } from "node:fs";
import { connect, createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { test, expect, signIn, start } from "./app.mjs";
import { PlanScreen } from "./plan-screen.mjs";

const root = fileURLToPath(new URL("../..", import.meta.url));
const PEOPLE = ["Imke Varga", "Jonas Achterberg", "Tomas Lindqvist"];
const EACH = 8;

/** A database server of its own, which can be restarted. */
async function startDatabase() {
  const folder = mkdtempSync(join(tmpdir(), "auxilium-three-"));
  const run = (/** @type {string} */ script) =>
    spawn("bash", ["-c", `cd "${root}" && . tools/setup.sh && find_postgres && ${script}`], {
      stdio: ["ignore", "pipe", "inherit"],
      env: { ...process.env, FORCE_COLOR: "0" },
    });
  const server = run(
    `start_postgres "${folder}" -c fsync=off && echo "$PG_PORT $PG_PASSWORD" && wait "$PG_PID"; sleep infinity`,
  );
  const [first] = await once(server.stdout, "data");
  const [port, password] = String(first).trim().split(" ");
  const control = async (/** @type {string} */ what) =>
    once(
      run(
        `as_postgres "$PG_BIN/pg_ctl" -D "${folder}/postgres" -m fast -w -t 30 ${what} >>"${folder}/control.log" 2>&1`,
      ),
      "exit",
    );
  return {
    connection: `Host=127.0.0.1;Port=${port};Username=auxilium;Password=${password};Database=three`,
    restart: () => control(`-l "${folder}/postgres.log" restart`),
    stop: async () => {
      await control("stop");
      server.kill("SIGKILL");
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** Sends each connection to the next server that takes it. @param {string[]} urls */
async function balance(urls) {
  let next = 0;
  const balancer = createServer((inside) => {
    const attempt = (/** @type {number} */ tries) => {
      const outside = connect(Number(new URL(urls[next++ % urls.length]).port), "127.0.0.1");
      outside.once("connect", () => {
        inside.pipe(outside).pipe(inside);
        outside.on("close", () => inside.destroy());
      });
      // If one refuses, the next is asked.
      outside.on("error", () =>
        outside.bytesRead + outside.bytesWritten > 0 || tries === 0 ? inside.destroy() : attempt(tries - 1),
      );
      inside.on("close", () => outside.destroy());
    };
    inside.on("error", () => {});
    attempt(urls.length);
  }).listen(0, "127.0.0.1");
  await once(balancer, "listening");
  const { port } = /** @type {import("node:net").AddressInfo} */ (balancer.address());
  return { url: `http://127.0.0.1:${port}`, close: () => balancer.close() };
}

test("three people edit at once while a server is killed and the database restarted: nothing is lost or done twice", async ({
  browser,
}) => {
  test.setTimeout(180_000);
  const database = await startDatabase();
  const one = await start(database.connection);
  const two = await start(database.connection);
  const { url, close } = await balance([one.url, two.url]);
  try {
    /** @type {PlanScreen[]} */ const screens = [];
    for (const name of PEOPLE) {
      const context = await browser.newContext({ storageState: await signIn(browser, url, name), baseURL: url });
      screens.push(new PlanScreen(await context.newPage(), url));
    }
    const [imke, jonas, tomas] = screens;
    const id = await imke.bringIn({
      format: "auxilium-plan/1",
      project: { name: "All hands", start: "2027-05-03" },
      tasks: PEOPLE.map((name, i) => ({ id: `t${i}`, name: `Row of ${name}`, length: "1d" })),
    });
    await imke.page.goto(`/projects/${id}/sharing`);
    for (const name of PEOPLE.slice(1)) {
      await imke.page.getByLabel("Add a person").selectOption({ label: name });
      await imke.page.getByLabel("Role of the person to add").selectOption("Coordinator");
      await imke.page.getByRole("button", { name: "Save roles" }).click();
      await expect(imke.page.getByRole("status")).toContainText(`${name} is now a coordinator.`);
    }
    for (const screen of screens) {
      await screen.page.goto(`/projects/${id}`);
      await screen.ready();
      await expect(screen.page.locator("html[data-live=true]")).toHaveCount(1);
    }
    await expect(imke.page.getByRole("img", { name: "Also here: Jonas Achterberg, Tomas Lindqvist" })).toBeVisible();

    // Tomas has begun to type and goes on only when all is over.
    await tomas.cell("Row of Tomas Lindqvist", "length").click();
    await tomas.page.keyboard.press("F2");
    await tomas.page.keyboard.press("Control+A");
    await tomas.page.keyboard.type("12");

    /** @param {PlanScreen} screen @param {string} who @param {(n: number) => Promise<void>} [between] */
    const typeAll = async (screen, who, between = async () => {}) => {
      for (let n = 1; n <= EACH; n++) {
        await screen.newTask.focus();
        await screen.page.keyboard.type(`${who} ${n}`);
        await screen.page.keyboard.press("Enter");
        await between(n);
      }
    };
    await Promise.all([
      typeAll(imke, "Imke", async (n) => {
        if (n === 3) {
          one.child.kill("SIGKILL");
          await once(one.child, "exit");
        }
        if (n === 6) await database.restart();
      }),
      typeAll(jonas, "Jonas", async () => {
        await jonas.type("Row of Jonas Achterberg", "length", `${2 + Math.floor(Math.random() * 9)}d`);
      }),
    ]);

    const wanted = [
      ...PEOPLE.map((name) => `Row of ${name}`),
      ...["Imke", "Jonas"].flatMap((who) => Array.from({ length: EACH }, (_, n) => `${who} ${n + 1}`)),
    ].toSorted();
    const names = async (/** @type {PlanScreen} */ screen) =>
      (await screen.outline()).map((line) => line.replace(/^\S+ /, "")).toSorted();
    for (const screen of [imke, jonas]) await expect.poll(() => names(screen), { timeout: 60_000 }).toEqual(wanted);
    await expect.poll(async () => (await tomas.outline()).length, { timeout: 60_000 }).toBe(wanted.length);

    // What was half typed is still there, with the focus, and is kept now.
    await expect(tomas.page.locator("input.editor")).toHaveValue("12");
    await expect(tomas.page.locator("input.editor")).toBeFocused();
    await tomas.page.keyboard.type("d");
    await tomas.page.keyboard.press("Enter");
    for (const screen of screens)
      await expect(screen.cell("Row of Tomas Lindqvist", "length")).toHaveText("12d", { timeout: 30_000 });

    // All have the same plan, row by row, and it is the one that is kept.
    const kept = await (await imke.page.request.get(`/api/v1/projects/${id}/plan`)).json();
    const order = kept.tasks.map((/** @type {{ name: string }} */ task) => task.name);
    for (const screen of screens)
      await expect
        .poll(async () => (await screen.outline()).map((line) => line.replace(/^\S+ /, "")), { timeout: 30_000 })
        .toEqual(order);
    const lengths = Object.fromEntries(
      kept.tasks.map((/** @type {{ name: string, length: string }} */ task) => [task.name, task.length]),
    );
    for (const screen of screens)
      await expect(screen.cell("Row of Jonas Achterberg", "length")).toHaveText(lengths["Row of Jonas Achterberg"]);

    // The journal has every edit once.
    const entries = [];
    for (let before = ""; ;) {
      const page = await (await imke.page.request.get(`/api/v1/projects/${id}/journal${before}`)).json();
      entries.push(...page.entries);
      if (page.next === null) break;
      before = `?before=${page.next}`;
    }
    const added = entries
      .map((entry) => entry.sentence.map((/** @type {{ text: string }} */ run) => run.text).join(""))
      .flatMap((sentence) => /^(\w+ \d) added/.exec(sentence)?.[1] ?? []);
    expect(added.toSorted()).toEqual(wanted.filter((name) => !name.startsWith("Row")));
    expect(entries.map((entry) => entry.version).toSorted((a, b) => a - b)).toEqual(entries.map((_, i) => i + 2));
  } finally {
    close();
    for (const { child } of [one, two]) child.kill("SIGKILL");
    await database.stop();
  }
});
