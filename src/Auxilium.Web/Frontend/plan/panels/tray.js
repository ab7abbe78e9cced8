// @ts-check
// The tray at the side: tasks without a date wait there, and are dropped onto a day of the timeline.

/** @import { Store } from "../state/store.js" */
/** @import { Actions } from "../commands/actions.js" */
/** @import { Preview } from "../server/preview.js" */
/** @import { Row } from "../state/types.js" */
/** @import { Timeline } from "../timeline/timeline.js" */
import { element, keepTyped, quietButton, textField } from "../card/fields.js";
import { listenToHold } from "../timeline/hold.js";
import { DAY, iso, short } from "../state/time.js";
import { dayAt } from "../timeline/scale.js";

/** The edit that gives a waiting task its day. @param {string} task @param {string} start */
const datedEdit = (task, start) => ({
  type: "together",
  edits: [
    { type: "setActive", task, on: true },
    { type: "placeTask", task, start },
  ],
});

/** @param {Store} store @param {Preview} preview @param {Actions} actions @param {Timeline} timeline @param {(id: string) => void} show */
export function drawTray(store, preview, actions, timeline, show) {
  const tray = /** @type {HTMLElement} */ (document.getElementById("tray"));
  const button = /** @type {HTMLElement} */ (document.getElementById("tray-button"));
  const count = element("span", { class: "tray-count" });
  button.append(" ", count);
  let drawn = "";
  /** @type {Row[] | null} */ let seen = null;
  let isOpen = false;

  button.addEventListener("click", () => set(!isOpen));
  tray.addEventListener("keydown", (event) => {
    event.stopPropagation();
    if (event.key !== "Escape") return;
    set(false);
  });
  store.subscribe(draw);
  listenToHold(tray, {
    grab(event) {
      const held = /** @type {Element} */ (event.target).closest("[data-waiting]");
      const row = store.row(held?.getAttribute("data-waiting"));
      return row ? { row, day: /** @type {number | null} */ (null) } : null;
    },
    follow(held, event) {
      tray.classList.add("is-dragging");
      const over = document.elementFromPoint(event.clientX, event.clientY);
      held.day = over?.closest(".time-body") ? dayAt(timeline.scale, timeline.xOf(event)) : null;
      const { dayStart, dayEnd } = store.project;
      const day = held.day;
      store.ghosts = store.ghosts.filter((ghost) => !ghost.dragged);
      if (day !== null) {
        const top = timeline.body.getBoundingClientRect().top;
        const line = store.line.get(held.row.id) ?? Math.floor((event.clientY - top) / store.rowHeight);
        store.ghosts.push({
          id: held.row.id,
          line,
          start: day * DAY + dayStart,
          finish: day * DAY + dayEnd,
          dragged: true,
        });
      }
      store.changed();
      preview.ask(day === null ? null : datedEdit(held.row.id, iso(day)), held.row.id);
    },
    end() {
      tray.classList.remove("is-dragging");
      preview.end();
    },
    drop({ row, day }) {
      if (day !== null) actions.send(datedEdit(row.id, iso(day)), row.id, { onDone: () => show(row.id) });
    },
  });
  return () => set(!isOpen);

  /** @param {boolean} open */
  function set(open) {
    isOpen = open;
    button.setAttribute("aria-expanded", String(open));
    tray.hidden = !open;
    drawn = "";
    draw();
    if (open) /** @type {HTMLElement | null} */ (tray.querySelector("button, input"))?.focus();
    else if (!button.hidden) button.focus();
    else
      timeline.body
        .closest("#board")
        ?.querySelector(/** @type {"div"} */ ("[tabindex='0']"))
        ?.focus();
  }

  /** Rows that are inactive themselves or by a phase above: with a phase, everything inside waits. */
  function waiting() {
    return store.rows.filter(
      (row) => row.off && row.kind !== "phase" && !row.unsaved && !store.row(row.parent)?.repeats,
    );
  }

  function draw() {
    if (seen === store.rows && drawn !== "") return;
    seen = store.rows;
    const rows = waiting();
    count.textContent = String(rows.length);
    button.hidden = isOpen || rows.length === 0;
    if (!isOpen) {
      drawn = "closed";
      return;
    }
    const now = JSON.stringify(rows.map(({ id, name, length, owner }) => [id, name, length, owner]));
    if (now === drawn) return;
    drawn = now;
    const head = element(
      "header",
      { class: "tray-head" },
      element("h2", {}, "No date"),
      quietButton("Close", () => set(false), "Close the tray"),
    );
    const hint =
      rows.length === 0
        ? "Nothing waits here. A task that is inactive does: put one aside with U on its number."
        : "Drag one onto a day of the timeline, or type its day.";
    keepTyped(tray, () =>
      tray.replaceChildren(head, element("p", { class: "hint" }, hint), element("ul", {}, ...rows.map(item))),
    );
  }

  /** @param {Row} row */
  function item(row) {
    const name = element(
      "button",
      { type: "button", class: "tray-card", "data-waiting": row.id },
      row.name,
      element("span", { class: "mute" }, ` ${row.length}`),
    );
    name.addEventListener("click", () => show(row.id));
    const day = textField(
      `Day of ${row.name}`,
      "",
      (start, tell) => {
        if (start === "") return;
        // A refusal is told where the day was typed; what works takes the row away.
        actions.sendOr(datedEdit(row.id, start), tell);
      },
      { hint: `such as ${short(Math.floor(store.project.start / DAY))}`, key: `tray ${row.id}` },
    );
    return element("li", {}, name, day);
  }
}
