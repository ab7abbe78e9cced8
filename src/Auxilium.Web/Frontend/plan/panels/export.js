// @ts-check
// Hands the plan out as a file: asks which, and of what, and remembers that for the person.

/** @import { Store } from "../state/store.js" */
import { element } from "../card/fields.js";
import { columnsOf } from "../list/columns.js";
import { exportOf } from "../../shared/own-storage.js";

/** @typedef {{ format: string, rows: string, columns: string, separator: string, marked: boolean }} Wishes */

/** @type {[string, string, string][]} */
const FORMATS = [
  ["xlsx", "Spreadsheet (XLSX)", "Sheets for tasks, links, people and drift, with real dates and numbers."],
  ["csv", "CSV", "One table as text, for any other program."],
  ["ics", "Calendar (ICS)", "Tasks and milestones as events, as they are now."],
  ["document", "Plan document", "Everything that is planned, to keep a copy or to make a project of it."],
];

/** Columns that files have: the server says which. */
const known = () =>
  /** @type {HTMLElement | null} */ (document.querySelector('[data-command="export"]'))?.dataset.columns?.split(" ") ??
  [];

/** @param {Store} store @param {string} project its id @param {string} me id of the person */
export function makeExport(store, project, me) {
  const dialog = /** @type {HTMLDialogElement} */ (
    element("dialog", { class: "panel export", "aria-labelledby": "export-title" })
  );
  document.getElementById("main")?.append(dialog);

  return () => {
    const wishes = remembered(me);
    const picked = store.selection.size > 1 ? store.selection.tops.map(({ id }) => id) : [];
    if (wishes.rows === "picked" && picked.length === 0) wishes.rows = "shown";
    const close = element("button", { class: "button", type: "button" }, "Cancel");
    close.addEventListener("click", () => dialog.close());
    const form = /** @type {HTMLFormElement} */ (
      element(
        "form",
        { autocomplete: "off" },
        element("h2", { id: "export-title" }, "Export"),
        choices("Format", "format", FORMATS, wishes.format),
        choices(
          "Rows",
          "rows",
          [
            ["all", "All", ""],
            ["shown", "As shown", ""],
            ...(picked.length > 0
              ? [/** @type {[string, string, string]} */ (["picked", `The ${picked.length} picked`, ""])]
              : []),
          ],
          wishes.rows,
        ),
        choices(
          "Columns",
          "columns",
          [
            ["usual", "The usual", ""],
            ["shown", "As shown", ""],
            ["every", "All", ""],
          ],
          wishes.columns,
        ),
        choices(
          "Separator",
          "separator",
          [
            ["comma", "Comma", ""],
            ["semicolon", "Semicolon", ""],
            ["tab", "Tab", ""],
          ],
          wishes.separator,
        ),
        check("marked", "Begin with a mark that says it is UTF-8, as some spreadsheets need", wishes.marked),
        element(
          "div",
          { class: "actions" },
          close,
          element("button", { class: "button button-strong", type: "submit" }, "Download"),
        ),
      )
    );
    form.addEventListener("change", () => offer(form));
    form.addEventListener("submit", (event) => {
      event.preventDefault();
      const wanted = wishesOf(form);
      localStorage.setItem(exportOf(me), JSON.stringify(wanted));
      location.assign(addressOf(store, project, wanted, picked));
      dialog.close();
    });
    offer(form);
    dialog.replaceChildren(form);
    dialog.showModal();
  };
}

/** What is asked only of some formats. @param {HTMLFormElement} form */
function offer(form) {
  const { format } = wishesOf(form);
  const isTable = format === "csv" || format === "xlsx";
  for (const [name, isMeant] of /** @type {const} */ ([
    ["rows", format !== "document"],
    ["columns", isTable],
    ["separator", format === "csv"],
    ["marked", format === "csv"],
  ])) {
    const part = /** @type {HTMLElement | null} */ (form.querySelector(`[data-part="${name}"]`));
    if (part) part.hidden = !isMeant;
  }
}

/**
 * @param {Store} store
 * @param {string} project
 * @param {Wishes} wishes
 * @param {string[]} picked
 */
export function addressOf(store, project, { format, rows, columns, separator, marked }, picked) {
  const query = new URLSearchParams({ format });
  const ids =
    rows === "picked" ? picked : rows === "shown" ? store.shown.filter((row) => !row.unsaved).map(({ id }) => id) : [];
  // A plan that is shown whole needs no list of its rows.
  if (format !== "document" && ids.length > 0 && ids.length < store.rows.length) query.set("rows", ids.join(","));
  const keys =
    columns === "every"
      ? known()
      : columns === "shown"
        ? columnsOf(store)
            .map(({ key }) => key)
            .filter((key) => known().includes(key))
        : [];
  if (keys.length > 0 && format !== "document" && format !== "ics") query.set("columns", keys.join(","));
  if (format === "csv") {
    query.set("separator", separator);
    if (marked) query.set("marked", "true");
  }
  return `/api/v1/projects/${project}/export?${query}`;
}

/** @param {HTMLFormElement} form @returns {Wishes} */
function wishesOf(form) {
  const data = new FormData(form);
  const of = (/** @type {string} */ name) => String(data.get(name) ?? "");
  return {
    format: of("format"),
    rows: of("rows"),
    columns: of("columns"),
    separator: of("separator"),
    marked: data.has("marked"),
  };
}

/** @param {string} me @returns {Wishes} */
function remembered(me) {
  const usual = { format: "xlsx", rows: "all", columns: "usual", separator: "comma", marked: false };
  try {
    return { ...usual, ...JSON.parse(localStorage.getItem(exportOf(me)) ?? "{}") };
  } catch {
    return usual;
  }
}

/**
 * @param {string} legend
 * @param {string} name
 * @param {[string, string, string][]} options value, words, help
 * @param {string} chosen
 */
function choices(legend, name, options, chosen) {
  const known = options.some(([value]) => value === chosen) ? chosen : options[0][0];
  return element(
    "fieldset",
    { "data-part": name },
    element("legend", {}, legend),
    ...options.map(([value, words, help]) => {
      const radio = /** @type {HTMLInputElement} */ (element("input", { type: "radio", name, value }));
      radio.checked = value === known;
      const said = element("span", {}, words, ...(help ? [element("small", {}, help)] : []));
      return element("label", { class: "check" }, radio, said);
    }),
  );
}

/** @param {string} name @param {string} words @param {boolean} on */
function check(name, words, on) {
  const box = /** @type {HTMLInputElement} */ (element("input", { type: "checkbox", name }));
  box.checked = on;
  return element("label", { class: "check", "data-part": name }, box, words);
}
