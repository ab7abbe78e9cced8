// @ts-check
// What others do to the plan while it is open: shown within a moment, and caught up with after the connection was lost.

/** @import { Store } from "../state/store.js" */
/** @import { Changes } from "../state/types.js" */
/** @import { LiveChange } from "./following.js" */
/** @import { Here } from "../panels/here.js" */
import { HttpTransportType, HubConnectionBuilder, HubConnectionState, LogLevel } from "@microsoft/signalr";
import { Following } from "./following.js";
import { showHere } from "../panels/here.js";

/** Milliseconds after which the others are told which row the focus is on. */
const PAUSE = 400;
/** Milliseconds after which a server that refused the connection is asked again. */
const AGAIN = 1500;
/** Milliseconds after which an answer is no longer waited for. */
const PATIENCE = 15_000;
const WAITS = [0, 500, 1000, 2000, 4000];

/**
 * @param {Store} store
 * @param {string} project
 * @param {string} me
 * @param {import("./outbox.js").Outbox} outbox
 * @param {(task: string) => void} heard something new is said about a task
 */
export function followLive(store, project, me, outbox, heard) {
  const connection = new HubConnectionBuilder()
    // Any of several servers may answer, so there is one connection and nothing to be agreed before it.
    .withUrl("/live", { skipNegotiation: true, transport: HttpTransportType.WebSockets })
    .withAutomaticReconnect({
      nextRetryDelayInMilliseconds: (/** @type {{ previousRetryCount: number }} */ { previousRetryCount: tries }) =>
        (WAITS[tries] ?? 8000) * (0.5 + Math.random()),
    })
    .configureLogging(LogLevel.None)
    .build();
  const following = new Following(store, me, (edit) => outbox.isAwaited(edit), askWhole);
  const show = showHere(store, me);
  /** Id of this page among those who are there. */ let ours = "";

  connection.on("changed", (/** @type {LiveChange} */ change) => following.take(change));
  connection.on("lost", () => following.lose());
  // Another day has begun: the same plan has other states. Not every page asks at once.
  connection.on("day", () => setTimeout(() => following.lose(), Math.random() * 2000));
  connection.on("who", (/** @type {Here[]} */ here) => show(here, ours));
  connection.on("talk", (/** @type {string} */ task, /** @type {number} */ comments, /** @type {number} */ files) => {
    store.talked(task, comments, files);
    heard(task);
  });
  connection.on("money", (/** @type {number} */ version) => {
    document.dispatchEvent(new CustomEvent("money-changed", { detail: version }));
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
    show([], ours);
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
      /** @type {{ id: string, changes: LiveChange[] | null, isLost: boolean }} */ const joined =
        await connection.invoke("Join", project, store.project.version, store.project.edit);
      ours = joined.id;
      document.documentElement.dataset.live = "true";
      following.joined(joined.changes, joined.isLost);
      tellRow();
    } catch (error) {
      document.documentElement.dataset.live = "false";
      // Those who lost access see it at the next edit or reload; a busy server is asked again.
      const isGone = /no such project/.test(/** @type {Error} */ (error).message);
      if (!isGone && connection.state === HubConnectionState.Connected) setTimeout(() => void join(), AGAIN);
    }
  }

  function tellRow() {
    const row = store.row(store.current?.id);
    if (connection.state === HubConnectionState.Connected)
      connection.send("At", row && !row.unsaved ? row.id : null).catch(() => {});
  }

  /** @returns {Promise<Changes | "refused" | null>} */
  async function askWhole() {
    try {
      const answer = await fetch(`/api/v1/projects/${project}/changes`, { signal: AbortSignal.timeout(PATIENCE) });
      if (answer.ok) return await answer.json();
      return answer.status < 500 && answer.status !== 429 ? "refused" : null;
    } catch {
      return null;
    }
  }
}
