// @ts-check
// What others do to the plan while it is open: told within a moment, and caught up with after the connection was away.

/** @import { Store } from "./store.js" */
/** @import { Changes } from "./types.js" */

/** @typedef {{ from: number, to: number, by: string | null, name: string | null, edits: string[], changes: Changes }} LiveChange */
/** @typedef {{ id: string, person: string, name: string, initials: string, hue: number, task: string | null }} Here */

/** Milliseconds after which one is said to be on a row. */
const PAUSE = 400;
/** Milliseconds after which a server that could not let one in is asked again. */
const AGAIN = 1500;
/** Milliseconds that a change waits for the answer that brings the same. */
const HOLD = 400;
/** Milliseconds after which an answer is no longer waited for. */
const PATIENCE = 15_000;
const WAITS = [0, 500, 1000, 2000, 4000];

/** @param {Store} store @param {string} project @param {string} me @param {import("./outbox.js").Outbox} outbox @param {(task: string) => void} heard something new is said about a task */
export function followLive(store, project, me, outbox, heard) {
  const { signalR } = /** @type {any} */ (globalThis);
  const connection = new signalR.HubConnectionBuilder()
    // Any of several servers may answer, so there is one connection and nothing to be agreed before it.
    .withUrl("/live", { skipNegotiation: true, transport: signalR.HttpTransportType.WebSockets })
    .withAutomaticReconnect({
      nextRetryDelayInMilliseconds: (/** @type {{ previousRetryCount: number }} */ { previousRetryCount: tries }) =>
        (WAITS[tries] ?? 8000) * (0.5 + Math.random()),
    })
    .configureLogging(signalR.LogLevel.None)
    .build();
  /** @type {LiveChange[]} */ const waiting = [];
  let isAsking = false;
  /** What is about to be answered to this page anyway, and what came behind it. @type {LiveChange[]} */ const held =
    [];
  /** Id of this page among those who are there. */ let ours = "";

  connection.on("changed", (/** @type {LiveChange} */ change) => take(change));
  connection.on("who", (/** @type {Here[]} */ here) => show(here));
  connection.on("talk", (/** @type {string} */ task, /** @type {number} */ comments, /** @type {number} */ files) => {
    store.talked(task, comments, files);
    heard(task);
  });
  connection.on("proposals", (/** @type {number} */ count) => {
    store.proposals = count;
    store.changed();
  });
  connection.on("notice", (/** @type {number} */ count) => {
    const badge = /** @type {HTMLElement} */ (document.getElementById("notices-count"));
    badge.textContent = String(count);
    badge.hidden = count === 0;
  });
  connection.onreconnected(() => void join());
  connection.onreconnecting(() => {
    document.documentElement.dataset.live = "false";
    show([]);
  });
  void start(0);

  /** The row one is on is told when one stays there. @type {ReturnType<typeof setTimeout> | undefined} */ let timer;
  /** @type {string | null} */ let told = null;
  store.subscribe(() => {
    const at = store.current?.id ?? null;
    if (at === told) return;
    told = at;
    clearTimeout(timer);
    timer = setTimeout(() => tellRow(), PAUSE);
  });
  store.subscribe(mark);

  /** @param {number} tries */
  async function start(tries) {
    try {
      await connection.start();
      await join();
    } catch {
      setTimeout(() => void start(tries + 1), (WAITS[tries] ?? 8000) + 200);
    }
  }

  async function join() {
    try {
      /** @type {{ id: string, changes: LiveChange[] | null }} */ const joined = await connection.invoke(
        "Join",
        project,
        store.project.version,
      );
      ours = joined.id;
      document.documentElement.dataset.live = "true";
      if (joined.changes === null) await askWhole();
      else joined.changes.forEach(take);
      tellRow();
    } catch (error) {
      document.documentElement.dataset.live = "false";
      // Whoever may not be here any more sees so at the next edit or reload; a server that was busy is asked again.
      const isGone = /no such project/.test(/** @type {Error} */ (error).message);
      if (!isGone && connection.state === signalR.HubConnectionState.Connected) setTimeout(() => void join(), AGAIN);
    }
  }

  function tellRow() {
    const row = store.row(store.current?.id);
    if (connection.state === signalR.HubConnectionState.Connected)
      connection.send("At", row && !row.unsaved ? row.id : null).catch(() => {});
  }

  /** @param {LiveChange} change */
  function take(change) {
    if (held.length === 0 && !change.edits.some((edit) => outbox.isAwaited(edit))) {
      apply(change);
      return;
    }
    // Drawn once, by the answer; if that does not come soon, by this.
    if (held.length === 0) setTimeout(release, HOLD);
    held.push(change);
  }

  function release() {
    for (const change of held.splice(0)) apply(change);
  }

  store.subscribe(() => {
    if (held.length > 0 && held[0].to <= store.project.version) release();
  });

  /** @param {LiveChange} change */
  function apply(change) {
    const { version } = store.project;
    if (change.to <= version) return;
    if (isAsking || change.from > version) {
      // Something is missing in between.
      waiting.push(change);
      void askWhole();
      return;
    }
    const { by, name, changes } = change;
    const own = by === me;
    store.apply({
      ...changes,
      canUndo: own || store.canUndo,
      canRedo: store.canRedo,
      sentence: own || !name ? changes.sentence : [{ text: `${name}: `, strong: true }, ...changes.sentence],
    });
  }

  /** Asks for the whole plan until there is an answer: what comes meanwhile waits. */
  async function askWhole() {
    if (isAsking) return;
    isAsking = true;
    for (;;) {
      const signal = AbortSignal.timeout(PATIENCE);
      const answer = await fetch(`/api/v1/projects/${project}/changes`, { signal }).catch(() => null);
      /** @type {Changes | null} */ const changes = answer?.ok ? await answer.json().catch(() => null) : null;
      if (changes) store.apply(changes);
      if (changes || (answer && answer.status < 500 && answer.status !== 429)) break;
      await new Promise((resolve) => setTimeout(resolve, AGAIN));
    }
    isAsking = false;
    for (const change of waiting.splice(0)) apply(change);
  }

  /** @type {Here[]} */ let others = [];

  /** @param {Here[]} here */
  function show(here) {
    others = here.filter(({ id }) => id !== ours);
    const faces = /** @type {HTMLElement} */ (document.getElementById("here"));
    const people = [...new Map(others.filter(({ person }) => person !== me).map((one) => [one.person, one])).values()];
    faces.hidden = people.length === 0;
    faces.setAttribute(
      "aria-label",
      people.length === 0 ? "" : `Also here: ${people.map(({ name }) => name).join(", ")}`,
    );
    faces.replaceChildren(
      ...people.slice(0, 6).map(({ initials, name, hue }) => face(initials, hue, name)),
      ...(people.length > 6 ? [document.createTextNode(`+${people.length - 6}`)] : []),
    );
    mark();
  }

  /** Shows who is on which row, beside the rows: at the line that each is on now. */
  function mark() {
    const layer = document.querySelector("#list .list-body");
    if (!layer) return;
    /** @type {Map<string, Here[]>} */ const on = new Map();
    for (const one of others) {
      if (!one.task || !store.line.has(one.task)) continue;
      on.set(one.task, [...(on.get(one.task) ?? []), one]);
    }
    const badges = /** @type {HTMLElement[]} */ ([...layer.querySelectorAll(".here-badge")]);
    for (const badge of badges) if (!on.has(badge.dataset.on ?? "")) badge.remove();
    for (const [task, here] of on) {
      const [{ initials, hue }] = here;
      const names = [...new Set(here.map(({ name }) => name))];
      const title = names.length === 1 ? `${names[0]} is here` : `${names.join(", ")} are here`;
      let badge = badges.find((known) => known.dataset.on === task);
      if (badge?.title !== title) {
        badge?.remove();
        badge = face(names.length === 1 ? initials : `${initials} +${names.length - 1}`, hue, title);
        badge.classList.add("here-badge");
        badge.dataset.on = task;
        layer.append(badge);
      }
      badge.style.top = `${(store.line.get(task) ?? 0) * store.rowHeight}px`;
    }
  }
}

/** @param {string} initials @param {number} hue @param {string} title */
function face(initials, hue, title) {
  const mark = document.createElement("span");
  mark.className = "initials";
  mark.dataset.hue = String(hue);
  mark.title = title;
  mark.setAttribute("aria-hidden", "true");
  mark.textContent = initials;
  return mark;
}
