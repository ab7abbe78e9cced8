// @ts-check
// What a command is, and what those that are about rows ask first.

/** @import { Actions } from "./actions.js" */
/** @import { CellEditor } from "../list/editor.js" */
/** @import { ListView } from "../list/list.js" */
/** @import { TaskCard } from "../card/card.js" */
/** @import { Row } from "../state/types.js" */
/** @import { Store } from "../state/store.js" */

/**
 * The screen as commands work on it.
 * @typedef {object} Screen
 * @property {Store} store
 * @property {ListView} list
 * @property {Actions} actions
 * @property {CellEditor} editor
 * @property {TaskCard} card
 * @property {boolean} isPlan whether the timeline is on it
 * @property {(row: Row) => void} openRepeat
 * @property {() => void} openMoves
 * @property {() => void} openPalette
 * @property {() => void} openPaste
 * @property {() => void} openPrices
 * @property {() => void} openKeys
 * @property {() => void} openExport asks as which file the plan is handed out
 * @property {() => void} openBaseline asks for the name of a new baseline
 * @property {(task: string) => void} turnTimer starts the timer on a task, or stops it
 * @property {(part?: "columns") => void} openView
 * @property {() => void} turnTray
 * @property {() => void} turnLoad shows the load under the timeline, or hides it
 * @property {(rows: Row[]) => void} fit brings rows into the timeline
 * @property {(by: number) => void} zoom
 * @property {() => void} showToday
 */

/**
 * What a button, a key, the palette and an assistive technology all run.
 * @typedef {object} Command
 * @property {string} name
 * @property {string} title what it does
 * @property {string} [keys] as they are pressed; several ways are separated by a space
 * @property {string} [letter] on the row number, where nothing can be typed
 * @property {boolean} [everywhere] whether its keys work wherever the focus is, while nothing is being typed
 * @property {boolean} [unlisted] whether the palette leaves it out
 * @property {(screen: Screen) => string | null} [can] why it cannot be run now
 * @property {(screen: Screen) => void} run
 */

/** The row that has the focus. @param {Screen} screen @returns {Row} */
export const rowOf = ({ store }) => /** @type {Row} */ (store.row(store.current?.id));

/** The heading of a group that has the focus, if any. @param {Screen} screen */
export function headingOf({ store }) {
  const shown = store.shown[store.line.get(store.current?.id ?? "") ?? -1];
  return shown?.heading ? shown : null;
}

/** A row has the focus, or some are picked. @param {Screen} screen */
export function aRow({ store }) {
  const row = store.row(store.current?.id);
  return !row || (store.selection.tops.length === 0 && !row.unsaved) ? "Choose a row of the list first." : null;
}

/** The same, of rows that are saved. @param {Screen} screen */
export const aSavedRow = (screen) =>
  aRow(screen) ??
  (screen.store.selection.tops.length === 0 ? "This row is not saved yet: give it a name first." : null);

/** The other screens have no timeline to show anything on. @param {Screen} screen */
export const onTimeline = ({ isPlan }) => (isPlan ? null : "The timeline is in Plan: open that screen first.");
