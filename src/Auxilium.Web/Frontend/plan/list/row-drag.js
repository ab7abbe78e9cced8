// @ts-check
// Dragging rows of the list by their number or name: up and down the plan, into another group, or onto the pennant of the milestone
// that they serve.

/** @import { Store } from "../state/store.js" */
/** @import { Row } from "../state/types.js" */
/** @import { Actions } from "../commands/actions.js" */
import { listenToHold } from "../timeline/hold.js";
import { fieldOf } from "../fields/fields.js";
import { draggedWith, movesTo, placeAt } from "../state/place.js";

/** @param {Store} store @param {Actions} actions @param {HTMLElement} list */
export function listenToRowDrags(store, actions, list) {
  /** Where they would go, and the edits that put them there. @type {{ drop: Store["drop"], edits: object[] } | null} */ let place =
    null;

  listenToHold(list, {
    grab(event) {
      const over = /** @type {Element} */ (event.target);
      const row = store.row(over.closest(".cell-no, .cell-name")?.closest("[data-row]")?.getAttribute("data-row"));
      const stays = store.view.sort !== null || (store.view.group !== "" && !giveOf(store));
      return !row || row.unsaved || over.closest("[data-fold], .is-editing") || stays ? null : row;
    },
    follow(row, event) {
      const top = list.querySelector(".list-body")?.getBoundingClientRect().top ?? 0;
      const lines = (event.clientY - top) / store.rowHeight;
      const rows = draggedWith(store, row);
      list.classList.add("is-dragging");
      place =
        onPennant(store, rows, event) ?? (store.isFlat ? inGroup(store, rows, lines) : inPlan(store, rows, lines));
      store.drop = place?.drop ?? null;
      store.changed();
    },
    end() {
      store.drop = null;
      list.classList.remove("is-dragging");
      store.changed();
    },
    drop(row) {
      if (place && place.edits.length > 0) actions.sendAll(place.edits, row.id);
      place = null;
    },
  });
}

/** What puts a row into a group; where rows are not grouped by such a field, nothing. @param {Store} store */
const giveOf = (store) => (store.view.group === "" ? undefined : fieldOf(store.view.group).group?.give);

/** @param {Store} store @param {Row[]} rows @param {number} lines */
function inPlan(store, rows, lines) {
  const drop = placeAt(store, lines);
  return { drop, edits: movesTo(store, rows, drop) };
}

/** The group whose rows are under the pointer. @param {Store} store @param {Row[]} rows @param {number} lines */
function inGroup(store, rows, lines) {
  const give = giveOf(store);
  const at = store.shown.slice(0, Math.max(1, Math.floor(lines) + 1)).findLastIndex((row) => row.heading);
  if (!give || at < 0) return null;
  const key = store.shown[at].id.slice(store.view.group.length + 1);
  return { drop: markOf(at), edits: rows.filter((row) => row.id !== key).map((row) => give(row, key)) };
}

/** The milestone whose pennant is under the pointer. @param {Store} store @param {Row[]} rows @param {PointerEvent} event */
function onPennant(store, rows, event) {
  const bar = document.elementFromPoint(event.clientX, event.clientY)?.closest("[data-bar]");
  const milestone = store.row(bar?.getAttribute("data-bar"));
  const at = store.line.get(milestone?.id ?? "");
  if (milestone?.kind !== "milestone" || at === undefined || rows.includes(milestone)) return null;
  return {
    drop: markOf(at),
    edits: rows.map((row) => ({ type: "setServes", task: row.id, serves: milestone.id })),
  };
}

/** @param {number} line @returns {NonNullable<Store["drop"]>} */
const markOf = (line) => ({ parent: null, after: null, line, level: 0, into: true });
