// @ts-check
// Copying, cutting and pasting: rows within a plan, and plain cells to and from a spreadsheet or another plan.

/** @import { Store } from "../state/store.js" */
/** @import { Actions } from "../commands/actions.js" */
/** @import { Row } from "../state/types.js" */
import { fieldOf } from "../fields/fields.js";
import { cellText, columnsOf } from "./columns.js";

const TYPE = "application/x-auxilium-rows";

/** @param {Store} store @param {Actions} actions @param {string} project its id @param {(list: string) => void} openPaste */
export function listenToClipboard(store, actions, project, openPaste) {
  for (const kind of /** @type {const} */ (["copy", "cut"]))
    document.addEventListener(kind, (event) => {
      if (!isList(event) || !event.clipboardData || !store.current) return;
      event.preventDefault();
      const { selection, current } = store;
      const row = store.row(current.id);
      if (selection.size === 0 && current.col !== "no" && kind === "copy" && row) {
        event.clipboardData.setData("text/plain", plainCell(cellText(store, row, current.col)));
        return;
      }
      const rows = selection.tops;
      event.clipboardData.setData("text/plain", asTable(store, rows));
      const tasks = rows.map((r) => r.id);
      event.clipboardData.setData(TYPE, JSON.stringify({ project, tasks, cut: kind === "cut" }));
      store.notice = {
        tone: "preview",
        text: `${rows.length === 1 ? "1 row" : `${rows.length} rows`} ${kind === "cut" ? "cut: paste where they go" : "copied"}.`,
      };
      store.changed();
    });

  document.addEventListener("paste", (event) => {
    if (!isList(event) || !event.clipboardData) return;
    const text = event.clipboardData.getData("text/plain");
    const rows = ours(event.clipboardData.getData(TYPE));
    event.preventDefault();
    if (rows && rows.project === project && store.current) pasteRows(rows.tasks, rows.cut);
    else if (text.trim() === "")
      store.tell("There is no text to paste: copy lines of a document or cells of a spreadsheet.");
    else if (/[\n\t]/.test(text.trim()) || !store.current || store.current.col === "no") openPaste(text);
    else actions.type(store.current.id, store.current.col, text.trim());
  });

  // Pasting lines into the row for a new task is pasting a list.
  document.getElementById("new-task")?.addEventListener("paste", (event) => {
    const text = event.clipboardData?.getData("text/plain") ?? "";
    if (!/[\n\t]/.test(text.trim())) return;
    event.preventDefault();
    openPaste(text);
  });

  /** @param {string[]} tasks @param {boolean} cut */
  function pasteRows(tasks, cut) {
    const row = store.row(store.current?.id);
    const there = tasks.filter((id) => store.position.has(id));
    if (!row || row.unsaved) return;
    if (there.length === 0) {
      store.tell("These rows are gone from the plan: copy them again.");
      return;
    }
    if (!cut) {
      actions.send({ type: "copyTasks", tasks: there, parent: row.parent, after: row.id }, row.id);
      return;
    }
    for (let up = /** @type {string | null} */ (row.id); up !== null; up = store.row(up)?.parent ?? null)
      if (there.includes(up)) {
        store.tell("Rows that were cut cannot go into themselves: stand in another row to paste them.");
        return;
      }
    let after = row.id;
    const edits = there.map((task) => {
      const edit = { type: "moveTask", task, parent: row.parent, after };
      after = task;
      return edit;
    });
    actions.sendAll(edits, row.id);
  }

  /** @param {ClipboardEvent} event */
  function isList(event) {
    const target = /** @type {Element} */ (event.target);
    const typing = target.closest("input, textarea, select, dialog, .card");
    return !typing && String(getSelection()) === "" && (target.closest("#list") !== null || target === document.body);
  }
}

/** @param {string} data @returns {{ project: string, tasks: string[], cut: boolean } | null} */
function ours(data) {
  try {
    const rows = JSON.parse(data);
    return Array.isArray(rows.tasks) ? rows : null;
  } catch {
    return null;
  }
}

/** Rows with all inside them as lines of cells, with headings. @param {Store} store @param {Row[]} tops */
export function asTable(store, tops) {
  const rows = tops.flatMap((top) => {
    const at = store.position.get(top.id) ?? 0;
    return store.rows.slice(at, store.lastInside(at) + 1);
  });
  const least = Math.min(...rows.map((row) => row.level));
  const lines = rows.map((row) =>
    columnsOf(store)
      .map(({ key }) => {
        if (key === "name") return `${"  ".repeat(row.level - least)}${plainCell(row.name)}`;
        const { copied, text } = fieldOf(key);
        return plainCell((copied ?? text)(store, row));
      })
      .join("\t"),
  );
  return [
    columnsOf(store)
      .map(({ label }) => label)
      .join("\t"),
    ...lines,
  ].join("\n");
}

/** A spreadsheet would calculate what begins like a formula: an apostrophe makes it text. @param {string} text */
const plainCell = (text) => (/^[=+\-@]/.test(text) ? `'${text}` : text).replace(/[\t\n\r]+/g, " ");
