// @ts-check
// A word of your own to gather tasks by.
import { textFact } from "./facts.js";

export const label = textFact({
  key: "label",
  label: "Label",
  hint: "a word of your own",
  said: (row) => (row.label ? `labelled ${row.label}` : null),
});
