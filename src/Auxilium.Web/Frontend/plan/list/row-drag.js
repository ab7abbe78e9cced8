// @ts-check
// Dragging rows of the list up and down by their number or name.

/** @import { Store } from "../state/store.js" */
/** @import { Actions } from "../commands/actions.js" */
import { listenToHold } from "../timeline/hold.js";
import { draggedWith, movesTo, placeAt } from "../state/place.js";

/** @param {Store} store @param {Actions} actions @param {HTMLElement} list */
export function listenToRowDrags(store, actions, list) {
  /** @type {Store["drop"]} */ let place = null;

  listenToHold(list, {
    grab(event) {
      const over = /** @type {Element} */ (event.target);
      const row = store.row(over.closest(".cell-no, .cell-name")?.closest("[data-row]")?.getAttribute("data-row"));
      return !row || row.unsaved || over.closest("[data-fold], .is-editing") || store.isFlat ? null : row;
    },
    follow(_, event) {
      const top = list.querySelector(".list-body")?.getBoundingClientRect().top ?? 0;
      list.classList.add("is-dragging");
      store.drop = place = placeAt(store, (event.clientY - top) / store.rowHeight);
      store.changed();
    },
    end() {
      store.drop = null;
      list.classList.remove("is-dragging");
      store.changed();
    },
    drop(row) {
      const edits = place ? movesTo(store, draggedWith(store, row), place) : [];
      if (edits.length > 0) actions.sendAll(edits, row.id);
    },
  });
}
