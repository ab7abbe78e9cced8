// @ts-check
// How much a task matters among others.
import { numberFact } from "./facts.js";

export const priority = numberFact({ key: "priority", label: "Priority", usual: 500, least: 0, most: 1000 });
