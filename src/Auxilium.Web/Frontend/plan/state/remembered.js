// @ts-check
// What one person chose on one project, kept by the server. What it has not got yet is kept here, so that closing the page loses nothing.

import { viewsOf } from "../../shared/own-storage.js";

const PAUSE = 500; // milliseconds after the last change

export class Remembered {
  #address;
  #token;
  #unsent;
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
    this.#unsent = `${viewsOf(me)}${project}`;
    this.#content = this.#left() ?? kept ?? {};
    if (this.#left()) this.#soon();
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
    localStorage.setItem(this.#unsent, JSON.stringify(this.#content));
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
    const body = JSON.stringify(this.#content);
    const headers = { "Content-Type": "application/json", "X-Auxilium-Token": this.#token };
    const answer = await fetch(this.#address, { method: "PUT", headers, body, keepalive: true }).catch(() => null);
    if (answer?.ok && localStorage.getItem(this.#unsent) === body) localStorage.removeItem(this.#unsent);
  }

  /** What the server never got. @returns {Record<string, unknown> | null} */
  #left() {
    try {
      return JSON.parse(localStorage.getItem(this.#unsent) ?? "null");
    } catch {
      return null;
    }
  }
}
