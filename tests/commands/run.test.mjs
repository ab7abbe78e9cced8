// @ts-check
// ./run as a newcomer uses it: started, stopped, killed, started again; and told to do what it cannot.
import assert from "node:assert/strict";
import { spawn, spawnSync } from "node:child_process";
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync, statSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import test from "node:test";
import { fileURLToPath } from "node:url";

const run = fileURLToPath(new URL("../../run", import.meta.url));
const OWN = { AUXILIUM_DB: "" };

/** @param {Record<string, string>} environment @param {string[]} options */
const refuse = (environment, ...options) =>
  spawnSync(run, options, { encoding: "utf8", env: { ...process.env, ...environment }, timeout: 60_000 });

/** @returns {Promise<number>} */
const freePort = () =>
  new Promise((resolve) => {
    const server = createServer().listen(0, "127.0.0.1", () => {
      const { port } = /** @type {import("node:net").AddressInfo} */ (server.address());
      server.close(() => resolve(port));
    });
  });

/** @param {Record<string, string>} environment @param {string} data @param {number} port @param {string[]} more */
async function start(environment, data, port, ...more) {
  const child = spawn(run, ["--data", data, "--port", String(port), "--today", "2027-05-13", ...more], {
    env: { ...process.env, ...environment },
  });
  let said = "";
  child.stderr.on("data", (text) => (said += text));
  await new Promise((resolve, reject) => {
    child.stdout.on("data", (text) => {
      said += text;
      if (
        said.includes(`Auxilium is at http://127.0.0.1:${port}`) &&
        (!more.includes("--empty") || said.includes("To begin"))
      )
        resolve(null);
    });
    child.once("exit", () => reject(new Error(said)));
  });
  const ended = new Promise((resolve) => child.once("exit", (code, signal) => resolve(code ?? signal)));
  return {
    child,
    ended,
    said: () => said,
    names: async () => {
      const headers = await signIn(`http://127.0.0.1:${port}`);
      const projects = await (await fetch(`http://127.0.0.1:${port}/api/v1/projects`, { headers })).json();
      return projects.map((/** @type {{ name: string }} */ p) => p.name);
    },
  };
}

/**
 * Becomes the organiser of the demo, as a browser would.
 * @param {string} address
 * @returns {Promise<{ Cookie: string, "X-Auxilium-Token": string }>} what a page sends along
 */
async function signIn(address) {
  const tokenIn = (/** @type {string} */ text) =>
    /name="__RequestVerificationToken" type="hidden" value="([^"]+)"/.exec(text)?.[1] ?? "";
  const page = await fetch(`${address}/sign-in`);
  const token = tokenIn(await page.text());
  const cookies = page.headers.getSetCookie().map((cookie) => cookie.split(";")[0]);
  const answer = await fetch(`${address}/sign-in?handler=Demo`, {
    method: "POST",
    redirect: "manual",
    headers: { Cookie: cookies.join("; ") },
    body: new URLSearchParams({ person: "imke", __RequestVerificationToken: token }),
  });
  assert.equal(answer.status, 302);
  const all = [...cookies, ...answer.headers.getSetCookie().map((cookie) => cookie.split(";")[0])];
  const account = await fetch(`${address}/account`, { headers: { Cookie: all.join("; ") } });
  return { Cookie: all.join("; "), "X-Auxilium-Token": tokenIn(await account.text()) };
}

test("it says what is wrong with an option and what would be right", () => {
  for (const [options, sentence] of /** @type {[string[], RegExp][]} */ ([
    [["--port", "many"], /--port needs a number from 1 to 65535, not “many”/],
    [["--port", "70000"], /--port needs a number/],
    [["--port"], /--port needs a value/],
    [["--today", "soon"], /--today needs a day like 2027-05-13, not “soon”/],
    [["--today", "2027-02-30"], /--today needs a day/],
    [["--fast"], /“--fast” is not an option/],
    [["--data", "/proc/nowhere"], /cannot be written to: name another folder/],
  ])) {
    const { status, stderr } = refuse(OWN, ...options);
    assert.equal(status, 1, options.join(" "));
    assert.match(stderr, sentence);
  }
  const help = refuse(OWN, "--help");
  assert.equal(help.status, 0);
  assert.match(help.stdout, /--empty/);
  assert.match(help.stdout, /--rebuild/);
});

test("it serves, keeps the data, refuses a second start, and recovers from being killed", async (t) => {
  const data = mkdtempSync(join(tmpdir(), "auxilium-run-"));
  chmodSync(data, 0o755);
  t.after(() => rmSync(data, { recursive: true, force: true }));
  const port = await freePort();
  const first = await start(OWN, data, port);
  assert.deepEqual(await first.names(), ["Lantern Regatta", "Adopt-a-Plank", "Slipway & Shed Roof"]);

  assert.equal(statSync(join(data, "secret")).mode & 0o077, 0, "the password is for its owner only");
  const second = refuse(OWN, "--data", data, "--port", String(await freePort()));
  assert.equal(second.status, 1);
  assert.match(second.stderr, /is running on .* already, at http/);
  const taken = mkdtempSync(join(tmpdir(), "auxilium-run-"));
  assert.match(
    refuse(OWN, "--data", taken, "--port", String(port)).stderr,
    new RegExp(`Port ${port} is in use by another program`),
  );
  rmSync(taken, { recursive: true });

  const made = await fetch(`http://127.0.0.1:${port}/api/v1/projects`, {
    method: "POST",
    headers: { "Content-Type": "application/json", ...(await signIn(`http://127.0.0.1:${port}`)) },
    body: JSON.stringify({ format: "auxilium-plan/1", project: { name: "Kept", start: "2027-05-03" } }),
  });
  assert.equal(made.status, 201);
  first.child.kill("SIGKILL");
  await first.ended;

  const again = await start(OWN, data, port);
  assert.ok((await again.names()).includes("Kept"));
  again.child.kill("SIGINT");
  assert.equal(await again.ended, 0);
  assert.equal(existsSync(join(data, "postgres", "postmaster.pid")), false, "the database has stopped");
  await assert.rejects(fetch(`http://127.0.0.1:${port}/`));
  assert.doesNotMatch(
    readFileSync(join(data, "web.log"), "utf8"),
    new RegExp(readFileSync(join(data, "secret"), "utf8")),
  );
});

test("with AUXILIUM_DB it uses that database, and says so when it cannot", async (t) => {
  const server = process.env.AUXILIUM_TEST_SERVER;
  assert.ok(server, "./test starts a PostgreSQL server and names it in AUXILIUM_TEST_SERVER");
  const data = mkdtempSync(join(tmpdir(), "auxilium-run-"));
  t.after(() => rmSync(data, { recursive: true, force: true }));
  const port = await freePort();
  for (const [wrong, sentence] of /** @type {[string, RegExp][]} */ ([
    [
      server.replace(/Password=[^;]*/, "Password=guessed"),
      /database that AUXILIUM_DB names: .*password authentication failed/,
    ],
    [server.replace(/Port=[^;]*/, `Port=${port}`), /database that AUXILIUM_DB names: Failed to connect/],
    ["somewhere", /database that AUXILIUM_DB names: it is not a connection string such as/],
  ])) {
    const { status, stderr } = refuse({ AUXILIUM_DB: wrong }, "--data", data, "--port", String(port));
    assert.equal(status, 1);
    assert.match(stderr, sentence);
    assert.doesNotMatch(stderr, /guessed|Exception|Aborted/);
  }
  const started = await start({ AUXILIUM_DB: server.replace("Database=postgres", `Database=run_${port}`) }, data, port);
  assert.equal((await started.names()).length, 3);
  started.child.kill("SIGINT");
  assert.equal(await started.ended, 0);
  assert.equal(existsSync(join(data, "postgres")), false, "no database of its own");
});

test("without demo data it begins with the first person", async (t) => {
  const data = mkdtempSync(join(tmpdir(), "auxilium-run-"));
  chmodSync(data, 0o755);
  t.after(() => rmSync(data, { recursive: true, force: true }));
  const port = await freePort();
  const started = await start(OWN, data, port, "--empty");
  // Only somebody who reads the printed code may begin.
  assert.match(started.said(), new RegExp(`To begin, open http://127.0.0.1:${port}/welcome\\?code=[a-z0-9-]{19}`));
  assert.match(await (await fetch(`http://127.0.0.1:${port}/`)).text(), /Nobody has used it here yet/);
  started.child.kill("SIGTERM");
  assert.equal(await started.ended, 0);
});
