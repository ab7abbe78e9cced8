// @ts-check
// The fields that all projects have, on the page of the organisation.

/** @import { OwnField } from "../plan/state/types.js" */
import { keepTyped } from "../plan/card/fields.js";
import { inTurn, ownFieldParts } from "./own-fields.js";

const content = /** @type {HTMLElement} */ (document.getElementById("own-fields"));
const said = /** @type {HTMLElement} */ (document.getElementById("own-fields-said"));
/** @type {OwnField[]} */ let fields = (await (await fetch("/api/v1/fields")).json()).fields;
const change = inTurn(() => fields, set);
draw();
document.documentElement.dataset.ready = "true";

function draw() {
  keepTyped(content, () => content.replaceChildren(...ownFieldParts(fields, change, tellAll, null)));
}

/** @param {OwnField[]} all @param {(problem: string) => void} tell */
async function set(all, tell) {
  const headers = { "Content-Type": "application/json", "X-Auxilium-Token": content.dataset.token ?? "" };
  const answer = await fetch("/api/v1/fields", { method: "PUT", headers, body: JSON.stringify({ fields: all }) }).catch(
    () => null,
  );
  const body = await answer?.json().catch(() => null);
  if (!answer?.ok || !body) {
    tell(body?.detail ?? "The server does not answer. What you entered is still here: try again in a moment.");
    return;
  }
  tell("");
  tellAll(body.said);
  fields = body.fields;
  draw();
}

/** @param {string} sentence */
function tellAll(sentence) {
  said.textContent = sentence;
}
