// @ts-check
// Edits on their way to the server: in turn, each until it is answered, kept where the page is closed before.
import assert from "node:assert/strict";
import test, { beforeEach, mock } from "node:test";
import { Outbox } from "../../src/Auxilium.Web/Frontend/plan/outbox.js";
import { Store } from "../../src/Auxilium.Web/Frontend/plan/store.js";
import { aRow, changes } from "./plan.mjs";

/** @typedef {{ id: string, edit?: object, takeBack?: string, baseVersion: number, overrule: boolean, near: string | null }} Sent */

/** What was sent, and how the next requests are answered. @type {{ sent: Sent[], answers: (() => Promise<Response>)[] }} */
let server;
/** @type {Map<string, string>} */ let kept;
/** @type {Store} */ let store;
/** @type {Outbox} */ let outbox;

beforeEach(() => {
  server = { sent: [], answers: [] };
  kept = new Map();
  // What the browser keeps, and lists by its keys.
  globalThis.localStorage = /** @type {any} */ (
    new Proxy(
      {
        getItem: (/** @type {string} */ key) => kept.get(key) ?? null,
        setItem: (/** @type {string} */ key, /** @type {string} */ value) => kept.set(key, value),
        removeItem: (/** @type {string} */ key) => kept.delete(key),
      },
      {
        ownKeys: () => [...kept.keys()],
        getOwnPropertyDescriptor: () => ({ enumerable: true, configurable: true }),
      },
    )
  );
  globalThis.addEventListener = /** @type {any} */ (() => {});
  globalThis.fetch = async (_, how) => {
    server.sent.push(JSON.parse(String(how?.body)));
    return (server.answers.shift() ?? taken)();
  };
  store = new Store(changes([aRow("a")]));
  outbox = new Outbox(store, "p", "token");
});

/** The plan as it was, in the version after the one that was sent. */
const taken = async () => {
  const all = changes([aRow("a")]);
  const version = store.project.version + 1;
  return Response.json({ version, changes: { ...all, project: { ...all.project, version } } });
};
const lost = async () => Promise.reject(new TypeError("The connection is gone."));
const answer = (/** @type {number} */ status, /** @type {object} */ body) => async () =>
  Response.json(body, { status });

/** Sends an edit and waits until it is taken or refused. @param {object} edit @param {object} [more] @returns {Promise<{ done?: true, refused?: import("../../src/Auxilium.Web/Frontend/plan/outbox.js").Refusal }>} */
const send = (edit, more = {}) =>
  new Promise((resolve) => {
    outbox.send({
      ...more,
      make: () => edit,
      onDone: () => resolve({ done: true }),
      onRefused: (refused) => resolve({ refused }),
    });
  });

test("edits go one after another, each on the version that the one before it made", async () => {
  const all = await Promise.all([1, 2, 3].map((n) => send({ n })));
  assert.deepEqual(all, [{ done: true }, { done: true }, { done: true }]);
  assert.deepEqual(
    server.sent.map(({ edit, baseVersion }) => [edit, baseVersion]),
    [
      [{ n: 1 }, 1],
      [{ n: 2 }, 2],
      [{ n: 3 }, 3],
    ],
  );
  assert.equal(new Set(server.sent.map(({ id }) => id)).size, 3);
});

test("an edit that has become pointless by its turn is not sent", async () => {
  const first = send({ n: 1 });
  outbox.send({ make: () => null, onRefused: () => assert.fail("It was refused.") });
  await first;
  await send({ n: 3 });
  assert.deepEqual(
    server.sent.map(({ edit }) => edit),
    [{ n: 1 }, { n: 3 }],
  );
});

test("a lost connection is told, and the same edit is sent with the same id until it is answered", async () => {
  mock.timers.enable({ apis: ["setTimeout"] });
  try {
    server.answers = [lost, answer(503, {}), taken];
    const sent = send({ n: 1 });
    for (const wait of [500, 1000]) {
      await new Promise(setImmediate);
      assert.equal(store.notice?.tone, "waiting");
      assert.equal(kept.size, 1);
      mock.timers.tick(wait);
    }
    assert.deepEqual(await sent, { done: true });
  } finally {
    mock.timers.reset();
  }
  assert.equal(server.sent.length, 3);
  assert.equal(new Set(server.sent.map(({ id }) => id)).size, 1);
  assert.equal(store.notice, null);
  await new Promise(setImmediate);
  assert.equal(kept.size, 0);
});

test("an edit that the server fails at again and again does not hold up those behind it", async () => {
  mock.timers.enable({ apis: ["setTimeout"] });
  try {
    const broken = answer(500, { detail: "Something went wrong." });
    server.answers = [broken, broken, broken, broken];
    const both = Promise.all([send({ n: 1 }), send({ n: 2 })]);
    for (const wait of [500, 1000, 2000]) {
      await new Promise(setImmediate);
      mock.timers.tick(wait);
    }
    const [first, second] = await both;
    assert.match(first.refused?.message ?? "", /Something went wrong/);
    assert.deepEqual(second, { done: true });
  } finally {
    mock.timers.reset();
  }
});

test("what is refused says why, and what somebody else changed comes with both values", async () => {
  server.answers = [
    answer(422, { errors: [{ message: "3x is no length." }] }),
    answer(409, { detail: "Choose.", theirs: "2d", yours: "3d", by: "Bo" }),
    answer(403, {}),
  ];
  assert.equal((await send({ n: 1 })).refused?.message, "3x is no length.");
  const { refused } = await send({ n: 2 });
  assert.deepEqual([refused?.message, refused?.theirs, refused?.yours, refused?.by], ["Choose.", "2d", "3d", "Bo"]);
  assert.match((await send({ n: 3 })).refused?.message ?? "", /could not do this|may not do this/);
  // It is sent anew with one's choice.
  await send({ n: 2 }, { overrule: true });
  assert.deepEqual(
    server.sent.map(({ overrule }) => overrule),
    [false, false, false, true],
  );
});

test("what waits for the coordinator is told, and the plan stays as it was", async () => {
  server.answers = [answer(202, { sentence: "A now takes 3 days." })];
  assert.equal((await send({ n: 1 })).refused?.code, "proposed");
  await new Promise(setImmediate);
  assert.deepEqual(store.notice, { tone: "proposal", text: "Proposed to the coordinator: A now takes 3 days." });
  assert.equal(store.proposals, 1);
  assert.equal(store.project.version, 1);
});

test("whoever only looks sends nothing", async () => {
  store.rights = "look";
  assert.equal((await send({ n: 1 })).refused?.code, "mayNot");
  assert.deepEqual(server.sent, []);
});

test("what a page was closed with before its answer is sent by the next one, as it was and once", async () => {
  server.answers = [() => new Promise(() => {})];
  void send({ n: 1 }, { near: 739_000 });
  await new Promise(setImmediate);
  const [first] = server.sent;
  store.project = { ...store.project, version: 7 };

  const next = new Outbox(store, "p", "token");
  next.resume();
  await new Promise(setImmediate);
  const again = server.sent[1];
  assert.deepEqual([again.id, again.edit, again.baseVersion, again.near], [first.id, { n: 1 }, 1, first.near]);
  assert.notEqual(first.near, null);
  await new Promise(setImmediate);
  assert.equal(kept.size, 0);
  // A third page has nothing left to send.
  new Outbox(store, "p", "token").resume();
  await new Promise(setImmediate);
  assert.equal(server.sent.length, 2);
});

test("edits of other projects are left to their own pages", async () => {
  kept.set("auxilium-unsent-q-1", JSON.stringify([{ id: "x", edit: { n: 1 }, baseVersion: 1 }]));
  kept.set("auxilium-unsent-p-1", "not what it was");
  outbox.resume();
  await new Promise(setImmediate);
  assert.deepEqual(server.sent, []);
  assert.deepEqual([...kept.keys()], ["auxilium-unsent-q-1"]);
});
