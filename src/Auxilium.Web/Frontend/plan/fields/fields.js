// @ts-check
// Every field of a task, in the order of their columns. A new one is a module beside this, and a line here.

/** @import { Field } from "./field.js" */
import { after } from "./after.js";
import { colour } from "./colour.js";
import { deadline, finish, start } from "./dates.js";
import { deliveredBy } from "./delivered-by.js";
import { effort } from "./effort.js";
import { key } from "./key.js";
import { label } from "./label.js";
import { length } from "./length.js";
import { MONEY } from "./money.js";
import { name } from "./name.js";
import { number } from "./number.js";
import { OWN_FIELDS } from "./own.js";
import { owner } from "./owner.js";
import { drift, plannedFinish, plannedStart } from "./planned.js";
import { priority } from "./priority.js";
import { role } from "./role.js";
import { serves } from "./serves.js";
import { sourceId } from "./source-id.js";
import { progress, state } from "./state.js";
import { team } from "./team.js";
import { float, steps } from "./told.js";
import { used } from "./used.js";

/** @type {Field[]} */
export const FIELDS = [
  number,
  name,
  owner,
  team,
  length,
  after,
  start,
  finish,
  plannedStart,
  plannedFinish,
  drift,
  state,
  progress,
  float,
  effort,
  used,
  ...MONEY,
  deadline,
  key,
  label,
  role,
  deliveredBy,
  serves,
  colour,
  priority,
  sourceId,
  steps,
  ...OWN_FIELDS,
];

const BY_KEY = new Map(FIELDS.map((field) => [field.key, field]));

/** @param {string} key @returns {Field} */
export function fieldOf(key) {
  const field = BY_KEY.get(key);
  if (!field) throw new Error(`There is no field “${key}”.`);
  return field;
}

/** What a row has of every plain fact that it says nothing of. */
export const USUAL_FACTS = Object.fromEntries(FIELDS.flatMap(({ key: k, fact }) => (fact ? [[k, fact.usual]] : [])));
