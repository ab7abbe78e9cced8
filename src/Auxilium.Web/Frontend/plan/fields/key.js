// @ts-check
// Whether a task is one of those that matter most.
import { yesNoFact } from "./facts.js";

export const key = yesNoFact({
  key: "key",
  label: "Key task",
  value: "on",
  orderLabel: "Key tasks first",
  mark: (row) => (row.key ? { name: "key-mark", title: "Key task" } : null),
});
