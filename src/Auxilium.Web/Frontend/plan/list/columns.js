// @ts-check
// The columns of the list: what a cell shows, what one types into it, and the edit that makes.

/** @import { Row } from "../state/types.js" */
/** @import { Store } from "../state/store.js" */
import { withNumbers } from "../state/rows-named.js";
import { percentOf, shareOf } from "../../shared/percent.js";
import { dayOf, finishDayOf, lastDayOf, short } from "../state/time.js";

/** @typedef {{ key: string, label: string, width: number, extra?: boolean }} Column width in pixels; an extra one is shown by choice */

/** @type {Column[]} */
export const COLUMNS = [
  { key: "no", label: "No.", width: 38 },
  { key: "name", label: "Task", width: 174 },
  { key: "owner", label: "Owner", width: 46 },
  { key: "length", label: "Length", width: 52 },
  { key: "after", label: "After", width: 66 },
  { key: "start", label: "Start", width: 76 },
  { key: "finish", label: "Finish", width: 60 },
  { key: "state", label: "State", width: 104 },
  { key: "progress", label: "Progress", width: 70, extra: true },
  { key: "float", label: "Float", width: 74, extra: true },
  { key: "deadline", label: "Deadline", width: 74, extra: true },
  { key: "label", label: "Label", width: 84, extra: true },
  { key: "priority", label: "Priority", width: 62, extra: true },
  { key: "steps", label: "Checklist", width: 72, extra: true },
];

/** These come first, and are always there. */
export const FIRST = ["no", "name"];

export const LEAST_WIDTH = 34;
export const MOST_WIDTH = 640;

const USUAL = COLUMNS.filter((column) => !column.extra);

/** @type {WeakMap<object, Column[]>} */
const chosen = new WeakMap();

/** The columns that are shown, from left to right. @param {Store} store @returns {Column[]} */
export function columnsOf({ look }) {
  if (!look.columns) return USUAL;
  let columns = chosen.get(look.columns);
  if (!columns) {
    const known = new Map(COLUMNS.map((column) => [column.key, column]));
    columns = look.columns.flatMap(({ key, width }) => {
      const column = known.get(key);
      return column ? [{ ...column, width }] : [];
    });
    chosen.set(look.columns, columns);
  }
  return columns;
}

/** @type {Record<string, string>} */
export const STATE_WORDS = {
  waiting: "Waiting",
  ready: "Ready",
  underWay: "Under way",
  lateToStart: "Late to start",
  overdue: "Overdue",
  done: "Done",
  noDate: "No date",
};

/** What a cell says. @param {Store} store @param {Row} row @param {string} col @returns {string} */
export function cellText(store, row, col) {
  const saved = !row.unsaved;
  switch (col) {
    case "no":
      return row.no;
    case "name":
      return row.name;
    case "owner":
      return ownerOf(store, row)?.initials ?? "";
    case "length":
      return saved ? row.length : "";
    case "after":
      return row.after;
    case "start":
      return row.start === null ? "" : short(dayOf(row.start));
    case "finish":
      return row.start === null ? "" : short(lastDayOf(row));
    case "progress":
      return row.start === null ? "" : `${Math.floor(row.progress)} %`;
    case "float":
      return row.critical ? "none" : (row.spare ?? "").replace(/ days?$/, "d").replace(/ hours?$/, "h");
    case "label":
      return row.label ?? "";
    case "priority":
      return saved && !row.heading ? String(row.priority) : "";
    case "steps":
      return row.steps ?? "";
    case "deadline":
      return row.deadline === null ? "" : short(finishDayOf(row.deadline));
    default:
      return row.start === null
        ? row.off
          ? store.row(row.parent)?.repeats
            ? "Skipped"
            : "No date"
          : ""
        : row.kind === "phase"
          ? `${Math.floor(row.progress)} %`
          : (STATE_WORDS[row.state ?? ""] ?? "");
  }
}

/** What the editor of a cell begins with. @param {Store} store @param {Row} row @param {string} col @returns {string} */
export function editorText(store, row, col) {
  if (col === "owner") return ownerOf(store, row)?.name ?? "";
  if (col === "state") return row.state === "done" ? "done" : row.started ? String(row.progress || "started") : "";
  if (col === "start" && row.pinned) return `pinned ${cellText(store, row, col)}`;
  return cellText(store, row, col);
}

/** @param {Store} store @param {Row} row */
export function ownerOf(store, row) {
  return store.people.find((person) => person.id === row.owner);
}

/**
 * The edit that a typed text means, or the sentence that says why it means none.
 * @param {Store} store @param {Row} row @param {string} col @param {string} text
 * @returns {{ edit: object } | { problem: string }}
 */
export function editFor(store, row, col, text) {
  const task = row.id;
  switch (col) {
    case "name":
      return { edit: { type: "renameTask", task, name: text } };
    case "owner":
      return { edit: { type: "setOwner", task, owner: text } };
    case "length":
      if (/^milestone$/i.test(text.trim())) return { edit: { type: "setMilestone", task, on: true } };
      if (row.kind === "milestone" && text.trim() !== "")
        return { edit: { type: "setMilestone", task, on: false, length: text } };
      return { edit: { type: "setLength", task, length: text } };
    case "after": {
      const links = withNumbers(store, text, task);
      if ("problem" in links) return links;
      return { edit: { type: "typePredecessors", task, after: links.text, rows: rowsNamedIn(store, links.text) } };
    }
    case "start": {
      const pin = /^\s*pin(ned)?\b\s*/i.exec(text);
      const day = pin ? text.slice(pin[0].length) : text;
      return {
        edit: { type: "placeTask", task, start: day.trim() === "" && !pin ? null : day, pin: pin !== null },
      };
    }
    case "finish":
      return { edit: { type: "setFinish", task, finish: text } };
    case "label":
      return { edit: { type: "setLabel", task, label: text.trim() === "" ? null : text } };
    case "priority": {
      const priority = Number(text.trim());
      return text.trim() !== "" && Number.isInteger(priority)
        ? { edit: { type: "setPriority", task, priority } }
        : { problem: "Priority is a whole number from 0 to 1000; 500 is usual." };
    }
    case "deadline":
      return { edit: { type: "setDeadline", task, deadline: text.trim() === "" ? null : text } };
    default:
      return progressFor(task, text.trim());
  }
}

/** @param {string} task @param {string} text @returns {{ edit: object } | { problem: string }} */
function progressFor(task, text) {
  const percent = percentOf(text);
  if (percent !== null) return { edit: { type: "reportProgress", task, progress: shareOf(percent) } };
  const [, word, on] = /^(done|finished|start|started|under way)\b[\s,:]*(?:on\b\s*)?(.*)$/i.exec(text) ?? [];
  if (word) {
    const type = /^(done|finished)$/i.test(word) ? "finishTask" : "startTask";
    return { edit: { type, task, ...(on ? { on } : {}) } };
  }
  if (/^(not started|)$/i.test(text)) return { edit: { type: "reportProgress", task, progress: 0 } };
  return {
    problem: `“${text.slice(0, 30)}” is not progress: type started, done, done 12 May, or a percentage such as 40.`,
  };
}

/** Which row each number meant to the person who typed it. @param {Store} store @param {string} text */
function rowsNamedIn(store, text) {
  const numbers = new Set(text.match(/\d+(\.\d+)*/g) ?? []);
  return Object.fromEntries(store.rows.filter((row) => numbers.has(row.no)).map((row) => [row.no, row.id]));
}

/** A row as a sentence, for a screen reader and for hovering. @param {Store} store @param {Row} row */
export function rowSentence(store, row) {
  if (row.start === null)
    return `${row.name}, ${row.heading ? "group" : row.off ? "no date: inactive" : "not saved yet"}`;
  const from = short(dayOf(row.start));
  const to = short(lastDayOf(row));
  const facts = [row.kind === "milestone" || from === to ? to : `${from} to ${to}`];
  if (row.repeats) facts.push(`comes ${row.repeats}`);
  if (row.kind === "phase") facts.push(`${Math.floor(row.progress)} % done`);
  else {
    if (row.kind === "milestone") facts.push("milestone");
    facts.push(row.waitsFor ? `waiting for ${row.waitsFor}` : (STATE_WORDS[row.state ?? ""] ?? "").toLowerCase());
    if (row.progress > 0 && row.progress < 100) facts.push(`${Math.floor(row.progress)} % done`);
    facts.push(ownerOf(store, row)?.name ?? "no owner");
    if (row.fixed) facts.push(row.fixed);
    if (row.stretches) facts.push("with pauses");
    if (row.deadline !== null) facts.push(`deadline ${short(finishDayOf(row.deadline))}`);
    if (row.key) facts.push("key task");
    if (row.label) facts.push(`labelled ${row.label}`);
    if (row.critical) facts.push("sets the finish");
    else if (row.spare) facts.push(`${row.spare} of float`);
    if (row.warning) facts.push(row.warning);
  }
  return `${row.name}, ${facts.filter(Boolean).join(", ")}`;
}
