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
 * @property {(changes: Changes) => void} [onDone]
 * @property {(refusal: Refusal) => void} onRefused
 * @property {string} [id]
 */

/** @typedef {{ message: string, code?: string, theirs?: string, yours?: string, by?: string }} Refusal */

const MOST_FAILURES = 4;

export class Outbox {
  #store;
  #address;
  #token;
  /** @type {Job[]} */ #jobs = [];
  #sending = false;

  /** @param {Store} store @param {string} project @param {string} token */
  constructor(store, project, token) {
    this.#store = store;
    this.#address = `/api/v1/projects/${project}/edits`;
    this.#token = token;
    addEventListener("beforeunload", (event) => {
      if (this.#jobs.length > 0) event.preventDefault();
    });
  }

  /** @param {Job} job */
  send(job) {
    this.#jobs.push(job);
    if (!this.#sending) void this.#run();
  }

  /** What an edit would do. @param {object} edit @returns {Promise<Ripple | Refusal>} */
  async preview(edit) {
    const answer = await this.#post("?preview=true", this.#body(crypto.randomUUID(), { edit }));
    const body = await answer.json();
    return answer.ok ? body.ripple : { message: messageOf(body) };
  }

  /** Everything about one task. @param {string} task @returns {Promise<Card | Refusal>} */
  async card(task) {
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
    }
    this.#sending = false;
  }

  /** @param {Job} job @param {object} what */
  async #deliver(job, what) {
    job.id ??= crypto.randomUUID();
    const body = this.#body(job.id, {
      ...what,
      overrule: job.overrule ?? false,
      near: job.near === undefined ? null : iso(job.near),
    });
    const answer = await this.#untilAnswered(body);
    if (this.#store.notice?.tone === "waiting") this.#store.notice = null;
    const content = await answer.json().catch(() => ({}));
    if (answer.ok) {
      this.#store.notice = null;
      this.#store.apply(content.changes);
      job.onDone?.(content.changes);
    } else {
      job.onRefused({ ...content, message: messageOf(content) });
    }
    this.#store.changed();
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

/** @param {{ detail?: string, title?: string, errors?: { message: string }[] }} problem */
function messageOf(problem) {
  return problem.errors?.[0]?.message ?? problem.detail ?? problem.title ?? "The server could not do this. Try again.";
}
