// @ts-check
// How far a task is.

/** @import { Row } from "../state/types.js" */
/** @import { Made } from "./field.js" */
import { percentOf, shareOf } from "../../shared/percent.js";

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

const ORDER = ["overdue", "lateToStart", "underWay", "ready", "waiting", "done"];

/** @param {Row} row */
const stateOrder = (row) => (row.state && ORDER.includes(row.state) ? ORDER.indexOf(row.state) : ORDER.length);

/** @type {import("./field.js").Field} */
export const state = {
  key: "state",
  label: "State",
  width: 104,
  text: (store, row) => {
    if (row.start === null) return row.off ? (store.row(row.parent)?.repeats ? "Skipped" : "No date") : "";
    return row.kind === "phase" ? `${Math.floor(row.progress)}%` : (STATE_WORDS[row.state ?? ""] ?? "");
  },
  typed: (_, row) => (row.state === "done" ? "done" : row.started ? String(row.progress || "started") : ""),
  copied: (_, row) => {
    if (row.kind === "phase") return "";
    return row.progress > 0 && row.progress < 100 ? `${row.progress}%` : row.state === "done" ? "done" : "";
  },
  edit: (_, row, text) => progressFor(row.id, text.trim()),
  shared: true,
  many: { label: "Done", placeholder: "%" },
  order: stateOrder,
  group: {
    of: (row) => (row.start === null ? "" : row.state) ?? "",
    title: (key) => STATE_WORDS[key] ?? "No date",
    rank: stateOrder,
  },
  filter: {
    any: "Any",
    values: () => [["Late or overdue", "late"], ...Object.entries(STATE_WORDS).map(([value, words]) => [words, value])],
    holds: (row, value) => {
      if (value === "late") return row.state === "overdue" || row.state === "lateToStart";
      return value === "noDate" ? row.start === null : row.state === value;
    },
    says: (value) => (STATE_WORDS[value] ?? "Late or overdue").toLowerCase(),
  },
  tint: (_, row) => (row.state ? { name: "data-tint", value: row.state } : null),
};

/** @type {import("./field.js").Field} */
export const progress = {
  key: "progress",
  label: "Progress",
  width: 70,
  extra: true,
  text: (_, row) => (row.start === null ? "" : `${Math.floor(row.progress)}%`),
  typed: (store, row) => state.text(store, row),
  edit: (_, row, text) => progressFor(row.id, text.trim()),
  barLabel: (_, row) => (row.progress > 0 ? `${Math.floor(row.progress)}%` : ""),
};

/** @param {string} task @param {string} text @returns {Made} */
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
