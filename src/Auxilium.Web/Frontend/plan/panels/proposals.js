// @ts-check
// Changes that members propose: listed with what each would do, to be accepted or declined at a click.

/** @import { Store } from "../state/store.js" */
import { element, quietButton } from "../card/fields.js";

/**
 * @typedef
 * {{ id: string, by: string, hue: number, at: string, task: string | null, sentence: string, problem: string | null,
 *   note: string, own: boolean }}
 * Proposal
 */

/** @param {Store} store @param {string} project @param {string} token @param {(id: string) => void} show brings a row into sight */
export function listProposals(store, project, token, show) {
  const button = /** @type {HTMLButtonElement} */ (document.getElementById("proposals-button"));
  const dialog = /** @type {HTMLDialogElement} */ (document.getElementById("proposals"));
  const list = /** @type {HTMLElement} */ (document.getElementById("proposals-list"));
  const problem = /** @type {HTMLElement} */ (document.getElementById("proposals-problem"));
  const address = `/api/v1/projects/${project}/proposals`;
  let drawn = -1;

  button.addEventListener("click", () => {
    dialog.showModal();
    void draw();
  });
  const update = () => {
    button.hidden = store.proposals === 0;
    button.textContent = store.proposals === 1 ? "1 proposal" : `${store.proposals} proposals`;
    if (dialog.open && drawn !== store.proposals) void draw();
  };
  store.subscribe(update);
  update();

  async function draw() {
    drawn = store.proposals;
    const answer = await fetch(address).catch(() => null);
    /** @type {Proposal[] | null} */ const open = answer?.ok ? await answer.json().catch(() => null) : null;
    if (open === null) {
      problem.textContent = "The server does not answer. Try again in a moment.";
      return;
    }
    store.proposals = drawn = open.length;
    store.changed();
    list.replaceChildren(...open.map(item));
    if (open.length === 0) list.replaceChildren(element("li", { class: "mute" }, "Nothing waits for a decision."));
  }

  /** @param {Proposal} proposal */
  function item({ id, by, sentence, problem: why, note, task, own }) {
    const choice = element("div", { role: "alert" });
    const act = (/** @type {string} */ words, /** @type {() => Promise<unknown>} */ does) =>
      quietButton(words, () => void does());
    return element(
      "li",
      {},
      element("p", {}, element("strong", {}, by), `: ${sentence}`),
      ...(why ? [element("p", { class: "late" }, `It cannot be done any more. ${why}`)] : []),
      ...(note ? [element("p", { class: "mute" }, `“${note}”`)] : []),
      element(
        "div",
        { class: "actions" },
        ...(store.rights === "edit"
          ? [
              ...(why ? [] : [act("Accept", () => accept(id, choice))]),
              act("Decline", () => decide("POST", `/${id}/decline`)),
            ]
          : []),
        ...(own ? [act("Take back", () => decide("DELETE", `/${id}`))] : []),
        ...(task && store.row(task)
          ? [
              act("Show", async () => {
                dialog.close();
                show(task);
              }),
            ]
          : []),
      ),
      choice,
    );
  }

  /**
   * Somebody may have changed the same since it was proposed: then whoever accepts is shown both.
   * @param {string} id
   * @param {HTMLElement} choice
   */
  async function accept(id, choice) {
    const conflict = await decide("POST", `/${id}/accept`);
    if (!conflict) return;
    const way = (/** @type {string} */ words, /** @type {string} */ path) =>
      quietButton(words, () => void decide("POST", `/${id}/${path}`));
    const { by, theirs, yours } = conflict;
    const now = `${by} changed this since: it is now “${theirs}”, and “${yours}” is proposed. Choose which it is to be.`;
    choice.replaceChildren(
      element("p", {}, now),
      element(
        "div",
        { class: "actions" },
        way(`Keep “${theirs}”`, "decline"),
        way(`Use “${yours}”`, "accept?overrule=true"),
      ),
    );
  }

  /**
   * @param {string} method
   * @param {string} path
   * @returns {Promise<{ by: string, theirs: string, yours: string } | null>} what was changed meanwhile
   */
  async function decide(method, path) {
    const answer = await fetch(address + path, { method, headers: { "X-Auxilium-Token": token } }).catch(() => null);
    const body = answer && answer.status !== 204 ? await answer.json().catch(() => ({})) : {};
    problem.textContent = "";
    if (body.code === "changedMeanwhile") return body;
    problem.textContent = !answer
      ? "The server does not answer. Try again in a moment."
      : answer.ok
        ? ""
        : (body.detail ?? "That did not work.");
    if (body.changes) {
      store.notice = null;
      store.apply(body.changes);
    }
    await draw();
    // What had the focus is gone with its proposal.
    const next = dialog.querySelector("#proposals-list button") ?? dialog.querySelector("form button");
    /** @type {HTMLElement | null} */ (next)?.focus();
    return null;
  }
}
