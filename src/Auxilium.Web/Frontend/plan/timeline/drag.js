// @ts-check
// Dragging a bar to another day. While it is held, the strip says what letting go would do.

/** @import { Store } from "../store.js" */
/** @import { Outbox } from "../outbox.js" */
/** @import { Actions } from "../actions.js" */
/** @import { Timeline } from "./timeline.js" */
/** @import { Row } from "../types.js" */
import { DAY, dayOf, iso, minutesOf } from "../time.js";
import { dayAt } from "./scale.js";

const SLIP = 4; // pixels a pointer may move in a click

/** @param {Store} store @param {Outbox} outbox @param {Actions} actions @param {Timeline} timeline @param {(id: string) => void} choose */
export function listenToDrags(store, outbox, actions, timeline, choose) {
  /** @type {{ row: Row, from: number, x: number, days: number, pin: boolean, moving: boolean, asked: string, busy: boolean } | null} */
  let drag = null;
  const { body } = timeline;

  body.addEventListener("pointerdown", (event) => {
    const bar = /** @type {Element} */ (event.target).closest("[data-bar]");
    const row = store.row(bar?.getAttribute("data-bar"));
    if (!row || event.button !== 0) return;
    drag = {
      row,
      from: dayAt(timeline.scale, timeline.xOf(event)),
      x: event.clientX,
      days: 0,
      pin: false,
      moving: false,
      asked: "",
      busy: false,
    };
    body.setPointerCapture(event.pointerId);
  });
  body.addEventListener("pointermove", (event) => {
    if (!drag) return;
    if (!drag.moving && Math.abs(event.clientX - drag.x) < SLIP) return;
    drag.moving = true;
    drag.pin = event.altKey || event.shiftKey;
    drag.days = dayAt(timeline.scale, timeline.xOf(event)) - drag.from;
    body.classList.add("is-dragging");
    showDragged();
    void ask();
  });
  body.addEventListener("pointerup", () => {
    if (!drag) return;
    const { row, days, moving } = drag;
    const edit = moving && days !== 0 ? editOf() : null;
    end();
    choose(row.id);
    if (edit) actions.send(edit, row.id);
  });
  body.addEventListener("pointercancel", end);
  document.addEventListener("keydown", (event) => {
    if (event.key === "Escape" && drag) {
      event.preventDefault();
      end();
    }
  });

  function editOf() {
    const { row, days, pin } = /** @type {NonNullable<typeof drag>} */ (drag);
    return { type: "placeTask", task: row.id, start: iso(dayOf(row.start ?? 0) + days), pin };
  }

  function showDragged() {
    if (!drag) return;
    const { row, days } = drag;
    const shift = days * DAY;
    const others = store.ghosts.filter((ghost) => !ghost.dragged);
    const start = (row.start ?? 0) + shift;
    store.ghosts = [...others, { id: row.id, start, finish: row.finish + shift, dragged: true }];
    store.changed();
  }

  /** One question at a time; the answer to an old one is followed by the newest. */
  async function ask() {
    const asked = JSON.stringify(editOf());
    if (!drag || drag.busy || drag.asked === asked) return;
    const mine = drag;
    mine.busy = true;
    mine.asked = asked;
    const answer = await outbox.preview(JSON.parse(asked)).catch(() => null);
    mine.busy = false;
    if (drag !== mine || !answer) return;
    if ("message" in answer) store.notice = { tone: "problem", text: answer.message };
    else {
      store.notice = { tone: "preview", text: `Letting go: ${answer.sentence.map((run) => run.text).join("")}` };
      const dragged = store.ghosts.filter((ghost) => ghost.dragged);
      const moved = answer.moves.filter((move) => move.task !== mine.row.id);
      store.ghosts = [
        ...moved.map((move) => ({
          id: move.task,
          start: minutesOf(move.startAfter),
          finish: minutesOf(move.finishAfter),
          dragged: false,
        })),
        ...dragged,
      ];
    }
    store.changed();
    void ask();
  }

  function end() {
    drag = null;
    body.classList.remove("is-dragging");
    store.ghosts = [];
    store.notice = null;
    store.changed();
  }
}
