// @ts-check
// Hands the plan out as a file: asks which, and of what, shows what will come out, and remembers the choice for the person.

/** @import { Store } from "../state/store.js" */
import { element } from "../card/fields.js";
import { columnsOf } from "../list/columns.js";
import { exportOf } from "../../shared/own-storage.js";
import { readDays } from "../../shared/day-input.js";
import { dayOf, iso } from "../state/time.js";
import { waitFor } from "./export-wait.js";
import { showPreview } from "./export-preview.js";

/**
 * @typedef {object} Wishes
 * @property {string} format
 * @property {string} screen
 * @property {string} rows
 * @property {string} columns
 * @property {string} from such as 2027-05-03; empty for the first day of the rows
 * @property {string} to
 * @property {string} paper
 * @property {boolean} landscape
 * @property {string} fit
 * @property {string} colours
 * @property {string | null} title null for the project's name
 * @property {boolean} legend
 * @property {string} size
 * @property {boolean} transparent
 * @property {string} separator
 * @property {boolean} marked
 * @property {boolean} timeline
 * @property {boolean} money
 * @property {string} told events or toDos
 * @property {string} alarm days before; empty for none
 */

/**
 * @typedef {{ key: string, words: string, help: string, drawn?: boolean, table?: boolean, whole?: boolean, calendar?: boolean }} Format
 */
/** @type {Format[]} */
const FORMATS = [
  { key: "pdf", words: "PDF", help: "Pages to print, to pin up or to send.", drawn: true },
  { key: "png", words: "Picture (PNG)", help: "For slides and messages.", drawn: true },
  {
    key: "svg",
    words: "Drawing (SVG)",
    help: "For a drawing program: sharp at any size, with text as text.",
    drawn: true,
  },
  {
    key: "xlsx",
    words: "Spreadsheet (XLSX)",
    help: "Sheets for tasks, links, people, load, hours and drift, with real dates and numbers.",
    table: true,
  },
  { key: "csv", words: "CSV", help: "One table as text, for any other program.", table: true },
  {
    key: "ics",
    words: "Calendar (ICS)",
    help: "Tasks and milestones as they are now. For a calendar that keeps itself up to date, see Sharing.",
    calendar: true,
  },
  {
    key: "document",
    words: "Plan document",
    help: "Everything that is planned, to keep a copy or to make a project of it.",
    whole: true,
  },
];

/** Not for those who see the plan by a link. */
const LOAD = "load";
const SCREENS = [
  ["plan", "Plan"],
  ["timeline", "Timeline alone"],
  ["month", "Month"],
  ["chains", "Chains"],
  ["outline", "Outline"],
  [LOAD, "Load"],
  ["report", "Report"],
];
/** More rows than these are drawn in the background. */
const LONG = 1500;
const WITH_DAYS = ["plan", "timeline", "month", LOAD];
const PAPERS = ["A4", "A3", "A2", "A1", "A0", "Letter", "Legal", "Tabloid"].map((name) => [name.toLowerCase(), name]);
const FITS = [
  ["page", "One page"],
  ["pages", "Several pages"],
  ["one", "One large page"],
];
const USUAL = {
  format: "pdf",
  screen: "",
  rows: "shown",
  columns: "usual",
  from: "",
  to: "",
  paper: "a4",
  landscape: true,
  fit: "page",
  colours: "colour",
  title: null,
  legend: true,
  size: "2",
  transparent: false,
  separator: "comma",
  marked: false,
  timeline: false,
  money: false,
  told: "events",
  alarm: "",
};

const TOLD = [
  ["events", "Events"],
  ["toDos", "To-dos with their progress"],
];
const ALARMS = [
  ["", "None"],
  ["0", "On the day it starts"],
  ["1", "A day before"],
  ["2", "2 days before"],
  ["7", "A week before"],
];

/** Columns that files have: the server says which. */
const known = () =>
  /** @type {HTMLElement | null} */ (document.querySelector('[data-command="export"]'))?.dataset.columns?.split(" ") ??
  [];

/**
 * @param {Store} store
 * @param {string} address where files of the plan come from
 * @param {string} me id of the person; empty where the plan is seen by a link
 * @param {string} here the screen that is open
 * @param {string} token
 */
export function makeExport(store, address, me, here, token) {
  const dialog = /** @type {HTMLDialogElement} */ (
    element("dialog", { class: "panel export", "aria-labelledby": "export-title" })
  );
  document.getElementById("main")?.append(dialog);
  const formats = FORMATS.filter(({ whole }) => me !== "" || !whole);

  return () => {
    const picked = store.selection.size > 1 ? store.selection.tops.map(({ id }) => id) : [];
    const screens = SCREENS.filter(([key]) => key !== LOAD || me !== "");
    const wishes = remembered(me, screens.some(([key]) => key === here) ? here : "plan");
    if (wishes.rows === "picked" && picked.length === 0) wishes.rows = "shown";
    if (!formats.some(({ key }) => key === wishes.format)) wishes.format = "pdf";
    const days = { from: wishes.from, to: wishes.to };
    const close = element("button", { class: "button", type: "button" }, "Cancel");
    close.addEventListener("click", () => dialog.close());
    const help = element("p", { class: "mute export-help" });
    const form = /** @type {HTMLFormElement} */ (
      element(
        "form",
        { autocomplete: "off", class: "export-form" },
        element("h2", { id: "export-title" }, "Export"),
        group(
          "What",
          radios(
            "Format",
            "format",
            formats.map(({ key, words }) => [key, words]),
            wishes.format,
          ),
          help,
          choice("Screen", "screen", screens, wishes.screen),
          choice(
            "Rows",
            "rows",
            [
              ["all", "All"],
              ["shown", "As shown"],
              ["milestones", "Milestones"],
              ...(picked.length > 0 ? [["picked", `The ${picked.length} picked`]] : []),
            ],
            wishes.rows,
          ),
          choice(
            "Columns",
            "columns",
            [
              ["usual", "The usual"],
              ["shown", "As shown"],
              ["every", "All"],
            ],
            wishes.columns,
          ),
          ...(me === "" ? [] : [day("From", "from"), day("To", "to")]),
        ),
        group(
          "Page",
          choice("Paper", "paper", PAPERS, wishes.paper),
          choice("Fit", "fit", FITS, wishes.fit),
          choice(
            "Colours",
            "colours",
            [
              ["colour", "In colour"],
              ["ink", "Black and white"],
            ],
            wishes.colours,
          ),
          choice(
            "Size",
            "size",
            ["1", "2", "3", "4"].map((times) => [times, `${times} ×`]),
            wishes.size,
          ),
          field("Title", "title", wishes.title ?? store.project.name),
          check("landscape", "Landscape", wishes.landscape),
          check("legend", "Explain the signs", wishes.legend),
          check("transparent", "Without paper behind", wishes.transparent),
        ),
        group(
          "Table",
          choice(
            "Separator",
            "separator",
            [
              ["comma", "Comma"],
              ["semicolon", "Semicolon"],
              ["tab", "Tab"],
            ],
            wishes.separator,
          ),
          check("timeline", "Timeline by week", wishes.timeline),
          check("marked", "Begin with a mark that says it is UTF-8, as some spreadsheets need", wishes.marked),
        ),
        group("Money", check("money", "With money", wishes.money)),
        group(
          "Calendar",
          choice("Tasks are", "told", TOLD, wishes.told),
          choice("Alarm", "alarm", ALARMS, wishes.alarm),
        ),
        element(
          "div",
          { class: "actions" },
          close,
          element("button", { class: "button button-strong", type: "submit" }, "Download"),
        ),
      )
    );
    const preview = showPreview();
    const wanted = () => ({ ...wishesOf(form, store.project.name), ...days });
    const update = () => {
      offer(form, help, store.hasMoney);
      const now = wanted();
      preview.show(queryOf(store, now, picked), address, formatOf(now.format));
    };
    for (const name of /** @type {const} */ (["from", "to"])) {
      const input = /** @type {HTMLInputElement | null} */ (form.elements.namedItem(name));
      if (!input) continue;
      readDays(
        input,
        (read) => {
          days[name] = read;
          update();
        },
        () => iso(dayOf(store.project.start)),
      );
    }
    form.addEventListener("change", ({ target }) => {
      if (!["from", "to"].includes(/** @type {HTMLInputElement} */ (target).name)) update();
    });
    form.addEventListener("submit", (event) => {
      event.preventDefault();
      const now = wanted();
      localStorage.setItem(exportOf(me), JSON.stringify({ ...now, from: "", to: "", screen: "" }));
      const query = queryOf(store, now, picked);
      if (me !== "" && formatOf(now.format).drawn && (rowsOf(store, now.rows, picked) ?? store.rows).length > LONG)
        waitFor(`${address}s?${query}`, token, dialog);
      else {
        location.assign(`${address}?${query}`);
        dialog.close();
      }
    });
    dialog.className = "panel export";
    dialog.replaceChildren(form, preview.element);
    dialog.showModal();
    update();
  };
}

/** @param {string} key @returns {Format} */
const formatOf = (key) => FORMATS.find((format) => format.key === key) ?? FORMATS[0];

/** Whether a file of this kind can say what the project costs. @param {string} format @param {string} screen */
const tellsMoney = (format, screen) =>
  format === "xlsx" ||
  format === "document" ||
  (formatOf(format).drawn === true && (screen === "outline" || screen === "report"));

/**
 * Shows what is asked for the format and the screen.
 * @param {HTMLFormElement} form @param {HTMLElement} help @param {boolean} hasMoney whether money may be in the file
 */
function offer(form, help, hasMoney) {
  const { format, screen, fit } = wishesOf(form, "");
  const { drawn = false, table = false, whole = false, calendar = false, help: words } = formatOf(format);
  help.textContent = words;
  const isPaper = drawn && (format === "pdf" || fit !== "one");
  /** @type {Record<string, boolean>} */ const meant = {
    screen: drawn,
    rows: !whole && !(drawn && screen === "report"),
    columns: table || (drawn && screen === "plan"),
    from: drawn && WITH_DAYS.includes(screen),
    to: drawn && WITH_DAYS.includes(screen),
    paper: isPaper && fit !== "one",
    fit: drawn,
    colours: drawn,
    size: format === "png",
    title: drawn,
    landscape: isPaper && fit !== "one",
    legend: drawn && screen !== "report",
    transparent: format === "png" || format === "svg",
    separator: format === "csv",
    marked: format === "csv",
    timeline: format === "xlsx",
    money: hasMoney && tellsMoney(format, screen),
    told: calendar,
    alarm: calendar,
  };
  for (const part of /** @type {NodeListOf<HTMLElement>} */ (form.querySelectorAll("[data-part]")))
    part.hidden = meant[part.dataset.part ?? ""] === false;
  for (const set of form.querySelectorAll("fieldset"))
    set.hidden = [...set.querySelectorAll("[data-part]")].every((part) => /** @type {HTMLElement} */ (part).hidden);
}

/**
 * What is asked for, as the address says it.
 * @param {Store} store
 * @param {Wishes} wishes
 * @param {string[]} picked
 */
export function queryOf(store, wishes, picked) {
  const { format, rows, columns } = wishes;
  const { drawn, table, whole, calendar } = formatOf(format);
  const query = new URLSearchParams({ format });
  const ids = whole ? [] : rowsOf(store, rows, picked);
  // A plan that is shown whole needs no list of its rows.
  if (ids && ids.length < store.rows.length) query.set("rows", inRanges(store, ids));
  const keys = columnKeys(store, columns);
  if (keys.length > 0 && (table || (drawn && wishes.screen === "plan"))) query.set("columns", keys.join(","));
  if (format === "csv") {
    query.set("separator", wishes.separator);
    if (wishes.marked) query.set("marked", "true");
  }
  if (format === "xlsx" && wishes.timeline) query.set("timeline", "true");
  if (store.hasMoney && wishes.money && tellsMoney(format, wishes.screen)) query.set("money", "true");
  if (calendar && wishes.told === "toDos") query.set("toDos", "true");
  if (calendar && wishes.alarm !== "") query.set("alarm", wishes.alarm);
  if (!drawn) return query;
  for (const name of /** @type {const} */ (["screen", "fit", "colours", "from", "to"]))
    if (wishes[name] !== "" && (WITH_DAYS.includes(wishes.screen) || !["from", "to"].includes(name)))
      query.set(name, wishes[name]);
  if (wishes.fit !== "one") {
    query.set("paper", wishes.paper);
    query.set("landscape", String(wishes.landscape));
  }
  if (wishes.title !== null) query.set("title", wishes.title);
  if (!wishes.legend) query.set("legend", "false");
  if (format === "png") query.set("size", wishes.size);
  if (format !== "pdf" && wishes.transparent) query.set("transparent", "true");
  query.set("weekStart", store.view.weekStart);
  return query;
}

/** @param {Store} store @param {string} rows @param {string[]} picked @returns {string[] | null} null for all */
function rowsOf(store, rows, picked) {
  if (rows === "picked") return picked;
  if (rows === "milestones") return store.rows.filter(({ kind }) => kind === "milestone").map(({ id }) => id);
  if (rows === "shown") return store.shown.filter((row) => !row.unsaved && !row.heading).map(({ id }) => id);
  return null;
}

/**
 * Rows with an address that stays short: those that follow one another by the first and the last of them.
 * @param {Store} store
 * @param {string[]} ids
 */
function inRanges(store, ids) {
  const places = ids.map((id) => store.position.get(id) ?? -1).filter((at) => at >= 0);
  places.sort((a, b) => a - b);
  /** @type {[number, number][]} */ const ranges = [];
  for (const at of places) {
    const last = ranges.at(-1);
    if (last && last[1] === at - 1) last[1] = at;
    else ranges.push([at, at]);
  }
  return ranges
    .map(([from, to]) => (from === to ? store.rows[from].id : `${store.rows[from].id}..${store.rows[to].id}`))
    .join(",");
}

/** @param {Store} store @param {string} columns @returns {string[]} none for the usual ones */
function columnKeys(store, columns) {
  if (columns === "every") return known();
  if (columns !== "shown") return [];
  return columnsOf(store)
    .map(({ key }) => key)
    .filter((key) => known().includes(key));
}

/** @param {HTMLFormElement} form @param {string} name of the project @returns {Wishes} */
function wishesOf(form, name) {
  const data = new FormData(form);
  const of = (/** @type {string} */ key) => String(data.get(key) ?? "");
  return {
    format: of("format"),
    screen: of("screen"),
    rows: of("rows"),
    columns: of("columns"),
    from: "",
    to: "",
    paper: of("paper"),
    landscape: data.has("landscape"),
    fit: of("fit"),
    colours: of("colours"),
    title: of("title") === name ? null : of("title"),
    legend: data.has("legend"),
    size: of("size"),
    transparent: data.has("transparent"),
    separator: of("separator"),
    marked: data.has("marked"),
    timeline: data.has("timeline"),
    money: data.has("money"),
    told: of("told"),
    alarm: of("alarm"),
  };
}

/** @param {string} me @param {string} screen the one that is open @returns {Wishes} */
function remembered(me, screen) {
  try {
    return { ...USUAL, ...JSON.parse(localStorage.getItem(exportOf(me)) ?? "{}"), screen };
  } catch {
    return { ...USUAL, screen };
  }
}

/** @param {string} legend @param {...HTMLElement} parts */
function group(legend, ...parts) {
  return element("fieldset", { class: "export-group" }, element("legend", {}, legend), ...parts);
}

/** @param {string} words @param {string} name @param {string[][]} options @param {string} chosen */
function choice(words, name, options, chosen) {
  const select = /** @type {HTMLSelectElement} */ (element("select", { class: "input", name }));
  select.append(...options.map(([value, text]) => new Option(text, value)));
  select.value = options.some(([value]) => value === chosen) ? chosen : options[0][0];
  return element("label", { "data-part": name }, words, select);
}

/** @param {string} words @param {string} name @param {string[][]} options @param {string} chosen */
function radios(words, name, options, chosen) {
  return element(
    "div",
    { role: "radiogroup", "aria-label": words, class: "export-formats", "data-part": name },
    ...options.map(([value, text]) => {
      const radio = /** @type {HTMLInputElement} */ (element("input", { type: "radio", name, value }));
      radio.checked = value === chosen;
      return element("label", { class: "check" }, radio, text);
    }),
  );
}

/** @param {string} words @param {string} name @param {string} value */
function field(words, name, value) {
  const input = /** @type {HTMLInputElement} */ (
    element("input", { class: "input", type: "text", name, maxlength: "120" })
  );
  input.value = value;
  return element("label", { "data-part": name, class: "export-title" }, words, input);
}

/** @param {string} words @param {string} name */
function day(words, name) {
  const input = element("input", { class: "input", type: "text", name, placeholder: "As the rows" });
  return element("label", { "data-part": name }, words, input);
}

/** @param {string} name @param {string} words @param {boolean} on */
function check(name, words, on) {
  const box = /** @type {HTMLInputElement} */ (element("input", { type: "checkbox", name }));
  box.checked = on;
  return element("label", { class: "check", "data-part": name }, box, words);
}
