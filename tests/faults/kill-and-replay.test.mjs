// @ts-check
// Two processes on one database, one of them killed again and again while several people type: whatever was acknowledged is there
// once, and whatever had no answer is sent again until it has one.
import assert from "node:assert/strict";
import { randomUUID } from "node:crypto";
import { once } from "node:events";
import test from "node:test";
import { databaseNamed, start } from "../browser/app.mjs";

const PEOPLE = 4;
const EDITS = 20;
const KILLS = 3;

/** Signs in as the organiser of the demo. @param {string} url @returns {Promise<Record<string, string>>} what a page sends along */
async function signIn(url) {
  const jar = new Map();
  const ask = async (/** @type {string} */ path, /** @type {RequestInit} */ how = {}) => {
    const cookie = [...jar].map(([name, value]) => `${name}=${value}`).join("; ");
    const answer = await fetch(url + path, { redirect: "manual", ...how, headers: { ...how.headers, cookie } });
    for (const set of answer.headers.getSetCookie()) {
      const [name, ...value] = set.split(";")[0].split("=");
      jar.set(name, value.join("="));
    }
    return answer.text();
  };
  const tokenIn = (/** @type {string} */ page) =>
    /name="__RequestVerificationToken" type="hidden" value="([^"]+)"/.exec(page)?.[1] ?? "";
  const form = new URLSearchParams({
    person: "imke",
    __RequestVerificationToken: tokenIn(await ask("/sign-in")),
  });
  await ask("/sign-in?handler=Demo", { method: "POST", body: form });
  const token = tokenIn(await ask("/account"));
  const cookie = [...jar].map(([name, value]) => `${name}=${value}`).join("; ");
  return { cookie, "X-Auxilium-Token": token, "Content-Type": "application/json" };
}

test("edits through kills are there once, each of them", async () => {
  const database = databaseNamed(`faults_${randomUUID().replaceAll("-", "")}`);
  const servers = [await start(database), await start(database)];
  try {
    const headers = await signIn(servers[0].url);
    const made = await fetch(`${servers[0].url}/api/v1/projects`, {
      method: "POST",
      headers,
      body: JSON.stringify({
        format: "auxilium-plan/1",
        project: { name: "Kills", start: "2027-05-03" },
        tasks: [{ id: "a", name: "A", length: "1d" }],
      }),
    });
    assert.equal(made.status, 201);
    const { id: project } = await made.json();

    let sent = 0;
    let acknowledged = 0;
    let isOver = false;
    /** Sends an edit until there is an answer, to whichever server. @param {object} body */
    const untilAnswered = async (body) => {
      for (let tries = 0; tries < 400; tries++) {
        sent++;
        const { url } = servers[sent % servers.length];
        const answer = await fetch(`${url}/api/v1/projects/${project}/edits`, {
          method: "POST",
          headers,
          body: JSON.stringify(body),
          signal: AbortSignal.timeout(20_000),
        }).catch(() => null);
        const whole = answer && (await answer.text().catch(() => null));
        if (answer?.status === 200 && whole) {
          acknowledged++;
          return;
        }
        assert.ok(!answer || answer.status >= 500, `Refused: ${answer?.status} ${whole}`);
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
      assert.fail("An edit was never answered.");
    };
    const typing = Array.from({ length: PEOPLE }, async (_, person) => {
      for (let n = 0; n < EDITS; n++)
        await untilAnswered({
          id: randomUUID(),
          baseVersion: 1,
          edit: { type: "addTask", id: `p${person}n${n}`, name: `N${n}`, parent: null, after: "a" },
        });
    });
    const killing = (async () => {
      for (let kill = 0; kill < KILLS && !isOver; kill++) {
        const until = acknowledged + (PEOPLE * EDITS) / (KILLS + 2);
        while (acknowledged < until && !isOver) await new Promise(setImmediate);
        const victim = kill % servers.length;
        servers[victim].child.kill("SIGKILL");
        await once(servers[victim].child, "exit");
        servers[victim] = await start(database);
      }
    })();
    await Promise.all(typing);
    isOver = true;
    await killing;

    assert.ok(sent > acknowledged, "No edit had to be sent again: nothing was tried.");
    const wanted = new Set(
      Array.from({ length: PEOPLE }, (_, p) => Array.from({ length: EDITS }, (__, n) => `p${p}n${n}`)).flat(),
    );
    for (const { url } of servers) {
      const answer = await fetch(`${url}/api/v1/projects/${project}/plan`, { headers });
      const { tasks } = await answer.json();
      const ids = tasks.map((/** @type {{ id: string }} */ task) => task.id);
      const added = ids.filter((/** @type {string} */ id) => id !== "a");
      assert.equal(added.length, wanted.size, "An edit was lost or made twice.");
      assert.deepEqual(new Set(added), wanted);
      assert.equal(answer.headers.get("ETag"), `"${wanted.size + 1}"`);
    }
  } finally {
    for (const { child } of servers) child.kill("SIGKILL");
  }
});
