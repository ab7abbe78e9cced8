// @ts-check
// Several windows of one plan that edit against each other: however answers and news overtake one another, get cut off or come
// together, every window ends as the plan is.
import assert from "node:assert/strict";
import test, { mock } from "node:test";
import { Following } from "../../src/Auxilium.Web/Frontend/plan/server/following.js";
import { Outbox } from "../../src/Auxilium.Web/Frontend/plan/server/outbox.js";
import { Store } from "../../src/Auxilium.Web/Frontend/plan/state/store.js";
import { aRow, changes } from "./plan.mjs";

/** @import { Row } from "../../src/Auxilium.Web/Frontend/plan/state/types.js" */
/** @typedef {{ version: number, edit: string | null, rows: Row[] }} Version */

const HISTORIES = 1000;
const WINDOWS = 3;
const EDITS = 5;
const ROWS = ["a", "b", "c"];
const LENGTHS = ["1d", "2d"];

/** A random number below another, the same for a seed. @param {number} seed */
function dice(seed) {
  let state = seed * 2654435761 + 1;
  return (/** @type {number} */ below) => {
    state = (state * 1103515245 + 12345) & 0x7fffffff;
    return (state >> 8) % below;
  };
}

/** A server with one plan, whose answers and news are on their way until they are picked. @param {(below: number) => number} random */
class Server {
  #random;
  /** @type {Version[]} */ versions = [{ version: 1, edit: null, rows: ROWS.map((id) => aRow(id)) }];
  /** What is under way; of each name the first comes first. @type {{ name: string, go: () => void }[]} */ underWay =
    [];
  /** @type {Following[]} */ windows = [];
  /** The version that was told to all last. */ told = 0;
  isRestored = false;

  /** @param {(below: number) => number} random */
  constructor(random) {
    this.#random = random;
  }

  get now() {
    return this.versions[this.versions.length - 1];
  }

  /** @param {Version | null} before @param {Version} after */
  changes(before, after) {
    const all = changes(after.rows);
    const { version, edit } = after;
    const told = before && new Map(before.rows.map((row) => [row.id, row]));
    return {
      ...all,
      project: { ...all.project, version, edit },
      from: before && { version: before.version, edit: before.edit },
      // Only what is other is told.
      rows: told ? after.rows.filter((row) => JSON.stringify(told.get(row.id)) !== JSON.stringify(row)) : after.rows,
      order: told ? null : all.order,
    };
  }

  /** @param {string} path @param {string | null} body */
  answer(path, body) {
    if (path.endsWith("/changes")) return this.changes(null, this.now);
    const { id, baseVersion, edit } = JSON.parse(body ?? "");
    if (this.versions.some((version) => version.edit === id))
      return { version: this.now.version, changes: this.changes(null, this.now) };
    const before = this.now;
    const rows = before.rows.map((row) => (row.id === edit.task ? { ...row, length: edit.length } : row));
    this.versions.push({ version: before.version + 1, edit: id, rows });
    const isKnown = baseVersion === before.version;
    return { version: this.now.version, changes: this.changes(isKnown ? before : null, this.now) };
  }

  /** Tells all windows what is new since they were told last: edits that came meanwhile together. */
  tell() {
    const from = this.versions[this.told];
    if (from === this.now) return;
    const edits = this.versions.slice(this.told + 1).map(({ edit }) => String(edit));
    const change = {
      from: from.version,
      to: this.now.version,
      by: "other",
      name: "Other",
      edits,
      changes: this.changes(from, this.now),
    };
    this.told = this.versions.length - 1;
    // As it goes over the wire: nothing is shared.
    this.windows.forEach((window, i) =>
      this.underWay.push({ name: `news ${i}`, go: () => window.take(structuredClone(change)) }),
    );
  }

  /** Puts an older version back, as from a backup. */
  restore() {
    this.isRestored = true;
    this.versions = this.versions.slice(0, 1 + this.#random(this.versions.length));
    this.told = this.versions.length - 1;
    this.windows.forEach((window, i) => this.underWay.push({ name: `news ${i}`, go: () => window.lose() }));
  }

  /** @param {string} path @param {any} how */
  fetch(path, how) {
    return new Promise((resolve, reject) => {
      const name = `request ${path} ${this.#random(1e9)}`;
      this.underWay.push({
        name,
        go: () => {
          if (this.#random(12) === 0) return reject(new TypeError("The connection is gone."));
          const answer = JSON.stringify(this.answer(path.split("?")[0], how?.body ?? null));
          // Sometimes it was done, and the answer is cut off on its way.
          const isCut = this.#random(12) === 0;
          const headers = { "Content-Type": "application/json" };
          const cut = new ReadableStream({
            start: (stream) => (stream.enqueue(new TextEncoder().encode(answer.slice(0, 40))), stream.error()),
          });
          this.underWay.push({ name, go: () => resolve(new Response(isCut ? cut : answer, { headers })) });
        },
      });
    });
  }

  /** Lets one thing that is under way arrive. */
  step() {
    const names = [...new Set(this.underWay.map(({ name }) => name))];
    const name = names[this.#random(names.length)];
    const at = this.underWay.findIndex((thing) => thing.name === name);
    this.underWay.splice(at, 1)[0].go();
  }
}

/** @param {number} seed @param {boolean} restores */
async function live(seed, restores) {
  const random = dice(seed);
  const server = new Server(random);
  globalThis.localStorage = /** @type {any} */ ({ getItem: () => null, setItem: () => {}, removeItem: () => {} });
  globalThis.addEventListener = /** @type {any} */ (() => {});
  globalThis.fetch = /** @type {any} */ (
    (/** @type {string} */ path, /** @type {any} */ how) => server.fetch(path, how)
  );
  const windows = Array.from({ length: WINDOWS }, () => {
    const store = new Store(structuredClone(server.changes(null, server.now)));
    const outbox = new Outbox(store, "p", "token", "me");
    const ask = async () => {
      const answer = await fetch("/api/v1/projects/p/changes").catch(() => null);
      return answer ? answer.json().catch(() => null) : null;
    };
    server.windows.push(new Following(store, "me", (edit) => outbox.isAwaited(edit), ask));
    return { store, outbox };
  });
  let left = WINDOWS * EDITS;
  for (let quiet = 0; quiet < 6;) {
    const what = random(4);
    if (left > 0 && what === 0) {
      left--;
      const edit = { type: "setLength", task: ROWS[random(ROWS.length)], length: LENGTHS[random(LENGTHS.length)] };
      windows[random(WINDOWS)].outbox.send({ make: () => edit, onRefused: () => assert.fail("It was refused.") });
    } else if (restores && left < WINDOWS && !server.isRestored) server.restore();
    else if (what === 1) server.tell();
    else if (server.underWay.length > 0) server.step();
    else mock.timers.tick(500);
    await new Promise(setImmediate);
    quiet = left === 0 && server.underWay.length === 0 ? quiet + 1 : 0;
    if (quiet === 0) continue;
    // Nothing is being sent: whatever waits goes on.
    server.tell();
    mock.timers.tick(20_000);
    await new Promise(setImmediate);
  }
  const plan = server.now;
  windows.forEach(({ store }, i) => {
    const where = `window ${i} of history ${seed}`;
    assert.deepEqual([store.project.version, store.project.edit], [plan.version, plan.edit], where);
    assert.deepEqual(
      store.rows.map(({ id, length }) => [id, length]),
      plan.rows.map(({ id, length }) => [id, length]),
      where,
    );
  });
  return server;
}

test("every window ends as the plan is, whatever overtakes what", async () => {
  mock.timers.enable({ apis: ["setTimeout"] });
  try {
    let edits = 0;
    for (let seed = 1; seed <= HISTORIES; seed++) edits += (await live(seed, false)).now.version - 1;
    assert.equal(edits, HISTORIES * WINDOWS * EDITS, "An edit was lost or made twice.");
  } finally {
    mock.timers.reset();
  }
});

test("news of what one's own answer brought already changes nothing, least of all what can be undone", () => {
  const server = new Server(dice(1));
  const [before] = server.versions;
  server.versions.push({ version: 2, edit: "e", rows: before.rows });
  const store = new Store(structuredClone(server.changes(null, before)));
  const following = new Following(store, "me", () => false, () => Promise.resolve(null)); // prettier-ignore
  store.apply({ ...server.changes(before, server.now), canUndo: false });
  following.take({ from: 1, to: 2, by: "me", name: "Me", edits: ["e"], changes: server.changes(before, server.now) });
  assert.equal(store.canUndo, false);
});

test("after a backup was put back every window shows that plan, though it is older", async () => {
  mock.timers.enable({ apis: ["setTimeout"] });
  try {
    for (let seed = 1; seed <= HISTORIES / 5; seed++) await live(seed, true);
  } finally {
    mock.timers.reset();
  }
});
