// @ts-check
// Every command there is, and the keys that run them. A new one is an object in the file of its group.

/** @import { Command, Screen } from "./command.js" */
import { EVERYTHING } from "./everything.js";
import { PICKING } from "./picking.js";
import { ROWS } from "./rows.js";
import { TASKS } from "./tasks.js";
import { VIEWING } from "./viewing.js";

/** In the order they are listed. @type {{ group: string, commands: Command[] }[]} */
export const COMMANDS = [
  { group: "Rows", commands: ROWS },
  { group: "Picking rows", commands: PICKING },
  { group: "Tasks", commands: TASKS },
  { group: "View", commands: VIEWING },
  { group: "Everything", commands: EVERYTHING },
];

const ALL = COMMANDS.flatMap(({ commands }) => commands);
const BY_NAME = new Map(ALL.map((command) => [command.name, command]));
const BY_KEYS = new Map(ALL.flatMap(({ name, keys }) => (keys ?? "").split(" ").map((chord) => [chord, name])));
const BY_LETTER = new Map(ALL.flatMap(({ name, letter }) => (letter ? [[letter, name]] : [])));

/** Whether its keys work while nothing is being typed, wherever the focus is. @param {string} name */
export const isEverywhere = (name) => BY_NAME.get(name)?.everywhere === true;

/** Runs a command, or says why it cannot be run. @param {Screen} screen @param {string} name */
export function runCommand(screen, name) {
  const command = BY_NAME.get(name);
  if (!command) throw new Error(`There is no command “${name}”.`);
  const whyNot = command.can?.(screen) ?? null;
  if (whyNot === null) command.run(screen);
  else screen.store.tell(whyNot);
}

/** The command that a key means. @param {KeyboardEvent} event @param {boolean} onNumber @returns {string | undefined} */
export function commandOf(event, onNumber) {
  const control = event.ctrlKey || event.metaKey;
  const key = event.key === " " ? "Space" : event.key.length === 1 ? event.key.toUpperCase() : event.key;
  // Which sign needs Shift differs from keyboard to keyboard; letters and named keys do not.
  const shift = event.shiftKey && (key.length > 1 || /[A-Z]/.test(key)) ? "Shift+" : "";
  const chord = `${control ? "Ctrl+" : ""}${event.altKey ? "Alt+" : ""}${shift}${key}`;
  const plain = onNumber && !control && !event.altKey && !event.shiftKey;
  return BY_KEYS.get(chord) ?? ((plain || key === "+") && onNumber ? BY_LETTER.get(lower(event.key)) : undefined);
}

/** @param {string} key */
const lower = (key) => (key.length === 1 ? key.toLowerCase() : key);

/** Keys as they are printed. @param {string} chord */
export const printed = (chord) =>
  chord
    .split("+")
    .map((key) => /** @type {Record<string, string>} */ ({ ArrowUp: "↑", ArrowDown: "↓", Escape: "Esc" })[key] ?? key);
