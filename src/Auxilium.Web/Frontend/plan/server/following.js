// @ts-check
// Keeps what one window shows the same as the plan: what others change is applied in turn, and where something is missing in between
// the whole plan is asked for.

/** @import { Store } from "../state/store.js" */
/** @import { Changes } from "../state/types.js" */

/** @typedef {{ from: number, to: number, by: string | null, name: string | null, edits: string[], changes: Changes }} LiveChange */

/** Milliseconds that a change waits for the answer that brings the same. */
const HOLD = 400;
/** Milliseconds after which a server that did not answer is asked again. */
const AGAIN = 1500;

export class Following {
  #store;
  #me;
  #isAwaited;
  #ask;
  #isAsking = false;
  /** Whether what the store has is no longer a version of the plan, so that even an older one replaces it. */ #isLost = false;
  /** What came while the whole plan was asked for. @type {LiveChange[]} */ #waiting = [];
  /** What is about to be answered to this page anyway, and what came behind it. @type {LiveChange[]} */ #held = [];

  /**
   * @param {Store} store
   * @param {string} me id of the person
   * @param {(edit: string) => boolean} isAwaited whether the answer to an edit of this page is on its way
   * @param {() => Promise<Changes | "refused" | null>} ask for the whole plan; null where there was no answer
   */
  constructor(store, me, isAwaited, ask) {
    this.#store = store;
    this.#me = me;
    this.#isAwaited = isAwaited;
    this.#ask = ask;
    store.onGap = () => void this.catchUp();
    store.subscribe(() => {
      if (this.#held.length > 0 && this.#held[0].to <= store.project.version) this.#release();
    });
  }

  /** @param {LiveChange} change */
  take(change) {
    if (this.#held.length === 0 && !change.edits.some((edit) => this.#isAwaited(edit))) {
      this.#apply(change);
      return;
    }
    // Drawn once, by the answer; if that does not come soon, by this.
    if (this.#held.length === 0) setTimeout(() => this.#release(), HOLD);
    this.#held.push(change);
  }

  /**
   * What was missed while the connection was lost.
   * @param {LiveChange[] | null} changes null where that is not known any more
   * @param {boolean} isLost whether what is shown is no version of the plan
   */
  joined(changes, isLost) {
    if (isLost) this.lose();
    else if (changes === null) void this.catchUp();
    else for (const change of changes) this.take(change);
  }

  /** What is shown is no longer a version of the plan, as after a backup was restored: the current plan replaces it. */
  lose() {
    this.#isLost = true;
    void this.catchUp();
  }

  /** Asks for the whole plan until there is an answer: what comes meanwhile waits. */
  async catchUp() {
    if (this.#isAsking) return;
    this.#isAsking = true;
    for (;;) {
      const isLost = this.#isLost;
      // What was told before is part of what is asked for now.
      this.#waiting = [];
      const changes = await this.#ask();
      if (changes !== null && changes !== "refused") {
        this.#store.apply(changes, isLost);
        if (isLost === this.#isLost) {
          this.#isLost = false;
          break;
        }
      } else if (changes === "refused") {
        // Those who lost access are told nothing more.
        this.#waiting = [];
        break;
      } else await new Promise((resolve) => setTimeout(resolve, AGAIN));
    }
    this.#isAsking = false;
    for (const change of this.#waiting.splice(0)) this.#apply(change);
  }

  #release() {
    for (const change of this.#held.splice(0)) this.#apply(change);
  }

  /** @param {LiveChange} change */
  #apply(change) {
    if (this.#isAsking) {
      this.#waiting.push(change);
      return;
    }
    const { by, name, changes } = change;
    // The answer to one's own edit has brought it already, with what can be undone.
    if (changes.project.edit === this.#store.project.edit) return;
    const own = by === this.#me;
    // Where something is missing in between, the whole plan is asked for, and that has this too.
    this.#store.apply({
      ...changes,
      canUndo: own || this.#store.canUndo,
      canRedo: this.#store.canRedo,
      sentence: own || !name ? changes.sentence : [{ text: `${name}: `, strong: true }, ...changes.sentence],
    });
  }
}
