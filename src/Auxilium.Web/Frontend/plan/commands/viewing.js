// @ts-check
// Commands that change the view, never the plan.

/** @import { Command, Screen } from "./command.js" */
import { EVERYTHING, foldedFrom } from "../state/view.js";
import { aRow, headingOf, onTimeline, rowOf } from "./command.js";

/** @param {Screen} screen */
const aPhase = (screen) => (headingOf(screen) ? null : aRow(screen));

/** @type {Command[]} */
export const VIEWING = [
  { name: "fold", title: "Fold the phase", letter: "-", can: aPhase, run: (screen) => foldOne(screen, true) },
  { name: "unfold", title: "Unfold the phase", letter: "+", can: aPhase, run: (screen) => foldOne(screen, false) },
  { name: "foldAll", title: "Fold all phases", run: (screen) => fold(screen, foldedFrom(screen.store.rows, 0)) },
  { name: "unfoldAll", title: "Unfold all phases", run: (screen) => fold(screen, []) },
  {
    name: "unfoldOne",
    title: "Unfold to the first level",
    run: (screen) => fold(screen, foldedFrom(screen.store.rows, 1)),
  },
  {
    name: "unfoldTwo",
    title: "Unfold to the second level",
    run: (screen) => fold(screen, foldedFrom(screen.store.rows, 2)),
  },
  { name: "filter", title: "Filter and sort", run: ({ openView }) => openView() },
  { name: "columns", title: "Choose columns", run: ({ openView }) => openView("columns") },
  {
    name: "wrap",
    title: "Two lines for long names, or one",
    run: ({ store }) => store.show({ wrap: !store.view.wrap }),
  },
  { name: "load", title: "Load under the timeline", can: onTimeline, run: ({ turnLoad }) => turnLoad() },
  { name: "tray", title: "Tasks without a date", can: onTimeline, run: ({ turnTray }) => turnTray() },
  { name: "showAll", title: "Show everything, in the plan’s order", run: ({ store }) => store.show(EVERYTHING) },
  { name: "today", title: "Go to today", can: onTimeline, run: ({ showToday }) => showToday() },
  {
    name: "fitAll",
    title: "Fit the project into the timeline",
    can: onTimeline,
    run: ({ store, fit }) => fit(store.rows),
  },
  {
    name: "fitPicked",
    title: "Fit the picked rows into the timeline",
    can: onTimeline,
    run: ({ store, fit }) => fit(store.selection.ids.flatMap((id) => store.row(id) ?? [])),
  },
  { name: "zoomIn", title: "Zoom in on the timeline", letter: "]", can: onTimeline, run: ({ zoom }) => zoom(1.5) },
  {
    name: "zoomOut",
    title: "Zoom out of the timeline",
    letter: "[",
    can: onTimeline,
    run: ({ zoom }) => zoom(1 / 1.5),
  },
];

/** @param {Screen} screen @param {boolean} isFolded */
function foldOne(screen, isFolded) {
  const heading = headingOf(screen);
  const row = heading ?? rowOf(screen);
  const phase = row.kind === "phase" ? row.id : row.parent;
  if (phase === null) return;
  const others = screen.store.view.folded.filter((id) => id !== phase);
  fold(screen, isFolded ? [...others, phase] : others);
}

/** @param {Screen} screen @param {string[]} folded */
function fold({ store, list }, folded) {
  store.show({ folded });
  if (store.current) list.focus(store.current.id, store.current.col, { keepRange: true });
}
