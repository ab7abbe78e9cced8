// @ts-check
// What somebody does it as, while nobody has taken it, and after.
import { textFact } from "./facts.js";

export const role = textFact({
  key: "role",
  label: "Role",
  width: 110,
  hint: "such as stage manager",
  said: (row) => (row.role ? `for the role ${row.role}` : null),
});
