// @ts-check
// A colour that somebody gave a row.
import { choiceFact } from "./facts.js";

export const colour = choiceFact({
  key: "colour",
  label: "Colour",
  choices: [
    ["None", ""],
    ["Sand", "sand"],
    ["Moss", "moss"],
    ["Sky", "sky"],
    ["Rose", "rose"],
    ["Lilac", "lilac"],
  ],
  tintLabel: "Their own colour",
  tint: (_, row) => (row.colour ? { name: "data-tint", value: row.colour } : null),
});
