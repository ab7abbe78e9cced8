// @ts-check
// What one person chose on one project, kept by the server. What it has not got yet is kept here, so that closing the page loses nothing.

import { viewsOf } from "../../shared/own-storage.js";

const PAUSE = 500; // milliseconds after the last change

/** @typedef {{ content: Record<string, unknown>, savedAt: number | null }} Copy what is kept here; null while the server has not got it */

export class Remembered {
  #address;
  #token;
  #key;
  /** @type {Record<string, unknown>} */ #content;
  /** @type {ReturnType<typeof setTimeout> | undefined} */ #timer;

  /**
   * @param {string} project
   * @param {string} token
   * @param {string} me id of the person
   * @param {Record<string, unknown> | null} kept what the server has
   */
  constructor(project, token, me, kept) {
    this.#address = `/api/v1/projects/${project}/view`;
    this.#token = token;
    this.#key = `${viewsOf(me)}${project}`;
    const copy = this.#copy();
    // What was saved while this page was being fetched, the page may have missed.
    const isNewer = copy !== null && (copy.savedAt === null || copy.savedAt >= Math.floor(performance.timeOrigin));
    this.#content = (isNewer ? copy.content : kept) ?? {};
    if (copy?.savedAt === null) this.#soon();
    else if (!isNewer) localStorage.removeItem(this.#key);
    addEventListener("pagehide", () => {
      if (this.#timer !== undefined) void this.#send();
    });
  }

  /** @param {string} name @returns {any} */
  get(name) {
    return this.#content[name];
  }

  /** @param {string} name @param {unknown} value */
  set(name, value) {
    this.#content = { ...this.#content, [name]: value };
    this.#keep(null);
    this.#soon();
  }

  #soon() {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.#send(), PAUSE);
  }

  async #send() {
    this.#timer = undefined;
    // Whoever sees a plan by a link has nowhere to keep it but here.
    if (this.#token === "") return;
    const content = this.#content;
    const body = JSON.stringify(content);
    const headers = { "Content-Type": "application/json", "X-Auxilium-Token": this.#token };
    const answer = await fetch(this.#address, { method: "PUT", headers, body, keepalive: true }).catch(() => null);
    if (answer?.ok && this.#content === content) this.#keep(Date.now());
  }

  /** @param {number | null} savedAt */
  #keep(savedAt) {
    localStorage.setItem(this.#key, JSON.stringify({ content: this.#content, savedAt }));
  }

  /** @returns {Copy | null} */
  #copy() {
    try {
      const copy = JSON.parse(localStorage.getItem(this.#key) ?? "null");
      return copy?.content ? copy : null;
    } catch {
      return null;
    }
  }
}
