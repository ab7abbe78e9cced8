// @ts-check
// The Plan on paper: every row, and the whole project across a landscape sheet.

/** @import { Store } from "../state/store.js" */
/** @import { Sight } from "../state/sight.js" */
import { HEAD_HEIGHT } from "../list/list.js";

/** Pixels across and down a landscape A4 sheet, without its margins. */
const SHEET = { width: 1030, height: 640 };

/**
 * @param {Store} store
 * @param {Sight} sight
 * @param {HTMLElement} board
 * @param {() => void} draw everything again
 * @param {() => void} fit the project into the width
 * @param {() => () => void} keep the place; called, it goes back there
 */
export function printPlan(store, sight, board, draw, fit, keep) {
  /** @type {(() => void) | null} */ let back = null;
  addEventListener("beforeprint", () => {
    if (back) return;
    back = keep();
    const height = Math.max(SHEET.height, HEAD_HEIGHT + store.shown.length * store.rowHeight + 8);
    Object.assign(board.style, { flex: "none", width: `${SHEET.width}px`, height: `${height}px` });
    sight.measure();
    sight.scroll({ top: 0 });
    fit();
    draw();
  });
  addEventListener("afterprint", () => {
    Object.assign(board.style, { flex: "", width: "", height: "" });
    sight.measure();
    back?.();
    back = null;
    store.changed();
  });
}
