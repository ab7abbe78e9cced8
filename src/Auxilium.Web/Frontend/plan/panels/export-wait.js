// @ts-check
// A file that takes a while: it is made in the background, and this tells how far it is.
import { element } from "../card/fields.js";

/** Milliseconds between two looks at how far it is. */
const OFTEN = 700;

/**
 * @typedef
 * {{ id: string, name: string, state: string, drawn: number, pages: number, problem: string | null, file: string | null }} File
 */

/**
 * Asks for a file and shows how far it is, in the place of what the dialog shows.
 * @param {string} address with what is asked for
 * @param {string} token
 * @param {HTMLDialogElement} dialog
 */
export function waitFor(address, token, dialog) {
  const headers = { "X-Auxilium-Token": token };
  const said = element("p", { role: "status" }, "Asking for the file …");
  const bar = /** @type {HTMLProgressElement} */ (element("progress", { "aria-label": "Pages drawn" }));
  const close = element("button", { class: "button button-strong", type: "button" }, "Continue in the background");
  const stop = element("button", { class: "button", type: "button" }, "Cancel export");
  /** @type {File | null} */ let file = null;
  let isOver = false;
  dialog.className = "panel";
  dialog.replaceChildren(
    element("h2", { id: "export-title" }, "Export"),
    said,
    bar,
    element("p", { class: "mute" }, "You can go on working: the file is under Notifications once it is ready."),
    element("div", { class: "actions" }, stop, close),
  );
  close.focus();
  close.addEventListener("click", () => dialog.close());
  dialog.addEventListener("close", () => (isOver = true), { once: true });
  stop.addEventListener("click", async () => {
    isOver = true;
    if (file) await fetch(`/api/v1/exports/${file.id}`, { method: "DELETE", headers }).catch(() => null);
    dialog.close();
  });
  void follow();

  async function follow() {
    const asked = await fetch(address, { method: "POST", headers }).catch(() => null);
    if (!(await read(asked))) return;
    while (!isOver && file && file.state !== "done" && file.state !== "failed") {
      await new Promise((resolve) => setTimeout(resolve, OFTEN));
      if (isOver) return;
      const answer = await fetch(`/api/v1/exports/${file.id}`).catch(() => null);
      // No answer is no end: it is asked again.
      if (answer && !(await read(answer))) return;
    }
    if (!isOver && file?.file) {
      location.assign(file.file);
      dialog.close();
    }
  }

  /** @param {Response | null} answer @returns {Promise<boolean>} whether there is something to wait for */
  async function read(answer) {
    const body = await answer?.json().catch(() => null);
    if (!answer?.ok || !body) return fail(body?.detail ?? "The server does not answer: try it again in a moment.");
    file = body;
    if (body.state === "failed") return fail(body.problem);
    if (body.pages > 0) {
      bar.max = body.pages;
      bar.value = body.drawn;
      said.textContent = `Page ${Math.min(body.drawn + 1, body.pages)} of ${body.pages} …`;
    } else said.textContent = body.state === "waiting" ? "Waiting for its turn …" : "Working out the pages …";
    return true;
  }

  /** @param {string} why */
  function fail(why) {
    said.textContent = why;
    said.className = "problem";
    bar.hidden = true;
    stop.hidden = true;
    close.textContent = "Close";
    return false;
  }
}
