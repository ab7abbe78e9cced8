// @ts-check
// Dragging rows of the list up and down by their number or name.

/** @import { Store } from "./store.js" */
/** @import { Actions } from "./actions.js" */
import { ROW_HEIGHT } from "./list.js";
import { draggedWith, movesTo, placeAt } from "./place.js";

const SLIP = 6; // pixels a pointer may move in a click

/** @param {Store} store @param {Actions} actions @param {HTMLElement} list */
export function listenToRowDrags(store, actions, list) {
  /** @type {{ row: import("./types.js").Row, y: number, pointer: number, moving: boolean } | null} */ let drag = null;

  list.addEventListener("pointerdown", (event) => {
    const cell = /** @type {Element} */ (event.target).closest(".cell-no, .cell-name");
    const row = store.row(cell?.closest("[data-row]")?.getAttribute("data-row"));
    const taken = /** @type {Element} */ (event.target).closest("[data-fold], .is-editing");
    if (!row || row.unsaved || taken || event.button !== 0 || event.pointerType === "touch" || store.look.sort) return;
    drag = { row, y: event.clientY, pointer: event.pointerId, moving: false };
  });
  document.addEventListener("pointermove", (event) => {
    if (!drag || event.pointerId !== drag.pointer) return;
    if (!drag.moving && Math.abs(event.clientY - drag.y) < SLIP) return;
    drag.moving = true;
    list.classList.add("is-dragging");
    store.drop = place(event);
    store.changed();
  });
  document.addEventListener("pointerup", (event) => {
    if (!drag || event.pointerId !== drag.pointer) return;
    const { row, moving } = drag;
    const at = store.drop;
    end();
    if (!moving || !at) return;
    const edits = movesTo(store, draggedWith(store, row), at);
    if (edits.length > 0) actions.sendAll(edits, row.id);
  });
  document.addEventListener("pointercancel", end);
  document.addEventListener(
    "keydown",
    (event) => {
      if (event.key !== "Escape" || !drag?.moving) return;
      event.preventDefault();
      event.stopPropagation();
      end();
    },
    true,
  );

  /** @param {PointerEvent} event */
  function place(event) {
    const body = list.querySelector(".list-body")?.getBoundingClientRect();
    return placeAt(store, (event.clientY - (body?.top ?? 0)) / ROW_HEIGHT);
  }

  function end() {
    if (!drag) return;
    drag = null;
    store.drop = null;
    list.classList.remove("is-dragging");
    store.changed();
  }
}
