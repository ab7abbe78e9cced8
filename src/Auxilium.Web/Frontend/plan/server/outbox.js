// @ts-check
// Edits on their way to the server: one after another, each sent until it is answered, none applied twice.

/** @import { Store } from "../state/store.js" */
/** @import { Card, Changes, Ripple } from "../state/types.js" */
import { unsentOf } from "../../shared/own-storage.js";
import { iso } from "../state/time.js";

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

/**
 * @typedef {{ status: number, content: any, pause: number }} Answer status 0 where there was none, or not the whole of it; pause in
 * milliseconds, as the server asks for
 */
/** @typedef {{ message: string, code?: string, theirs?: string, yours?: string, by?: string }} Refusal */

/** After how many failures of one edit the person is told. */
const MANY = 4;
const MOST_OWN = 100;
/** Milliseconds after which an answer is no longer waited for. */
const PATIENCE = 30_000;
/** A file may take a while to arrive and to be read. */
const FILE_PATIENCE = 90_000;
const LONGEST_WAIT = 15_000;

/** Why an edit is not saved yet. */
const WAITING = {
  away: "Not saved yet: the server does not answer. Your edits are kept here and sent again.",
  busy: "Not saved yet: the server has much to do. Your edits are kept here and sent again.",
  broken: "Not saved yet: the server fails at this edit. It is kept here and sent again.",
  signedOut: "Not saved: you are signed out. Your edits are kept here: sign in again in another window.",
  outOfDate:
    "Not saved: somebody else signed in here since. Your edits are kept: sign in again as yourself and reload.",
};

export class Outbox {
  #store;
  #address;
  #token;
  /** @type {Job[]} */ #jobs = [];
  #sending = false;
  #unsent;
  /** Ids of the edits that this page has sent. @type {Set<string>} */ #sent = new Set();

  /** @param {Store} store @param {string} project @param {string} token @param {string} me id of the person */
  constructor(store, project, token, me) {
    this.#store = store;
    /** Id of the project. */ this.project = project;
    this.#unsent = new Unsent(`${unsentOf(me)}${project}:`);
    this.#address = `/api/v1/projects/${project}/`;
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
    try {
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
    } catch (error) {
      // A browser that keeps nothing more, or an edit that cannot be made: what waits is sent all the same.
      console.error(error);
    }
  }

  /** What an edit would do. @param {object} edit @returns {Promise<Ripple | Refusal>} */
  async preview(edit) {
    if (this.#store.whyNot !== null) return { message: this.#store.whyNot };
    const { status, content } = await this.#post("edits?preview=true", this.#body(crypto.randomUUID(), { edit }));
    if (status !== 200) return refusalOf(status, content, "cannot say what this would do");
    if (content.money) content.ripple.sentence.push({ text: ` ${content.money.sentence}`, strong: false });
    return content.ripple;
  }

  /** Everything about one task. @param {string} task @returns {Promise<Card | Refusal>} */
  async card(task) {
    if (this.#store.rights === "shared") return { message: "A link shows the plan, and no cards of its tasks." };
    if (this.#store.rights === "past")
      return { message: "A card tells of a task as it is now: go back to now to open it." };
    const { status, content } = await this.#ask(`tasks/${encodeURIComponent(task)}`);
    return status === 200 ? content : refusalOf(status, content, "cannot show this card");
  }

  /** How a pasted list is understood. @param {object} list @returns {Promise<import("../panels/paste.js").Reading | Refusal>} */
  async readList(list) {
    const { status, content } = await this.#post("lists", JSON.stringify(list));
    return status === 200 ? content : refusalOf(status, content, "cannot read the list");
  }

  /**
   * The list that a file has, and how it is understood.
   * @param {File} file
   * @param {Record<string, string | number | boolean | null | undefined>} how with “commit”, it is added too
   * @returns {Promise<import("../panels/paste.js").FileRead | Refusal>}
   */
  async readFile(file, { commit, ...how }) {
    const form = new FormData();
    form.append("file", file);
    for (const [name, value] of Object.entries(how))
      if (value !== null && value !== undefined) form.append(name, String(value));
    const { status, content } = await this.#post(`imports${commit ? "?commit=true" : ""}`, form, FILE_PATIENCE);
    return status === 200 ? content : refusalOf(status, content, "cannot read the file");
  }

  /** The organisation's price list. @returns {Promise<import("../panels/prices.js").Price[] | Refusal>} */
  async prices() {
    const { status, content } = await this.#ask("price-list");
    return status === 200 ? content : refusalOf(status, content, "cannot show the price list");
  }

  /**
   * When a task would come by a rule.
   * @param {string} task
   * @param {object} rule
   * @returns {Promise<import("../panels/repeat.js").Told | Refusal>}
   */
  async askRepeat(task, rule) {
    const { status, content } = await this.#post(`tasks/${encodeURIComponent(task)}/repeats`, JSON.stringify(rule));
    return status === 200 ? content : refusalOf(status, content, "cannot say when");
  }

  /** What the newest edit did. @returns {Promise<Ripple | Refusal>} */
  async last() {
    const { status, content } = await this.#ask("edits/last");
    return status === 200 ? content.ripple : refusalOf(status, content, "cannot say what moved");
  }

  async #run() {
    this.#sending = true;
    for (let job = this.#jobs[0]; job; job = this.#jobs[0]) {
      try {
        const what = job.takeBack ? { takeBack: job.takeBack } : { edit: job.make() };
        if (job.takeBack || what.edit) await this.#deliver(job, what);
      } catch (error) {
        // Whatever goes wrong with one edit, those behind it go on.
        this.#store.tell(`This edit could not be sent. ${/** @type {Error} */ (error).message}`);
        console.error(error);
      }
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
    const { status, content } = await this.#untilAnswered(body);
    if (this.#store.notice?.tone === "waiting") this.#store.notice = null;
    if (status === 202) {
      // A member's change waits for the coordinator: the plan is as it was.
      job.onRefused({ message: "", code: "proposed" });
      this.#store.notice = { tone: "proposal", text: `Proposed to the coordinator: ${content.sentence}` };
      this.#store.proposals++;
      this.#store.changed();
    } else if (status < 300) {
      this.#store.notice = null;
      this.#store.apply(content.changes);
      if (content.money) this.#store.costs(content.money.sentence);
      job.onDone?.(content.changes);
      this.#store.flush();
    } else {
      job.onRefused(refusalOf(status, content));
      this.#store.changed();
    }
  }

  /**
   * A dropped connection loses nothing, nor does a server that fails or a sign-in that ended: the same edit, with the same id, is sent
   * until there is an answer to it.
   * @param {string} body
   * @returns {Promise<Answer>}
   */
  async #untilAnswered(body) {
    let broken = 0;
    let isDropped = false;
    for (let wait = 500; !isDropped; wait = Math.min(wait * 2, LONGEST_WAIT)) {
      const answer = await this.#post("edits?changes=true", body, Math.max(PATIENCE, 4 * wait));
      const why = whyAgain(answer);
      if (why === null) return answer;
      if (isDropped) break;
      if (answer.status === 500) broken++;
      await new Promise((resolve) => {
        const timer = setTimeout(resolve, Math.max(wait, answer.pause), null);
        const goOn = () => (clearTimeout(timer), resolve(null));
        addEventListener("online", goOn, { once: true });
        const isBroken = broken >= MANY;
        // Only a person gives an edit up: what the server cannot do today it may do tomorrow.
        const drop = isBroken ? () => ((isDropped = true), goOn()) : undefined;
        this.#store.notice = { tone: "waiting", text: WAITING[isBroken ? "broken" : why], drop };
        this.#store.changed();
      });
    }
    return { status: 499, content: { detail: "This edit was discarded. Everything else is kept." }, pause: 0 };
  }

  /** @param {string} id @param {object} what */
  #body(id, what) {
    return JSON.stringify({ id, baseVersion: this.#store.project.version, ...what });
  }

  /** @param {string} path @param {string | FormData} body @param {number} [patience] */
  #post(path, body, patience) {
    // A form says itself where its parts end.
    /** @type {Record<string, string>} */
    const type = typeof body === "string" ? { "Content-Type": "application/json" } : {};
    const headers = { ...type, "X-Auxilium-Token": this.#token };
    return this.#ask(path, { method: "POST", headers, body }, patience);
  }

  /**
   * Asks the server once. It never fails: an answer that is cut off in the middle is none.
   * @param {string} path
   * @param {RequestInit} [how]
   * @param {number} [patience] milliseconds after which an answer is no longer waited for
   * @returns {Promise<Answer>}
   */
  async #ask(path, how = {}, patience = PATIENCE) {
    try {
      const answer = await fetch(this.#address + path, { ...how, signal: AbortSignal.timeout(patience) });
      const pause = 1000 * Number(answer.headers.get("Retry-After")) || 0;
      const isJson = /json/.test(answer.headers.get("Content-Type") ?? "");
      const text = await answer.text();
      return { status: answer.status, content: isJson ? JSON.parse(text) : {}, pause };
    } catch {
      return { status: 0, content: {}, pause: 0 };
    }
  }
}

/** Why an edit is sent again; null where this is the answer to it. @param {Answer} answer @returns {keyof typeof WAITING | null} */
function whyAgain({ status, content }) {
  if (status === 401) return "signedOut";
  if (content.code === "pageOutOfDate") return "outOfDate";
  if (status === 429) return "busy";
  if (status === 0 || status === 408 || status >= 500) return "away";
  // An answer that says it was done and not what, was cut off on its way.
  return status === 200 && !content.changes ? "away" : null;
}

/** Edits of one person and project that have no answer yet, kept by the browser: closing the page loses none. */
class Unsent {
  #prefix;
  #key;

  /** @param {string} prefix */
  constructor(prefix) {
    this.#prefix = prefix;
    this.#key = this.#prefix + crypto.randomUUID();
  }

  /** @param {object[]} jobs */
  keep(jobs) {
    if (jobs.length === 0) localStorage.removeItem(this.#key);
    else localStorage.setItem(this.#key, JSON.stringify(jobs));
  }

  /**
   * What other pages left, the oldest first.
   * @returns
   * {{ id: string, takeBack?: "lastEdit" | "lastTakeBack", overrule?: boolean, near?: number, baseVersion: number,
   *   edit: object | null }[]}
   */
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

/**
 * @param {number} status
 * @param {any} content
 * @param {string} cannot what the server could not do, where it does not answer
 * @returns {Refusal}
 */
function refusalOf(status, content, cannot = "cannot do this") {
  if (status === 0) return { message: `The server does not answer, so it ${cannot}. Try again in a moment.` };
  const plain = content.detail || content.errors ? null : PLAIN[status];
  const message = plain ?? content.errors?.[0]?.message ?? content.detail ?? content.title;
  return { ...content, message: message ?? "The server could not do this. Try again." };
}
