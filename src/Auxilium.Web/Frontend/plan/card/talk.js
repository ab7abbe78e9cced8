// @ts-check
// What people say about a task and the files they add. It is not part of the plan: it is loaded separately, and saved at once.

/** @import { Store } from "../state/store.js" */
import { sizeOf, whyTooLarge } from "../../shared/files.js";
import { momentInWords } from "../../shared/moments.js";
import { element, quietButton } from "./fields.js";

/** @typedef {{ id: number, person: string, hue: number, at: string, text: string, own: boolean }} Comment */
/**
 * @typedef {{ id: string, name: string, type: string, size: number, person: string, at: string, address: string, mayRemove: boolean }}
 * KeptFile
 */
/** @typedef {{ comments: Comment[], files: KeptFile[], worked: { person: string, hours: number }[] }} Talk */

export class TaskTalk {
  #store;
  #address;
  #token;
  #task = "";
  /** What was begun and not sent, by task. @type {Map<string, string>} */ #drafts = new Map();
  #worked = element("p", { class: "hint" });
  #names = element("div", { class: "mention-names", role: "group", "aria-label": "Mention" });
  #said = element("ol", { class: "comments" });
  #kept = element("ul", { class: "files" });
  #problem = element("p", { class: "problem", role: "alert" });
  #fileProblem = element("p", { class: "problem", role: "alert" });
  #text = /** @type {HTMLTextAreaElement} */ (
    element("textarea", { class: "input", rows: "3", "aria-label": "Comment", "data-field": "comment" })
  );
  #file = /** @type {HTMLInputElement} */ (
    element("input", { type: "file", class: "file-input", "aria-label": "Add a file" })
  );
  #send = /** @type {HTMLButtonElement} */ (quietButton("Add comment", () => void this.#say()));

  /** @param {Store} store @param {string} project @param {string} token */
  constructor(store, project, token) {
    this.#store = store;
    this.#address = `/api/v1/projects/${project}/tasks`;
    this.#token = token;
    this.#text.addEventListener("keydown", (event) => {
      if (event.key !== "Enter" || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      void this.#say();
    });
    this.#text.addEventListener("input", () => this.#offerNames());
    this.#file.addEventListener("change", () => {
      const [file] = this.#file.files ?? [];
      if (file) void this.#add(file);
    });
  }

  /** The parts of the card. What was begun for a task is there when its card is opened again. @param {string} task */
  partsOf(task) {
    if (task !== this.#task) {
      this.#drafts.set(this.#task, this.#text.value);
      this.#task = task;
      this.#text.value = this.#drafts.get(task) ?? "";
      this.#problem.textContent = this.#fileProblem.textContent = "";
      this.#draw({ comments: [], files: [], worked: [] }, false);
      void this.#ask(task, "/talk", {});
    }
    return {
      comments: this.#store.whyNot
        ? [this.#worked, this.#said]
        : [this.#worked, this.#said, this.#text, this.#names, this.#problem, this.#send],
      files: this.#store.whyNot ? [this.#kept] : [this.#kept, this.#file, this.#fileProblem],
    };
  }

  /** Reloads the talk about a task if its card is open. @param {string} task */
  heard(task) {
    if (task === this.#task) void this.#ask(task, "/talk", {});
  }

  /** Offers names once a mention has begun. */
  #offerNames() {
    const begun = /(^|[^\p{L}\p{N}])@([\p{L}\p{N} -]{0,30})$/u.exec(
      this.#text.value.slice(0, this.#text.selectionStart),
    );
    const part = begun?.[2].toLowerCase() ?? "";
    const people = begun
      ? this.#store.people.filter(({ name }) => name.toLowerCase().startsWith(part)).slice(0, 5)
      : [];
    this.#names.replaceChildren(
      ...people.map(({ name }) =>
        quietButton(`@${name}`, () => {
          const at = this.#text.selectionStart - part.length;
          this.#text.setRangeText(`${name} `, at, this.#text.selectionStart, "end");
          this.#names.replaceChildren();
          this.#text.focus();
        }),
      ),
    );
  }

  async #say() {
    const text = this.#text.value.trim();
    if (text === "") {
      this.#text.focus();
      return;
    }
    this.#send.disabled = true;
    const problem = await this.#ask(this.#task, "/comments", {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ text }),
    });
    this.#send.disabled = false;
    this.#problem.textContent = problem;
    if (problem === "" && this.#text.value.trim() === text) this.#text.value = "";
  }

  /** @param {File} file */
  async #add(file) {
    this.#fileProblem.textContent =
      whyTooLarge(file) ||
      (await this.#ask(this.#task, `/files?name=${encodeURIComponent(file.name)}`, {
        method: "POST",
        headers: { "Content-Type": "application/octet-stream" },
        body: file,
      }));
    this.#file.value = "";
  }

  /** @param {string} path */
  async #remove(path) {
    this.#problem.textContent = await this.#ask(this.#task, path, { method: "DELETE" });
  }

  /** @param {string} task @param {string} path @param {RequestInit} how @returns {Promise<string>} what went wrong */
  async #ask(task, path, how) {
    const headers = { ...how.headers, "X-Auxilium-Token": this.#token };
    const answer = await fetch(`${this.#address}/${encodeURIComponent(task)}${path}`, { ...how, headers }).catch(
      () => null,
    );
    if (!answer) return "The server does not answer: nothing was changed. Try again in a moment.";
    const body = await answer.json().catch(() => ({}));
    if (!answer.ok) return body.detail ?? "The server could not do this. Try again.";
    if (task === this.#task) this.#draw(body, true);
    return "";
  }

  /** @param {Talk} talk @param {boolean} known whether the server has told */
  #draw({ comments, files, worked }, known) {
    this.#worked.textContent =
      worked.length === 0
        ? ""
        : `Worked: ${worked.reduce((sum, { hours }) => sum + hours, 0)} h ` +
          `(${worked.map(({ person, hours }) => `${person} ${hours}`).join(", ")})`;
    this.#said.replaceChildren(
      ...comments.map(({ id, person, at, text, own }) =>
        element(
          "li",
          {},
          element("p", { class: "comment-head" }, element("strong", {}, person), ` ${momentInWords(at)}`),
          element("p", { class: "comment-text" }, text),
          ...(own
            ? [quietButton("Take back", () => void this.#remove(`/comments/${id}`), "Take back this comment")]
            : []),
        ),
      ),
    );
    this.#kept.replaceChildren(
      ...files.map(({ id, name, type, size, person, address, mayRemove }) =>
        element(
          "li",
          {},
          ...(type.startsWith("image/") ? [element("img", { src: address, alt: "", loading: "lazy" })] : []),
          element("a", { href: address, target: "_blank", rel: "noopener" }, name),
          element("span", { class: "mute" }, `${sizeOf(size)}, ${person}`),
          ...(mayRemove
            ? [quietButton("Remove", () => void this.#remove(`/files/${id}`), `Remove the file ${name}`)]
            : []),
        ),
      ),
    );
    if (known) this.#store.talked(this.#task, comments.length, files.length);
  }
}
