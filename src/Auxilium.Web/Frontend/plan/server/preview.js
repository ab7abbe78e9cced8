// @ts-check
// Asks the server what an edit would do while something is held, and shows it: the sentence in the strip, ghosts over the bars.

/** @import { Store } from "../state/store.js" */
/** @import { Outbox } from "./outbox.js" */
import { minutesOf } from "../state/time.js";

export class Preview {
  #store;
  #outbox;
  /** @type {object | null} */ #edit = null;
  /** @type {string | null} */ #own = null;
  #asked = "";
  #busy = false;
  #held = 0;

  /** @param {Store} store @param {Outbox} outbox */
  constructor(store, outbox) {
    this.#store = store;
    this.#outbox = outbox;
  }

  /**
   * One question at a time; the answer to an old one is followed by the newest.
   * @param {object | null} edit null for nothing
   * @param {string | null} own the row that is held itself
   */
  ask(edit, own) {
    this.#edit = edit;
    this.#own = own;
    if (!this.#busy) void this.#next();
  }

  end() {
    this.#held++;
    this.#edit = null;
    this.#asked = "";
    this.#store.ghosts = [];
    this.#store.notice = null;
    this.#store.changed();
  }

  async #next() {
    const edit = this.#edit;
    const now = JSON.stringify(edit);
    if (this.#asked === now) return;
    this.#asked = now;
    const held = this.#held;
    if (!edit) {
      this.#show(null, []);
      return;
    }
    this.#busy = true;
    const answer = await this.#outbox.preview(edit).catch(() => null);
    this.#busy = false;
    if (held === this.#held && answer) {
      if ("message" in answer) this.#show({ tone: "problem", text: answer.message }, []);
      else {
        const moved = answer.moves.filter((move) => move.task !== this.#own);
        this.#show(
          { tone: "preview", text: `Letting go: ${answer.sentence.map((run) => run.text).join("")}` },
          moved.map((move) => ({
            id: move.task,
            start: minutesOf(move.startAfter),
            finish: minutesOf(move.finishAfter),
            dragged: false,
          })),
        );
      }
    }
    void this.#next();
  }

  /** @param {Store["notice"]} notice @param {Store["ghosts"]} moved */
  #show(notice, moved) {
    this.#store.notice = notice;
    this.#store.ghosts = [...moved, ...this.#store.ghosts.filter((ghost) => ghost.dragged)];
    this.#store.changed();
  }
}
