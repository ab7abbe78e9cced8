// @ts-check
// Commands that work everywhere.

/** @type {import("./command.js").Command[]} */
export const EVERYTHING = [
  {
    name: "find",
    title: "Find a task, a person or an action",
    keys: "/",
    everywhere: true,
    unlisted: true,
    run: ({ openPalette }) => openPalette(),
  },
  { name: "pasteList", title: "Import a list or a file", run: ({ openPaste }) => openPaste() },
  { name: "priceList", title: "Add tasks from the price list", run: ({ openPrices }) => openPrices() },
  {
    name: "export",
    title: "Export the plan as a file",
    can: ({ store }) =>
      store.rights === "past"
        ? "This is the plan as it was: go back to now to export it."
        : document.getElementById("main")?.dataset.exports
          ? null
          : "This link shows the plan only: ask whoever sent it for a file.",
    run: ({ openExport }) => openExport(),
  },
  { name: "undo", title: "Undo", keys: "Ctrl+Z", everywhere: true, run: ({ actions }) => actions.undo() },
  {
    name: "redo",
    title: "Redo",
    keys: "Ctrl+Shift+Z Ctrl+Y",
    everywhere: true,
    run: ({ actions }) => actions.redo(),
  },
  {
    name: "takeBaseline",
    title: "Take a baseline of the plan, or of the picked rows",
    can: ({ store }) => store.whyNot,
    run: ({ openBaseline }) => openBaseline(),
  },
  {
    name: "releaseLevelling",
    title: "Release levelling",
    can: ({ store }) => store.whyNot,
    run: ({ actions }) => actions.send({ type: "releaseLevelling" }),
  },
  { name: "moved", title: "See what moved", run: ({ openMoves }) => openMoves() },
  { name: "keys", title: "List of keys", keys: "?", everywhere: true, run: ({ openKeys }) => openKeys() },
];
