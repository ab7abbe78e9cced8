// @ts-check
// Who outside the project delivers it.
import { textFact } from "./facts.js";

export const deliveredBy = textFact({
  key: "deliveredBy",
  label: "Delivered by",
  width: 100,
  hint: "a supplier or an office",
  said: (row) => (row.deliveredBy ? `delivered by ${row.deliveredBy}` : null),
  mark: (row) => (row.deliveredBy ? { name: "outside-mark", title: `Delivered by ${row.deliveredBy}` } : null),
});
