// @ts-check
// How the Load page asks the server, sends edits of any project, and says in the bottom line what each did.

/** @import { Card, Run } from "../plan/state/types.js" */
/** @import { LoadAnswer } from "./model.js" */

/** @typedef {{ person: string, task: string, day: string, minutes: number }} LoadChange */
/** @typedef {{ sentence: Run[], finishBefore: string, finishAfter: string }} Ripple */

const main = /** @type {HTMLElement} */ (document.getElementById("main"));

export class LoadServer {
  /** The project whose page it is; empty for all. */ project = main.dataset.project ?? "";
  /** What the person may do in it. */ rights = main.dataset.rights ?? "look";
  /** @type {Map<string, number>} */ #versions = new Map();
  /** @type {() => Promise<void>} */ #changed;
  #last = "";

  /** @param {() => Promise<void>} changed draws the page anew after an edit */
  constructor(changed) {
    this.#changed = changed;
    if (this.project) this.#versions.set(this.project, Number(main.dataset.version));
    document.getElementById("undo")?.addEventListener("click", () => void this.undo());
  }

  get today() {
    return main.dataset.today ?? "";
  }

  /** @param {string} from @param {string} to @returns {Promise<LoadAnswer>} */
  async load(from, to) {
    const of = this.project ? `&projects=${this.project}` : "";
    const answer = await this.#ask(`/api/v1/load?from=${from}&to=${to}${of}`);
    for (const { id, version } of answer.projects) this.#versions.set(id, version);
    return answer;
  }

  /** Who works on a task, the owner first. @param {string} project @param {string} task @returns {Promise<Card["people"]>} */
  async peopleOn(project, task) {
    return (await this.#ask(`/api/v1/projects/${project}/tasks/${task}`)).people;
  }

  /**
   * What an edit would do, with whose load.
   * @param {string} project @param {object} edit
   * @returns {Promise<{ ripple: Ripple, load: LoadChange[] }>}
   */
  preview(project, edit) {
    const body = { id: crypto.randomUUID(), baseVersion: this.#versions.get(project) ?? 0, edit };
    return this.post(project, "/edits?preview=true&load=true", body);
  }

  /** @param {string} project @param {object} edit @returns {Promise<string>} what is wrong with it; empty where it was taken */
  async edit(project, edit) {
    return this.#send(project, { edit });
  }

  async undo() {
    await this.#send(this.#last || this.project, { takeBack: "lastEdit" });
  }

  /** @template T @param {string} project @param {string} path @param {object} body @returns {Promise<T>} */
  post(project, path, body) {
    return this.#ask(`/api/v1/projects/${project}${path}`, body);
  }

  /**
   * A stream of lines of JSON.
   * @param {string} project @param {string} path @param {object} body
   * @param {AbortSignal} signal @param {(line: any) => void} take
   */
  async lines(project, path, body, signal, take) {
    const answer = await fetch(`/api/v1/projects/${project}${path}`, { ...this.#sent(body), signal });
    if (!answer.ok || !answer.body) throw new Error(problemOf(await answer.json().catch(() => ({}))));
    let rest = "";
    const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
    for (let part = await reader.read(); !part.done; part = await reader.read()) {
      const lines = (rest + part.value).split("\n");
      rest = lines.pop() ?? "";
      for (const line of lines) if (line) take(JSON.parse(line));
    }
  }

  /** @param {Run[]} sentence @param {boolean} [done] whether it can be taken back */
  say(sentence, done = true) {
    const strip = /** @type {HTMLElement} */ (document.getElementById("strip"));
    strip.hidden = false;
    const undo = document.getElementById("undo");
    if (undo) undo.hidden = !done || !this.#last;
    document.getElementById("strip-text")?.replaceChildren(
      ...sentence.map(({ text, strong }) => {
        const node = document.createElement(strong ? "strong" : "span");
        node.textContent = text;
        return node;
      }),
    );
  }

  /** @param {string} project @param {object} what */
  async #send(project, what) {
    try {
      const body = { id: crypto.randomUUID(), baseVersion: this.#versions.get(project) ?? 0, ...what };
      const answer = await /** @type {Promise<any>} */ (this.post(project, "/edits", body));
      if (answer.proposal) {
        this.say([{ text: `Proposed to the coordinator: ${answer.sentence}`, strong: false }], false);
        return "";
      }
      this.#last = project;
      this.#versions.set(project, answer.version);
      if (answer.ripple) this.say(answer.ripple.sentence);
      await this.#changed();
      return "";
    } catch (error) {
      const { message } = /** @type {Error} */ (error);
      this.say([{ text: message, strong: false }]);
      return message;
    }
  }

  /** @param {object} body */
  #sent(body) {
    const headers = { "Content-Type": "application/json", "X-Auxilium-Token": main.dataset.token ?? "" };
    return { method: "POST", headers, body: JSON.stringify(body) };
  }

  /** @param {string} address @param {object} [body] @returns {Promise<any>} */
  async #ask(address, body) {
    const answer = await fetch(address, body ? this.#sent(body) : {}).catch(() => null);
    if (!answer) throw new Error("The server does not answer. What you entered is still here: try again in a moment.");
    const content = await answer.json().catch(() => ({}));
    if (!answer.ok) throw new Error(problemOf(content));
    return content;
  }
}

/** @param {{ detail?: string, title?: string, errors?: { message: string }[] }} body */
const problemOf = (body) => body.errors?.[0]?.message ?? body.detail ?? body.title ?? "That did not work.";
