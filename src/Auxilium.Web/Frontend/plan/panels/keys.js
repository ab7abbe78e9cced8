// @ts-check
// The list of keys, made of the commands themselves.

import { COMMANDS, printed } from "../commands/commands.js";

/** Keys of the list that are no commands. */
const CELLS = [
  ["Enter", "Edit the cell; then keep it and go down"],
  ["Tab", "Keep it and go right"],
  ["Esc", "Leave the cell as it was"],
  ["Ctrl+C Ctrl+X Ctrl+V", "Copy, cut and paste: rows where some are picked or on the row number, else the cell"],
];

/** @param {HTMLElement} element */
export function listKeys(element) {
  element.replaceChildren(
    ...section(
      "Cells",
      CELLS.map(([keys, title]) => ({ keys, title })),
    ),
    ...COMMANDS.flatMap(({ group, commands }) =>
      section(
        group,
        commands.filter(({ keys, letter }) => keys || letter),
      ),
    ),
  );
}

/** @param {string} title @param {{ keys?: string, letter?: string, title: string }[]} rows */
function section(title, rows) {
  const heading = document.createElement("h3");
  heading.textContent = title;
  const list = document.createElement("dl");
  list.className = "keys";
  for (const row of rows) {
    const term = document.createElement("dt");
    const ways = [...(row.keys ?? "").split(" ").filter(Boolean)];
    ways.forEach((chord, i) => {
      if (i > 0) term.append(" or ");
      term.append(...keysOf(chord));
    });
    if (row.letter) {
      if (ways.length > 0) term.append(" or ");
      term.append(...keysOf(row.letter.length === 1 ? row.letter.toUpperCase() : row.letter), " on the number");
    }
    const words = document.createElement("dd");
    words.textContent = row.title;
    list.append(term, words);
  }
  return [heading, list];
}

/** @param {string} chord */
function keysOf(chord) {
  return (chord === "+" ? ["+"] : printed(chord)).flatMap((key, i) => {
    const mark = document.createElement("kbd");
    mark.textContent = key;
    return i > 0 ? [" ", mark] : [mark];
  });
}
