// @ts-check
// Commands that pick rows, and those for what is picked.

/** @import { Command, Screen } from "./command.js" */
import { aRow, aSavedRow, headingOf, rowOf } from "./command.js";

/** @param {Screen} screen */
const aLine = (screen) => (headingOf(screen) ? null : aRow(screen));

/** @type {Command[]} */
export const PICKING = [
  {
    name: "pick",
    title: "Select the row, or clear it",
    keys: "Shift+Space",
    can: aRow,
    run: (screen) => screen.store.selection.toggle(rowOf(screen).id),
  },
  {
    name: "pickUp",
    title: "Pick up to the row above",
    keys: "Shift+ArrowUp",
    unlisted: true,
    can: aLine,
    run: (screen) => extend(screen, -1),
  },
  {
    name: "pickDown",
    title: "Pick down to the row below",
    keys: "Shift+ArrowDown",
    unlisted: true,
    can: aLine,
    run: (screen) => extend(screen, 1),
  },
  { name: "pickAll", title: "Pick all rows that are shown", keys: "Ctrl+A", run: ({ store }) => store.selection.all() },
  { name: "pickNone", title: "Clear selection", keys: "Escape", run: ({ store }) => store.selection.clear() },
  {
    name: "fillDown",
    title: "Fill the cell down over the picked rows",
    keys: "F8",
    can: aSavedRow,
    run: ({ store, actions }) => actions.fillDown(store.current?.col ?? "name"),
  },
  {
    name: "chain",
    title: "Link the picked rows as a chain, in the order they were picked",
    keys: "F9",
    can: (screen) =>
      aSavedRow(screen) ??
      (screen.store.selection.ids.length < 2
        ? "Pick two or more rows first, in the order in which they follow each other."
        : null),
    run: ({ store, actions }) => {
      const { ids } = store.selection;
      actions.sendAll(
        ids.slice(1).map((to, i) => ({ type: "linkTasks", from: ids[i], to })),
        ids[1],
      );
    },
  },
];

/** @param {Screen} screen @param {number} step */
function extend({ store, list }, step) {
  const { current, line, shown, selection } = store;
  if (!current) return;
  const next = shown[(line.get(current.id) ?? 0) + step];
  if (!next) return;
  selection.extendTo(next.id);
  list.focus(next.id, current.col, { keepRange: true });
}
