// @ts-check
// Edits on their way to the server: in turn, each until it is answered, kept where the page is closed before.
import assert from "node:assert/strict";
import test, { beforeEach, mock } from "node:test";
import { Outbox } from "../../src/Auxilium.Web/Frontend/plan/server/outbox.js";
import { forget, unsavedEdits } from "../../src/Auxilium.Web/Frontend/shared/own-storage.js";
import { Store } from "../../src/Auxilium.Web/Frontend/plan/state/store.js";
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
  outbox = new Outbox(store, "p", "token", "imke");
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

/**
 * Sends an edit and waits until it is taken or refused.
 * @param {object} edit
 * @param {object} [more]
 * @returns {Promise<{ done?: true, refused?: import("../../src/Auxilium.Web/Frontend/plan/server/outbox.js").Refusal }>}
 */
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

/** Lets the outbox wait as long as it wants, until something holds. @param {() => boolean} holds */
async function untilHolds(holds) {
  for (let i = 0; i < 200 && !holds(); i++) {
    await new Promise(setImmediate);
    mock.timers.tick(60_000);
  }
  assert.ok(holds());
}

test("an edit that the server fails at is kept and sent again, until it is saved or somebody discards it", async () => {
  mock.timers.enable({ apis: ["setTimeout"] });
  try {
    const broken = answer(500, { detail: "Something went wrong." });
    server.answers = Array.from({ length: 9 }, () => broken);
    const kept = send({ n: 1 });
    await untilHolds(() => server.sent.length === 10);
    assert.deepEqual(await kept, { done: true });

    server.answers = Array.from({ length: 50 }, () => broken);
    const both = Promise.all([send({ n: 2 }), send({ n: 3 })]);
    await untilHolds(() => store.notice?.drop !== undefined);
    server.answers = [];
    store.notice?.drop?.();
    const [first, second] = await both;
    assert.match(first.refused?.message ?? "", /discarded/);
    assert.deepEqual(second, { done: true });
  } finally {
    mock.timers.reset();
  }
});

const headers = { "Content-Type": "application/json" };
const cut = async () => {
  const start = (/** @type {ReadableStreamDefaultController} */ stream) => (
    stream.enqueue(new TextEncoder().encode('{"version": 2, "chan')),
    stream.error(new TypeError("The connection is gone."))
  );
  return new Response(new ReadableStream({ start }), { headers });
};

for (const [what, bad] of /** @type {const} */ ([
  ["cut off within its body", cut],
  ["half a body", async () => new Response('{"version": 2, "chan', { headers })],
  ["no body", async () => new Response("", { headers })],
  ["a page of something in between", async () => new Response("<h1>Bad gateway</h1>", { status: 502 })],
  ["a page that says all is well", async () => new Response("<h1>Welcome</h1>")],
  ["a body without what changed", answer(200, { version: 2 })],
  ["that took too long", answer(408, { detail: "Too slow." })],
  ["for somebody who asks too often", async () => new Response("", { status: 429, headers: { "Retry-After": "7" } })],
  ["of a database that changes over", answer(503, { detail: "Try again in a moment." })],
]))
  test(`an answer ${what} is none: the edit is sent again with its id, and those behind it after it`, async () => {
    mock.timers.enable({ apis: ["setTimeout"] });
    try {
      server.answers = [bad, bad, taken];
      const both = Promise.all([send({ n: 1 }), send({ n: 2 })]);
      await untilHolds(() => server.sent.length === 4);
      assert.deepEqual(await both, [{ done: true }, { done: true }]);
      assert.equal(new Set(server.sent.slice(0, 3).map(({ id }) => id)).size, 1);
    } finally {
      mock.timers.reset();
    }
  });

test("an answer that never comes is given up, and the edit is sent again", async () => {
  const patience = AbortSignal.timeout;
  AbortSignal.timeout = () => AbortSignal.abort();
  mock.timers.enable({ apis: ["setTimeout"] });
  try {
    let isDown = true;
    const fetched = globalThis.fetch;
    globalThis.fetch = async (address, how) => {
      if (!isDown) return fetched(address, how);
      isDown = false;
      return new Promise((_, reject) => reject(how?.signal?.reason));
    };
    const sent = send({ n: 1 });
    await untilHolds(() => server.sent.length === 1);
    assert.deepEqual(await sent, { done: true });
  } finally {
    AbortSignal.timeout = patience;
    mock.timers.reset();
  }
});

test("whatever breaks in the page over one edit, those behind it are sent", async () => {
  const said = mock.method(console, "error", () => {});
  const broken = () => {
    throw new Error("Something in the page broke.");
  };
  server.answers = [taken, answer(422, { detail: "No." })];
  outbox.send({ make: broken, onRefused: () => {} });
  outbox.send({ make: () => ({ n: 1 }), onDone: broken, onRefused: () => {} });
  outbox.send({ make: () => ({ n: 2 }), onRefused: broken });
  assert.deepEqual(await send({ n: 3 }), { done: true });
  assert.ok(said.mock.callCount() >= 3);
  said.mock.restore();
});

test("whoever is signed out keeps their edits, which are sent once they are back", async () => {
  mock.timers.enable({ apis: ["setTimeout"] });
  try {
    server.answers = [answer(401, {}), answer(400, { code: "pageOutOfDate", detail: "Reload." }), taken];
    const sent = send({ n: 1 });
    await new Promise(setImmediate);
    assert.match(store.notice?.text ?? "", /signed out/);
    assert.equal(kept.size, 1);
    mock.timers.tick(500);
    await new Promise(setImmediate);
    await new Promise(setImmediate);
    assert.match(store.notice?.text ?? "", /somebody else signed in/);
    await untilHolds(() => server.sent.length === 3);
    assert.deepEqual(await sent, { done: true });
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
  // It is sent again with the choice.
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

  const next = new Outbox(store, "p", "token", "imke");
  next.resume();
  await new Promise(setImmediate);
  const again = server.sent[1];
  assert.deepEqual([again.id, again.edit, again.baseVersion, again.near], [first.id, { n: 1 }, 1, first.near]);
  assert.notEqual(first.near, null);
  await new Promise(setImmediate);
  assert.equal(kept.size, 0);
  // A third page has nothing left to send.
  new Outbox(store, "p", "token", "imke").resume();
  await new Promise(setImmediate);
  assert.equal(server.sent.length, 2);
});

test("edits of other projects and other people are left to their own pages, until their person signs out", async () => {
  const edit = JSON.stringify([{ id: "x", edit: { n: 1 }, baseVersion: 1 }]);
  kept.set("auxilium-unsent:imke:q:1", edit);
  kept.set("auxilium-unsent:oona:p:1", edit);
  kept.set("auxilium-view:oona:p", "{}");
  kept.set("auxilium-unsent:imke:p:1", "not what it was");
  outbox.resume();
  await new Promise(setImmediate);
  assert.deepEqual(server.sent, []);
  assert.deepEqual([...kept.keys()], ["auxilium-unsent:imke:q:1", "auxilium-unsent:oona:p:1", "auxilium-view:oona:p"]);
  assert.deepEqual([unsavedEdits("oona"), unsavedEdits("bert")], [1, 0]);
  forget("oona");
  assert.deepEqual([...kept.keys()], ["auxilium-unsent:imke:q:1"]);
});
