// @ts-check
// Fields that people added to this project: text, numbers, amounts, days, yes or no, choices.

/** @import { Card, OwnField, Row } from "../state/types.js" */
/** @import { Store } from "../state/store.js" */
/** @import { Field, Tint } from "./field.js" */
import { checkField, choiceField, textField } from "../card/fields.js";
import { dayFrom, short, withYear } from "../state/time.js";
import { hueOf, LAST } from "./field.js";

const YES = "yes";
const MOST_VALUES = 60; // that can be filtered by

/** @returns {OwnField[]} those of the project in the page */
function fieldsHere() {
  const data = globalThis.document?.getElementById("plan-data")?.textContent;
  return data ? (JSON.parse(data).changes.project.fields ?? []) : [];
}

/** @param {OwnField} field @returns {Field} */
export function ownField(field) {
  const { id, name, kind, unit, choices } = field;
  const isNumber = kind === "number" || kind === "amount";
  const valueOf = (/** @type {Row | Card} */ of) => of.own?.[id] ?? null;
  const chosen = (/** @type {string} */ value) => choices.find((choice) => choice.id === value);
  /** @param {string} task @param {string} text */
  const edit = (task, text) => ({ type: "setOwn", task, field: id, value: text.trim() === "" ? null : text });

  /** @param {string | null} value */
  function words(value) {
    if (value === null) return "";
    if (kind === "date") return short(dayFrom(value));
    if (kind === "yesNo") return "Yes";
    if (kind === "choice") return chosen(value)?.name ?? value;
    return unit ? `${value} ${unit}` : value;
  }

  /** @param {Store} store @returns {string[]} in the order of the field */
  function values(store) {
    if (kind === "choice") return choices.map((choice) => choice.id);
    if (kind === "yesNo") return [YES];
    const all = [...new Set(store.rows.flatMap((row) => valueOf(row) ?? []))];
    const sorted = isNumber ? all.sort((a, b) => Number(a) - Number(b)) : all.sort((a, b) => a.localeCompare(b));
    return sorted.slice(0, MOST_VALUES);
  }

  /** @param {Row} row @returns {Tint | null} */
  function tint(row) {
    const value = valueOf(row);
    const colour = value !== null && kind === "choice" ? chosen(value)?.colour : null;
    if (colour) return { name: "data-tint", value: colour };
    return value === null ? null : hueOf(value);
  }

  return {
    key: `own:${id}`,
    label: name,
    width: isNumber || kind === "yesNo" ? 74 : 96,
    extra: true,
    fact: { usual: null },
    text: (_, row) => words(valueOf(row)),
    typed: (_, row) =>
      kind === "date" && valueOf(row) !== null ? withYear(dayFrom(valueOf(row) ?? "")) : words(valueOf(row)),
    copied: (_, row) => (kind === "choice" ? words(valueOf(row)) : (valueOf(row) ?? "")),
    edit: (_, row, text) => ({ edit: edit(row.id, text) }),
    clears: true,
    shared: true,
    onPhases: true,
    many: {
      label: name,
      ...(kind === "choice" || kind === "yesNo"
        ? {
            choices: [
              ["None", "-"],
              ...(kind === "yesNo" ? [["Yes", YES]] : choices.map((choice) => [choice.name, choice.name])),
            ],
          }
        : {}),
    },
    order: (row) => {
      const value = valueOf(row);
      if (isNumber) return value === null ? Infinity : Number(value);
      if (kind === "choice") return value === null ? Infinity : choices.findIndex((choice) => choice.id === value);
      return value?.toLocaleLowerCase() ?? LAST;
    },
    group: {
      of: (row) => valueOf(row) ?? "",
      title: (value) => (value === "" ? `No ${name}` : `${name}: ${words(value)}`),
      give: (row, value) => edit(row.id, value),
    },
    filter: {
      any: "Any",
      values: (store) => [["None", "-"], ...values(store).map((value) => [words(value), value])],
      holds: (row, value) => (valueOf(row) ?? "-") === value,
      says: (value) => (value === "-" ? `without ${name}` : `${name}: ${words(value)}`),
    },
    ...(kind === "choice" || kind === "text" || kind === "yesNo" ? { tint: (_, row) => tint(row) } : {}),
    barLabel: (_, row) => words(valueOf(row)),
    said: (row) => (valueOf(row) === null ? null : `${name} ${words(valueOf(row))}`),
    ...(kind === "choice" ? { lanes: values } : {}),
    card: (card, send) => {
      const value = valueOf(card);
      if (kind === "yesNo")
        return checkField(name, value === YES, (on, tell) => send(edit(card.id, on ? YES : ""), tell));
      if (kind === "choice")
        return choiceField(
          name,
          [["", "None"], ...choices.map((choice) => /** @type {[string, string]} */ ([choice.id, choice.name]))],
          value ?? "",
          (to, tell) => send(edit(card.id, to), tell),
        );
      const shown = kind === "date" && value !== null ? withYear(dayFrom(value)) : (value ?? "");
      return textField(unit ? `${name} (${unit})` : name, shown, (text, tell) => send(edit(card.id, text), tell));
    },
  };
}

/** Those of the project in the page, but for retired ones. */
export const OWN_FIELDS = fieldsHere()
  .filter((field) => !field.retired)
  .map(ownField);
