// @ts-check
// Fields of one's own: made, renamed, put in order, retired. For a project, and for all of the organisation.

/** @import { OwnField } from "../plan/state/types.js" */
import { checkField, choiceField, element, quietButton, textField } from "../plan/card/fields.js";

/**
 * Changes the fields as they are when what was changed before is done.
 * @typedef {(change: (fields: OwnField[]) => OwnField[], tell: (problem: string) => void) => void} SetFields
 */

/** @typedef {(field: string, value: string | null, tell: (problem: string) => void) => void} SetValue */

const MOST = 40;

/** @type {[string, string][]} */
const OF = [
  ["tasks", "Tasks"],
  ["project", "The project itself"],
];

/** @type {[OwnField["kind"], string][]} */
const KINDS = [
  ["text", "Text"],
  ["number", "Number"],
  ["amount", "Amount"],
  ["date", "Day"],
  ["yesNo", "Yes or no"],
  ["choice", "Choice"],
];

/** @type {[string, string][]} */
const COLOURS = [
  ["", "No colour"],
  ["sand", "Sand"],
  ["moss", "Moss"],
  ["sky", "Sky"],
  ["rose", "Rose"],
  ["lilac", "Lilac"],
];

/**
 * @param {OwnField[]} fields
 * @param {SetFields} set
 * @param {(problem: string) => void} say what is wrong with the press of a button
 * @param {SetValue | null} setValue what the project has in its own; null where they are those of the organisation
 */
export function ownFieldParts(fields, set, say, setValue) {
  const ofAll = setValue === null;
  const rows = fields.map((field, at) => fieldRow(fields, at, set, say, field.shared && !ofAll, setValue));
  const another = textField(
    "Another field",
    "",
    (name, tell) => {
      if (!name) return;
      if (fields.length >= MOST) return tell(`There are at most ${MOST} fields: delete one that is not used.`);
      const fresh = {
        name,
        kind: /** @type {const} */ ("text"),
        unit: null,
        choices: [],
        ofProject: false,
        value: null,
      };
      set((now) => [...now, { ...fresh, id: idFor(name, now), shared: ofAll, retired: false }], tell);
    },
    { hint: "its name, such as Cost code" },
  );
  return [
    element(
      "p",
      { class: "hint" },
      ofAll
        ? "All open projects have these, of their tasks or of themselves; new projects get them, too."
        : "Facts that tasks, or the project itself, have here besides the usual ones: as columns, to filter, group and sort by.",
    ),
    ...rows,
    another,
  ];
}

/**
 * @param {OwnField[]} fields
 * @param {number} at
 * @param {SetFields} set
 * @param {(problem: string) => void} say
 * @param {boolean} isOfAll whether it is changed where those of the organisation are
 * @param {SetValue | null} setValue
 */
function fieldRow(fields, at, set, say, isOfAll, setValue) {
  const field = fields[at];
  /** @param {(field: OwnField) => Partial<OwnField>} part @param {(problem: string) => void} tell */
  const change = (part, tell) =>
    set((now) => now.map((other) => (other.id === field.id ? { ...other, ...part(other) } : other)), tell);
  const move = (/** @type {number} */ by) => {
    const words = `Move ${field.name} ${by < 0 ? "up" : "down"}`;
    const go = () =>
      set((now) => {
        const from = now.findIndex((other) => other.id === field.id);
        return now.toSpliced(from, 1).toSpliced(from + by, 0, ...now.slice(from, from + 1));
      }, say);
    const button = /** @type {HTMLButtonElement} */ (quietButton(by < 0 ? "▴" : "▾", go, words));
    button.disabled = at + by < 0 || at + by >= fields.length;
    return button;
  };
  const key = (/** @type {string} */ part) => `field ${field.id} ${part}`;
  const what = isOfAll
    ? [
        element(
          "p",
          { class: "mute" },
          [
            field.name,
            KINDS.find(([kind]) => kind === field.kind)?.[1].toLowerCase(),
            field.ofProject ? "of each project" : "of tasks of all projects",
          ].join(" · "),
        ),
      ]
    : [
        textField("Name", field.name, (name, tell) => change(() => ({ name }), tell), { key: key("name") }),
        choiceField("Holds", KINDS, field.kind, (kind, tell) =>
          change(
            () => ({
              kind: /** @type {OwnField["kind"]} */ (kind),
              choices: kind === "choice" ? [{ id: "first", name: "First choice", colour: null }] : [],
            }),
            tell,
          ),
        ),
        choiceField("Is a fact of", OF, field.ofProject ? "project" : "tasks", (of, tell) =>
          change(() => ({ ofProject: of === "project" }), tell),
        ),
        ...(field.kind === "amount"
          ? [
              textField("Unit", field.unit ?? "", (unit, tell) => change(() => ({ unit }), tell), {
                hint: "kg",
                key: key("unit"),
              }),
            ]
          : []),
      ];
  return element(
    "fieldset",
    { class: `own-field${field.retired ? " is-retired" : ""}` },
    element("legend", {}, field.retired ? `${field.name}, retired` : field.name),
    ...what,
    element(
      "div",
      { class: "own-field-acts" },
      move(-1),
      move(1),
      quietButton(
        field.retired ? "Use again" : "Retire",
        () => change(() => ({ retired: !field.retired }), say),
        `${field.retired ? "Use" : "Retire"} ${field.name}${field.retired ? " again" : ""}`,
      ),
      ...(isOfAll
        ? []
        : [
            quietButton(
              "Delete",
              () => set((now) => now.filter((other) => other.id !== field.id), say),
              `Delete ${field.name}`,
            ),
          ]),
    ),
    ...(field.kind === "choice" && !isOfAll ? [choices(field, change)] : []),
    ...(field.ofProject && !field.retired && setValue ? [valueField(field, setValue)] : []),
  );
}

/**
 * What the project has in a field of its own.
 * @param {OwnField} field
 * @param {SetValue} setValue
 */
function valueField(field, setValue) {
  const words = `${field.name} of this project`;
  const set = (/** @type {string} */ value, /** @type {(problem: string) => void} */ tell) =>
    setValue(field.id, value || null, tell);
  if (field.kind === "yesNo") return checkField(words, field.value === "yes", (on, tell) => set(on ? "yes" : "", tell));
  if (field.kind !== "choice")
    return textField(field.unit ? `${words}, in ${field.unit}` : words, field.value ?? "", set, {
      key: `field ${field.id} value`,
    });
  /** @type {[string, string][]} */
  const options = [["", "None"], ...field.choices.map((c) => /** @type {[string, string]} */ ([c.id, c.name]))];
  return choiceField(words, options, field.value ?? "", set);
}

/** @param {OwnField} field @param {(part: (field: OwnField) => Partial<OwnField>, tell: (problem: string) => void) => void} change */
function choices(field, change) {
  const rows = field.choices.map(({ id, name: called, colour: has }, i) => {
    const alter = (/** @type {Partial<OwnField["choices"][number]>} */ part, /** @type {(p: string) => void} */ tell) =>
      change((now) => ({ choices: now.choices.map((c) => (c.id === id ? { ...c, ...part } : c)) }), tell);
    return element(
      "div",
      { class: "own-choice" },
      textField(
        `Choice ${i + 1}`,
        called,
        (name, tell) =>
          name
            ? alter({ name }, tell)
            : change((now) => ({ choices: now.choices.filter((other) => other.id !== id) }), tell),
        { key: `field ${field.id} choice ${id}` },
      ),
      choiceField(`Colour of ${called}`, COLOURS, has ?? "", (colour, tell) => alter({ colour: colour || null }, tell)),
    );
  });
  const another = textField(
    "Another choice",
    "",
    (name, tell) =>
      name &&
      change((now) => ({ choices: [...now.choices, { id: idFor(name, now.choices), name, colour: null }] }), tell),
    { key: `field ${field.id} another choice` },
  );
  return element("div", { class: "own-choices" }, ...rows, another);
}

/**
 * One change after the other, each to what the one before left.
 * @param {() => OwnField[]} now
 * @param {(fields: OwnField[], tell: (problem: string) => void) => Promise<unknown>} save
 * @returns {SetFields}
 */
export function inTurn(now, save) {
  let last = Promise.resolve();
  return (change, tell) => {
    last = last.then(() => save(change(now()), tell)).then(() => undefined);
  };
}

/** An id that is made of a name, and that none of some has. @param {string} name @param {{ id: string }[]} taken */
function idFor(name, taken) {
  const letters = name.replace(/[^A-Za-z0-9]/g, "").slice(0, 24) || "field";
  const id = letters.charAt(0).toLowerCase() + letters.slice(1);
  for (let i = 1; ; i++) {
    const own = i === 1 ? id : `${id}-${i}`;
    if (!taken.some((other) => other.id === own)) return own;
  }
}
