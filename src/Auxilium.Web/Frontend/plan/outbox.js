// @ts-check
// Edits on their way to the server: one after another, each sent until it is answered, none applied twice.

/** @import { Store } from "./store.js" */
/** @import { Card, Changes, Ripple } from "./types.js" */
import { iso } from "./time.js";

/**
 * @typedef {object} Job
 * @property {() => object | null} make the edit, made when its turn comes; null when it has become pointless
 * @property {"lastEdit" | "lastTakeBack"} [takeBack] instead of an edit
 * @property {boolean} [overrule]
 * @property {number} [near] the day that dates without a year are closest to
 * @property {number} [seenVersion] that was shown when one began to type it
 * @property {(changes: Changes) => void} [onDone]
 * @property {(refusal: Refusal) => void} onRefused
 * @property {string} [id]
 * @property {number} [baseVersion] of the plan that it was made on, where that was another page's
 */

/** @typedef {{ message: string, code?: string, theirs?: string, yours?: string, by?: string }} Refusal */

const MOST_FAILURES = 4;
const MOST_OWN = 100;

export class Outbox {
  #store;
  #address;
  #token;
  /** @type {Job[]} */ #jobs = [];
  #sending = false;
  #unsent;
  /** Ids of the edits that this page has sent. @type {Set<string>} */ #sent = new Set();

  /** @param {Store} store @param {string} project @param {string} token */
  constructor(store, project, token) {
    this.#store = store;
    this.#unsent = new Unsent(project);
    this.#address = `/api/v1/projects/${project}/edits`;
    this.#token = token;
    addEventListener("beforeunload", (event) => {
      if (this.#jobs.length > 0) event.preventDefault();
    });
  }

  /** @param {Job} job */
  send(job) {
    const { whyNot } = this.#store;
    if (whyNot !== null) {
      job.onRefused({ message: whyNot, code: "mayNot" });
      this.#store.changed();
      return;
    }
    job.id ??= crypto.randomUUID();
    this.#sent.add(job.id);
    this.#jobs.push(job);
    this.#keep();
    if (!this.#sending) void this.#run();
  }

  /** Whether the answer to an edit of this page is on its way. @param {string} edit its id */
  isAwaited(edit) {
    return this.#sending && this.#jobs[0]?.id === edit;
  }

  /** Sends what another page was closed with before it had an answer: with the same ids, so that nothing is applied twice. */
  resume() {
    const tell = (/** @type {Refusal} */ { message }) =>
      this.#store.tell(`An edit made before this page was opened could not be kept. ${message}`);
    for (const { edit, ...job } of this.#unsent.take()) this.send({ ...job, make: () => edit, onRefused: tell });
  }

  #keep() {
    const { version } = this.#store.project;
    this.#unsent.keep(
      this.#jobs.map(({ id, takeBack, overrule, near, baseVersion = version, make }) => ({
        id,
        takeBack,
        overrule,
        near,
        baseVersion,
        edit: takeBack ? null : make(),
      })),
    );
  }

  /** What an edit would do. @param {object} edit @returns {Promise<Ripple | Refusal>} */
  async preview(edit) {
    if (this.#store.whyNot !== null) return { message: this.#store.whyNot };
    const answer = await this.#post("?preview=true", this.#body(crypto.randomUUID(), { edit }));
    const body = await answer.json();
    return answer.ok ? body.ripple : { message: messageOf(body) };
  }

  /** Everything about one task. @param {string} task @returns {Promise<Card | Refusal>} */
  async card(task) {
    if (this.#store.rights === "shared") return { message: "A link shows the plan, and no cards of its tasks." };
    const answer = await fetch(this.#address.replace(/edits$/, `tasks/${encodeURIComponent(task)}`)).catch(() => null);
    if (!answer) return { message: "The server does not answer, so it cannot show this card. Try again in a moment." };
    const body = await answer.json();
    return answer.ok ? body : { message: messageOf(body) };
  }

  /** How a pasted list is understood. @param {object} list @returns {Promise<import("./paste.js").Reading | Refusal>} */
  async readList(list) {
    const answer = await this.#post("", JSON.stringify(list), this.#address.replace(/edits$/, "lists")).catch(
      () => null,
    );
    if (!answer) return { message: "The server does not answer, so it cannot read the list. Try again in a moment." };
    const body = await answer.json().catch(() => ({}));
    return answer.ok ? body : { message: messageOf(body) };
  }

  /** When a task would come by a rule. @param {string} task @param {object} rule @returns {Promise<import("./repeat.js").Told | Refusal>} */
  async askRepeat(task, rule) {
    const address = this.#address.replace(/edits$/, `tasks/${encodeURIComponent(task)}/repeats`);
    const answer = await this.#post("", JSON.stringify(rule), address).catch(() => null);
    if (!answer) return { message: "The server does not answer, so it cannot say when. Try again in a moment." };
    const body = await answer.json().catch(() => ({}));
    return answer.ok ? body : { message: messageOf(body) };
  }

  /** What the newest edit did. @returns {Promise<Ripple | Refusal>} */
  async last() {
    const answer = await fetch(`${this.#address}/last`).catch(() => null);
    if (!answer) return { message: "The server does not answer, so it cannot say what moved. Try again in a moment." };
    const body = await answer.json();
    return answer.ok ? body.ripple : { message: messageOf(body) };
  }

  async #run() {
    this.#sending = true;
    for (let job = this.#jobs[0]; job; job = this.#jobs[0]) {
      const what = job.takeBack ? { takeBack: job.takeBack } : { edit: job.make() };
      if (job.takeBack || what.edit) await this.#deliver(job, what);
      this.#jobs.shift();
      this.#keep();
    }
    this.#sending = false;
  }

  /** @param {Job} job @param {object} what */
  async #deliver(job, what) {
    const body = this.#body(/** @type {string} */ (job.id), {
      ...(job.baseVersion === undefined ? {} : { baseVersion: job.baseVersion }),
      ...what,
      ...(job.seenVersion === undefined ? {} : { seenVersion: job.seenVersion, own: [...this.#sent].slice(-MOST_OWN) }),
      overrule: job.overrule ?? false,
      near: job.near === undefined ? null : iso(job.near),
    });
    const answer = await this.#untilAnswered(body);
    if (this.#store.notice?.tone === "waiting") this.#store.notice = null;
    const content = await answer.json().catch(() => ({}));
    if (answer.status === 202) {
      // A member's change waits for the coordinator: the plan is as it was.
      job.onRefused({ message: "", code: "proposed" });
      this.#store.notice = { tone: "proposal", text: `Proposed to the coordinator: ${content.sentence}` };
      this.#store.proposals++;
      this.#store.changed();
    } else if (answer.ok) {
      this.#store.notice = null;
      this.#store.apply(content.changes);
      job.onDone?.(content.changes);
      this.#store.flush();
    } else {
      job.onRefused({ ...content, message: messageOf(content) });
      this.#store.changed();
    }
  }

  /** A dropped connection loses nothing: the same edit, with the same id, is sent until there is an answer. @param {string} body */
  async #untilAnswered(body) {
    let broken = 0;
    for (let wait = 500; ; wait = Math.min(wait * 2, 8000)) {
      const answer = await this.#post("?changes=true", body).catch(() => null);
      // One that the server fails at again and again must not hold up those behind it.
      if (answer && (answer.status < 500 || (answer.status === 500 && ++broken === MOST_FAILURES))) return answer;
      this.#store.notice = {
        tone: "waiting",
        text: "Not saved yet: the server does not answer. Your edits are kept here and sent again.",
      };
      this.#store.changed();
      await new Promise((resolve) => {
        const timer = setTimeout(resolve, wait);
        addEventListener("online", () => (clearTimeout(timer), resolve(null)), { once: true });
      });
    }
  }

  /** @param {string} id @param {object} what */
  #body(id, what) {
    return JSON.stringify({ id, baseVersion: this.#store.project.version, ...what });
  }

  /** @param {string} query @param {string} body @param {string} [address] */
  #post(query, body, address = this.#address) {
    const headers = { "Content-Type": "application/json", "X-Auxilium-Token": this.#token };
    return fetch(address + query, { method: "POST", headers, body });
  }
}

/** Edits of a project that have no answer yet, kept by the browser: closing the page loses none. */
class Unsent {
  #prefix;
  #key;

  /** @param {string} project */
  constructor(project) {
    this.#prefix = `auxilium-unsent-${project}-`;
    this.#key = this.#prefix + crypto.randomUUID();
  }

  /** @param {object[]} jobs */
  keep(jobs) {
    if (jobs.length === 0) localStorage.removeItem(this.#key);
    else localStorage.setItem(this.#key, JSON.stringify(jobs));
  }

  /** What other pages left, the oldest first. @returns {{ id: string, takeBack?: "lastEdit" | "lastTakeBack", overrule?: boolean, near?: number, baseVersion: number, edit: object | null }[]} */
  take() {
    const keys = Object.keys(localStorage).filter((key) => key.startsWith(this.#prefix) && key !== this.#key);
    const left = keys.flatMap((key) => {
      try {
        return JSON.parse(localStorage.getItem(key) ?? "[]");
      } catch {
        return [];
      }
    });
    for (const key of keys) localStorage.removeItem(key);
    return left;
  }
}

/** What is wrong where the server says no more than that. @type {Record<number, string>} */
const PLAIN = {
  401: "You are signed out here. Sign in again in another window and try again: what you typed stays.",
  403: "You may not do this here: ask who coordinates the project.",
};

/** @param {{ status?: number, detail?: string, title?: string, errors?: { message: string }[] }} problem */
function messageOf(problem) {
  if (!problem.detail && !problem.errors && PLAIN[problem.status ?? 0]) return PLAIN[problem.status ?? 0];
  return problem.errors?.[0]?.message ?? problem.detail ?? problem.title ?? "The server could not do this. Try again.";
}
