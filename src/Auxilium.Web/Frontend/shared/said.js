// @ts-check
// The line at the head of a page that says what was done there, with the button that takes it back.

/** @typedef {(method: string, path: string, content?: object) => Promise<any>} Send */

/** @param {{ text: string }[]} runs */
export const sentence = (runs) => runs.map((run) => run.text).join("");

export class SaidLine {
  #said;
  #undo;
  /** Takes back what was last done. @type {(() => void) | null} */ #takeBack = null;

  /** @param {string} page how the ids of the line and of its button begin */
  constructor(page) {
    this.#said = /** @type {HTMLElement} */ (document.getElementById(`${page}-said`));
    this.#undo = /** @type {HTMLButtonElement} */ (document.getElementById(`${page}-undo`));
    this.#undo.addEventListener("click", () => this.#takeBack?.());
  }

  /** @param {string} text @param {(() => void) | null} [undoIt] takes back what is said */
  say(text, undoIt = null) {
    this.#said.textContent = text;
    this.#takeBack = undoIt;
    this.#undo.hidden = undoIt === null;
  }

  /**
   * Sends an edit of a plan, and says what it did.
   * @param {Send} send
   * @param {HTMLElement} item which knows the project and the version of the plan that it shows
   * @param {object} what the edit
   * @param {(problem: string) => void} tell says why not, at its place; empty for nothing
   * @param {() => void} undone shows it as it was, once it is taken back
   * @returns {Promise<boolean>} whether it was done, or proposed to whoever decides
   */
  async edit(send, item, what, tell, undone) {
    tell("");
    const path = `/api/v1/projects/${item.dataset.project}/edits`;
    const asked = () => ({ id: crypto.randomUUID(), baseVersion: Number(item.dataset.version) });
    const answer = await send("POST", path, { ...asked(), edit: what });
    if ("problem" in answer) {
      tell(answer.problem);
      return false;
    }
    if (!answer.ripple) {
      this.say(answer.sentence ? `Proposed to the coordinator: ${answer.sentence}` : "Saved.");
      return true;
    }
    item.dataset.version = String(answer.version);
    this.say(sentence(answer.ripple.sentence), async () => {
      const taken = await send("POST", path, { ...asked(), takeBack: "lastEdit" });
      if ("problem" in taken) return tell(taken.problem);
      item.dataset.version = String(taken.version);
      undone();
      this.say(sentence(taken.ripple.sentence));
    });
    return true;
  }
}
