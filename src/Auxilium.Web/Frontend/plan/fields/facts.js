// @ts-check
// Plain facts of a task, those that no date depends on. What they are like follows from their name and what values they have.

/** @import { Card, Row } from "../state/types.js" */
/** @import { Field, Made } from "./field.js" */
import { checkField, choiceField, textField } from "../card/fields.js";
import { hueOf, LAST } from "./field.js";

/** @param {Row | Card} of @param {string} key @returns {any} */
const valueOf = (of, key) => /** @type {Record<string, unknown>} */ (/** @type {unknown} */ (of))[key];

/** @param {string} key */
const typeOf = (key) => `set${key.charAt(0).toUpperCase()}${key.slice(1)}`;

/** @param {string} label */
const low = (label) => label.charAt(0).toLowerCase() + label.slice(1);

/**
 * A word of your own, such as a label: rows are found, grouped and coloured by it.
 * @param {Partial<Field> & { key: string, label: string, hint?: string }} how
 * @returns {Field}
 */
export function textFact({ key, label, hint, ...more }) {
  /** @param {string} task @param {string} text */
  const edit = (task, text) => ({ type: typeOf(key), task, [key]: text.trim() === "" ? null : text });
  const list = `${key}-values`;
  return {
    key,
    label,
    width: 84,
    extra: true,
    fact: { usual: null },
    text: (_, row) => valueOf(row, key) ?? "",
    edit: (_, row, text) => ({ edit: edit(row.id, text) }),
    assist: (store, input) => offer(store, input, list),
    clears: true,
    shared: true,
    onPhases: true,
    many: { label, list },
    order: (row) => valueOf(row, key)?.toLocaleLowerCase() ?? LAST,
    group: { of: (row) => valueOf(row, key) ?? "", title: (value) => value || `No ${low(label)}` },
    filter: {
      any: "Any",
      values: (store) => [["None", "-"], ...values(store).map((value) => [value, value])],
      holds: (row, value) => (valueOf(row, key) ?? "-") === value,
      says: (value) =>
        value === "-" ? `without ${/^[aeiou]/i.test(label) ? "an" : "a"} ${low(label)}` : `${low(label)} ${value}`,
    },
    tint: (_, row) => (valueOf(row, key) ? hueOf(valueOf(row, key)) : null),
    barLabel: (_, row) => valueOf(row, key) ?? "",
    said: (row) => (valueOf(row, key) ? `${low(label)} ${valueOf(row, key)}` : null),
    lanes: values,
    card: (card, send) =>
      textField(label, valueOf(card, key) ?? "", (text, tell) => send(edit(card.id, text), tell), {
        ...(hint ? { hint } : {}),
        list,
      }),
    ...more,
  };

  /** Those that rows have, in order. @param {import("../state/store.js").Store} store @returns {string[]} */
  function values(store) {
    const all = new Set(store.rows.flatMap((row) => (valueOf(row, key) ? [String(valueOf(row, key))] : [])));
    return [...all].sort((a, b) => a.localeCompare(b));
  }

  /** @param {import("../state/store.js").Store} store @param {HTMLInputElement} input @param {string} id */
  function offer(store, input, id) {
    valuesIn(id).replaceChildren(...values(store).map((value) => new Option("", value)));
    input.setAttribute("list", id);
  }
}

/** The list of values that inputs offer. @param {string} id */
export function valuesIn(id) {
  const known = document.getElementById(id);
  if (known) return known;
  const list = document.createElement("datalist");
  list.id = id;
  document.body.append(list);
  return list;
}

/**
 * One of some words, or none.
 * @param {Partial<Field> & { key: string, label: string, choices: string[][] }} how the words for each choice and its value, that for none
 * first and empty
 * @returns {Field}
 */
export function choiceFact({ key, label, choices, ...more }) {
  const wordsOf = (/** @type {string | null} */ value) => choices.find(([, v]) => v === (value ?? ""))?.[0] ?? "";
  /** @param {string} task @param {string} value */
  const edit = (task, value) => ({ type: typeOf(key), task, [key]: value || null });
  return {
    key,
    label,
    width: 74,
    extra: true,
    fact: { usual: null },
    text: (_, row) => (valueOf(row, key) ? wordsOf(valueOf(row, key)) : ""),
    edit: (_, row, text) => chosen(row.id, text.trim().toLocaleLowerCase()),
    clears: true,
    shared: true,
    onPhases: true,
    many: { label, choices: choices.map(([words = "", value = ""]) => [words, value || "-"]) },
    order: (row) =>
      choices.findIndex(([, value]) => value === valueOf(row, key)) + (valueOf(row, key) ? 0 : choices.length + 1),
    group: { of: (row) => valueOf(row, key) ?? "", title: (value) => (value ? wordsOf(value) : `No ${low(label)}`) },
    filter: {
      any: "Any",
      values: () => choices.map(([words = "", value = ""]) => [words, value || "-"]),
      holds: (row, value) => (valueOf(row, key) ?? "-") === value,
      says: (value) => (value === "-" ? `no ${low(label)}` : `${low(label)} ${low(wordsOf(value))}`),
    },
    card: (card, send) =>
      choiceField(
        label,
        /** @type {[string, string][]} */ (choices.map(([words, value]) => [value, words])),
        valueOf(card, key) ?? "",
        (value, tell) => send(edit(card.id, value), tell),
      ),
    ...more,
  };

  /** @param {string} task @param {string} text @returns {Made} */
  function chosen(task, text) {
    const found = choices.find(([words = "", value = ""]) => [words.toLocaleLowerCase(), value || "-"].includes(text));
    if (text === "" || found) return { edit: edit(task, found?.[1] ?? "") };
    const all = choices.map(([words = ""]) => low(words)).join(", ");
    return { problem: `${label} is one of ${all}.` };
  }
}

/**
 * A whole number.
 * @param {Partial<Field> & { key: string, label: string, usual: number, least: number, most: number }} how
 * @returns {Field}
 */
export function numberFact({ key, label, usual, least, most, ...more }) {
  const rule = `${label} is a whole number from ${least} to ${most}; ${usual} is usual.`;
  return {
    key,
    label,
    width: 62,
    extra: true,
    fact: { usual },
    text: (_, row) => (!row.unsaved && !row.heading ? String(valueOf(row, key)) : ""),
    edit: (_, row, text) => made(row.id, text),
    shared: true,
    onPhases: true,
    order: (row) => -valueOf(row, key),
    card: (card, send) =>
      textField(label, String(valueOf(card, key)), (text, tell) => {
        const edit = made(card.id, text);
        if ("problem" in edit) tell(edit.problem);
        else send(edit.edit, tell);
      }),
    ...more,
  };

  /** @param {string} task @param {string} text @returns {Made} */
  function made(task, text) {
    const number = Number(text.trim());
    return text.trim() !== "" && Number.isInteger(number)
      ? { edit: { type: typeOf(key), task, [key]: number } }
      : { problem: rule };
  }
}

/**
 * Something that is so or not.
 * @param {Partial<Field> & { key: string, label: string, value?: string }} how what the value is called in the edit, where it is not
 * called as the field
 * @returns {Field}
 */
export function yesNoFact({ key, label, value = key, ...more }) {
  /** @param {string} task @param {boolean} on */
  const edit = (task, on) => ({ type: typeOf(key), task, [value]: on });
  return {
    key,
    label,
    width: 62,
    extra: true,
    fact: { usual: false },
    text: (_, row) => (valueOf(row, key) ? "Yes" : ""),
    edit: (_, row, text) =>
      /^(yes|y|x|no|n|-|)$/i.test(text.trim())
        ? { edit: edit(row.id, /^(yes|y|x)$/i.test(text.trim())) }
        : { problem: `“${text.slice(0, 20)}” is neither yes nor no: type one of them.` },
    clears: true,
    shared: true,
    onPhases: true,
    order: (row) => (valueOf(row, key) ? 0 : 1),
    said: (row) => (valueOf(row, key) ? low(label) : null),
    card: (card, send) => checkField(label, valueOf(card, key), (on, tell) => send(edit(card.id, on), tell)),
    ...more,
  };
}
