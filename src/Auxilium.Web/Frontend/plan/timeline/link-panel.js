// @ts-check
// Editing and removing a link where it is drawn.

/** @import { Store } from "../state/store.js" */
/** @import { Outbox } from "../server/outbox.js" */
/** @import { Actions } from "../commands/actions.js" */
import { choiceField, element, quietButton, textField } from "../card/fields.js";
import { lagOf } from "../card/links.js";

/** What the task after does. @type {[string, string][]} */
const KINDS = [
  ["finishToStart", "starts after it finishes"],
  ["startToStart", "starts with it"],
  ["finishToFinish", "ends with it"],
  ["startToFinish", "ends after it starts"],
];

/** @param {Store} store @param {Outbox} outbox @param {Actions} actions @param {SVGElement} body */
export function listenToLinks(store, outbox, actions, body) {
  const panel = /** @type {HTMLElement} */ (document.getElementById("link-panel"));
  panel.addEventListener("keydown", (event) => event.stopPropagation());
  body.addEventListener("click", (event) => {
    const line = /** @type {Element} */ (event.target).closest("[data-link]");
    const [from, to] = line?.getAttribute("data-link")?.split(">") ?? [];
    if (from && to) void open(from, to, event);
  });

  /** @param {string} from @param {string} to @param {MouseEvent} event */
  async function open(from, to, event) {
    const card = await outbox.card(to);
    const link = "message" in card ? undefined : card.before.find((before) => before.task === from);
    const [before, after] = [store.row(from), store.row(to)];
    if (!link || !before || !after) return;
    const was = link.lag === "0d" ? "" : `${link.lag}${link.elapsed ? " elapsed" : ""}`;
    const send = (/** @type {object} */ what, /** @type {(problem: string) => void} */ tell) => {
      outbox.send({
        make: () => ({ type: "linkTasks", from, to, ...what }),
        onDone: () => tell(""),
        onRefused: (refusal) => tell(refusal.message),
      });
    };
    panel.replaceChildren(
      element("h2", {}, `${before.no} ${before.name} → ${after.no} ${after.name}`),
      choiceField("Kind", KINDS, link.kind, (kind, tell) => send({ kind }, tell)),
      textField("Lag", was, (text, tell) => send({ elapsed: false, ...lagOf(text) }, tell), {
        hint: "2d, -1d for a lead, 12h elapsed",
      }),
      element(
        "div",
        { class: "actions" },
        quietButton("Remove the link", () => {
          panel.hidePopover();
          actions.send({ type: "unlinkTasks", from, to }, to);
        }),
        quietButton("Close", () => panel.hidePopover()),
      ),
    );
    panel.showPopover();
    panel.style.left = `${Math.max(8, Math.min(event.clientX + 8, innerWidth - panel.offsetWidth - 8))}px`;
    panel.style.top = `${Math.max(8, Math.min(event.clientY + 8, innerHeight - panel.offsetHeight - 60))}px`;
    panel.querySelector("select")?.focus();
  }
}
