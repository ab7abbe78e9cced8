// @ts-check
// How the sheets of a project ask the server and send edits, and the bottom line that says what each did.

/** @import { Run } from "../plan/state/types.js" */

/** @typedef {{ version: number, ripple: { sentence: Run[] } | null }} Answer */

export class PlanClient {
  #main = /** @type {HTMLElement} */ (document.getElementById("main"));
  #version = Number(this.#main.dataset.version);
  #address = `/api/v1/projects/${this.#main.dataset.project}`;
  /** @type {() => Promise<void> | void} */ #changed;

  /** @param {() => Promise<void> | void} changed draws the sheet anew after an edit */
  constructor(changed) {
    this.#changed = changed;
    document.getElementById("undo")?.addEventListener("click", () => void this.undo());
  }

  get today() {
    return this.#main.dataset.today ?? "";
  }

  /** What the person may do. */
  get rights() {
    return this.#main.dataset.rights ?? "look";
  }

  /** Where the Plan screen of this project is. */
  get plan() {
    return `/projects/${this.#main.dataset.project}`;
  }

  /** @template T @param {string} path below the project @param {AbortSignal} [signal] @returns {Promise<T>} */
  async ask(path, signal) {
    const { ok, body } = await read(fetch(this.#address + path, { signal: signal ?? null }));
    if (!ok) throw new Error(problemOf(body));
    return body;
  }

  /** A stream of lines of JSON. @param {string} path @param {AbortSignal} signal @param {(line: any) => void} take */
  async lines(path, signal, take) {
    const answer = await fetch(this.#address + path, { signal });
    if (!answer.ok || !answer.body) throw new Error(problemOf(await answer.json().catch(() => ({}))));
    let rest = "";
    const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
    for (let part = await reader.read(); !part.done; part = await reader.read()) {
      const lines = (rest + part.value).split("\n");
      rest = lines.pop() ?? "";
      for (const line of lines) if (line) take(JSON.parse(line));
    }
  }

  /** The version of the plan that the page shows. */
  get version() {
    return this.#version;
  }

  /** @template T @param {string} path @param {object} body @returns {Promise<T>} */
  async post(path, body) {
    const headers = { "Content-Type": "application/json", "X-Auxilium-Token": this.#main.dataset.token ?? "" };
    const sent = { method: "POST", headers, body: JSON.stringify(body) };
    const { ok, status, body: content } = await read(fetch(this.#address + path, sent));
    if (status === 403 && !content.detail)
      throw new Error("You may look at this project. To change something, ask who coordinates it.");
    if (!ok) throw new Error(problemOf(content), { cause: content.code });
    return content;
  }

  /**
   * @param {object} edit
   * @param {(problem: string) => void} tell
   * @param {string} [near]
   * @returns {Promise<boolean>} whether it was taken
   */
  async edit(edit, tell, near) {
    return this.#send({ edit, near: near ?? null }, tell);
  }

  /**
   * Takes an entry of the journal back.
   * @param {number} entry
   * @param {(problem: string, conflict: boolean) => void} tell
   * @param {boolean} [overrule] though somebody changed the same since
   */
  async takeBack(entry, tell, overrule = false) {
    return this.#send({ takeBack: entry, overrule }, tell);
  }

  async undo() {
    await this.#send({ takeBack: "lastEdit" }, this.tell);
  }

  /** Says in the bottom line what is wrong with the press of a button. @param {string} problem */
  tell = (problem) => {
    if (problem !== "") this.#say([{ text: problem, strong: false }]);
  };

  /** @param {object} what @param {(problem: string, conflict: boolean) => void} tell */
  async #send(what, tell) {
    try {
      const body = { id: crypto.randomUUID(), baseVersion: this.#version, ...what };
      const answer = await /** @type {Promise<Answer & { proposal?: string, sentence?: string }>} */ (
        this.post("/edits", body)
      );
      tell("", false);
      if (answer.proposal) {
        this.#say([{ text: `Proposed to the coordinator: ${answer.sentence}`, strong: false }]);
        await this.#changed();
        return true;
      }
      this.#version = answer.version;
      if (answer.ripple) this.#say(answer.ripple.sentence);
      await this.#changed();
      return true;
    } catch (error) {
      const { message, cause } = /** @type {Error} */ (error);
      tell(message, cause === "changedMeanwhile");
      return false;
    }
  }

  /** @param {Run[]} sentence */
  #say(sentence) {
    const strip = /** @type {HTMLElement} */ (document.getElementById("strip"));
    strip.hidden = false;
    document.getElementById("strip-text")?.replaceChildren(
      ...sentence.map(({ text, strong }) => {
        const node = document.createElement(strong ? "strong" : "span");
        node.textContent = text;
        return node;
      }),
    );
  }
}

/**
 * The whole answer; what is cut off in the middle is none.
 * @param {Promise<Response>} asked
 * @returns {Promise<{ ok: boolean, status: number, body: any }>}
 */
async function read(asked) {
  try {
    const answer = await asked;
    const isJson = /json/.test(answer.headers.get("Content-Type") ?? "");
    return { ok: answer.ok, status: answer.status, body: isJson ? await answer.json() : {} };
  } catch (error) {
    if (/** @type {Error} */ (error).name === "AbortError") throw error;
    throw new Error("The server does not answer. What you entered is still here: try again in a moment.");
  }
}

/** @param {{ detail?: string, title?: string, errors?: { message: string }[] }} body */
const problemOf = (body) => body.errors?.[0]?.message ?? body.detail ?? body.title ?? "That did not work.";
