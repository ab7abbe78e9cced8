// @ts-check
// Where filters and sorting are chosen, and the line that says what they leave out.

/** @import { Store } from "../state/store.js" */
/** @import { Row, Person } from "../state/types.js" */
/** @import { View } from "../state/view.js" */
/** @import { Remembered } from "../state/remembered.js" */
import { element, quietButton } from "../card/fields.js";
import { valuesIn } from "../fields/facts.js";
import { FIELDS, fieldOf } from "../fields/fields.js";
import { COLUMNS, columnsOf, FIRST, LEAST_WIDTH, MOST_WIDTH } from "../list/columns.js";
import { EVERYTHING, filtersOf, viewIn } from "../state/view.js";
import { readDays } from "../../shared/day-input.js";
import { dayFrom, dayOf, iso, short, withYear } from "../state/time.js";

/** Fields of a view that are chosen from a list, or typed. */
const CHOICES = /** @type {const} */ (["phase", "group", "rows", "colour", "label", "weeks", "weekStart"]);

/** Fields of a view that are on or off. */
const CHECKS = /** @type {const} */ (["keyOnly", "hideDone", "milestones", "finishPath", "wrap", "periods", "others"]);

const MOST_PHASES = 150;

/** Phases, down to the level at which there are not too many to choose from; the one that is chosen as well. @param {Store} store */
function phasesToChoose({ rows, view }) {
  const phases = rows.filter((row) => row.kind === "phase");
  let level = Math.max(0, ...phases.map((row) => row.level));
  while (level > 0 && phases.filter((row) => row.level <= level).length > MOST_PHASES) level--;
  const some = phases.filter((row) => row.level <= level).slice(0, MOST_PHASES);
  const chosen = phases.find((row) => row.id === view.phase);
  return chosen && !some.includes(chosen) ? [...some, chosen] : some;
}

/** Days between which rows lie: what is typed there is read by the server. */
const DAYS = /** @type {const} */ (["from", "to"]);

const FILTERS = FIELDS.flatMap(({ key, label, filter }) => (filter ? [{ key, label, filter }] : []));

/** What may be chosen where a field is. @type {Record<"group" | "sort" | "rows" | "colour" | "label", string[][]>} */
const OFFERS = {
  group: [["Phase", ""], ...FIELDS.flatMap(({ key, label, group }) => (group ? [[label, key]] : []))],
  sort: [
    ["The plan’s order", ""],
    ...FIELDS.flatMap(({ key, label, order, orderLabel }) => (order ? [[orderLabel ?? label, key]] : [])),
  ],
  rows: [...tints(), ["No colour", "none"]],
  colour: tints(),
  label: [
    ["Nothing", "none"],
    ...FIELDS.flatMap(({ key, label, barLabel }) => (barLabel ? [[label, key]] : [])),
    ["Dates", "dates"],
  ],
};

function tints() {
  return FIELDS.flatMap(({ key, label, tint, tintLabel }) => (tint ? [[tintLabel ?? label, key]] : []));
}

/** What of a view says which rows are shown. @param {View} view */
const partOf = (view) =>
  /** @type {Partial<View>} */ (Object.fromEntries(Object.entries(view).filter(([name]) => name in EVERYTHING)));

/** Whether a view shows what was asked for. @param {View} view @param {Partial<View>} asked */
const isOnly = (view, asked) => JSON.stringify(partOf(view)) === JSON.stringify(partOf({ ...view, ...asked }));

/** The rows that the address asks for, such as ?only=state:overdue. @returns {Partial<View> | null} */
function askedFor() {
  const [key = "", value = ""] = (new URLSearchParams(location.search).get("only") ?? "").split(":");
  return value !== "" && FILTERS.some((field) => field.key === key) ? { ...EVERYTHING, only: { [key]: value } } : null;
}

/** @param {Store} store @param {Remembered} remembered the view is remembered for each project */
export function drawView(store, remembered) {
  const form = /** @type {HTMLFormElement} */ (document.getElementById("view-form"));
  const line = /** @type {HTMLElement} */ (document.getElementById("view-line"));
  const words = /** @type {HTMLElement} */ (document.getElementById("view-words"));
  const places = /** @type {HTMLElement} */ (document.getElementById("view-filters"));
  places.append(
    ...FILTERS.map(({ key, label }) =>
      element("label", {}, `${label} `, element("select", { class: "input", name: `only-${key}` })),
    ),
  );
  for (const [name, offers] of Object.entries(OFFERS))
    /** @type {HTMLSelectElement} */ (field(name)).append(...offers.map(([text, of]) => new Option(text, of)));
  store.show(viewIn(remembered.get("view") ?? remembered.get("look")));
  // Rows that a page asks for are shown for now: what was looked at before stays remembered until something else is asked for here.
  const [asked, before] = [askedFor(), store.view];
  if (asked) store.show(asked);
  let offered = "";
  /** What is drawn. @type {{ rows: Row[] | null, view: View | null, people: Person[] | null }} */ let drawn = {
    rows: null,
    view: null,
    people: null,
  };

  form.addEventListener("submit", (event) => event.preventDefault());
  form.addEventListener("keydown", (event) => event.stopPropagation());
  // Only what was changed is taken: the other fields may be a frame behind the view.
  form.addEventListener("input", ({ target }) => {
    const { name } = /** @type {HTMLInputElement} */ (target);
    if (name.startsWith("only-")) {
      const { [name.slice(5)]: _, ...only } = store.view.only;
      store.show({ only: value(name) === "" ? only : { ...only, [name.slice(5)]: value(name) } });
    } else if (name === "sort")
      store.show({
        sort: value(name) === "" ? null : { col: value(name), down: store.view.sort?.down ?? checked("down") },
      });
    else if (name === "down") store.show({ sort: store.view.sort && { ...store.view.sort, down: checked(name) } });
    else if (CHECKS.some((check) => check === name)) store.show({ [name]: checked(name) });
    else if (!DAYS.some((day) => day === name)) store.show({ [name]: value(name).trim() });
  });
  for (const name of DAYS)
    readDays(
      /** @type {HTMLInputElement} */ (field(name)),
      (day) => store.show({ [name]: day }),
      () => iso(dayOf(store.project.start)),
    );
  const columnList = /** @type {HTMLElement} */ (document.getElementById("view-columns"));
  const views = new Views(store, remembered);
  store.subscribe(draw);
  draw();

  function draw() {
    const { view, rows } = store;
    if (rows === drawn.rows && view === drawn.view && store.people === drawn.people) return;
    if (rows !== drawn.rows || store.people !== drawn.people) offer();
    // What was looked for may be gone.
    if (view.phase !== "" && !store.position.has(view.phase)) store.show({ phase: "" });
    const keep = asked && isOnly(view, asked) ? { ...view, ...partOf(before) } : view;
    if (JSON.stringify(viewIn(remembered.get("view") ?? remembered.get("look"))) !== JSON.stringify(keep))
      remembered.set("view", keep);
    if (document.activeElement !== field("text")) /** @type {HTMLInputElement} */ (field("text")).value = view.text;
    for (const name of CHECKS) check(name, view[name]);
    for (const name of CHOICES) field(name).value = view[name];
    for (const name of DAYS)
      if (document.activeElement !== field(name))
        field(name).value = view[name] === "" ? "" : withYear(dayFrom(view[name]));
    for (const { key } of FILTERS) field(`only-${key}`).value = view.only[key] ?? "";
    field("sort").value = view.sort?.col ?? "";
    check("down", view.sort?.down ?? false);
    if (view.columns !== drawn.view?.columns || !drawn.view) drawColumns();
    views.draw();
    drawn = { rows, view, people: store.people };
    line.hidden = filtersOf(view) === 0 && !store.isFlat;
    if (!line.hidden) words.textContent = sentence();
  }

  /** What tasks are found by. */
  function offer() {
    /** @type {Record<string, string[][]>} */ const options = {
      phase: [["Any", ""], ...phasesToChoose(store).map((row) => [`${row.no} ${row.name}`, row.id])],
    };
    for (const { key, filter } of FILTERS) options[`only-${key}`] = [[filter.any, ""], ...filter.values(store)];
    const now = JSON.stringify(options);
    if (now === offered) return;
    offered = now;
    for (const [name, choices] of Object.entries(options)) {
      const select = /** @type {HTMLSelectElement} */ (field(name));
      select.replaceChildren(...choices.map(([text, of]) => new Option(text, of)));
      select.closest("label")?.toggleAttribute("hidden", choices.length === 1 && name !== "phase");
    }
    for (const { key, lanes } of FIELDS)
      if (lanes) valuesIn(`${key}-values`).replaceChildren(...lanes(store).map((of) => new Option("", of)));
  }

  /** Each column with its width and its place; those that are not shown come last. */
  function drawColumns() {
    const shown = columnsOf(store);
    const hidden = COLUMNS.filter(
      (column) => !shown.some(({ key: k }) => k === column.key) && (!column.money || store.hasMoney),
    );
    const focused = /** @type {HTMLElement | null} */ (document.activeElement)?.getAttribute("aria-label");
    columnList.replaceChildren(
      ...[...shown, ...hidden].map((column, at) => {
        const on = at < shown.length;
        const box = /** @type {HTMLInputElement} */ (element("input", { type: "checkbox" }));
        box.checked = on;
        box.disabled = FIRST.includes(column.key);
        box.addEventListener("change", () =>
          choose(box.checked ? [...shown, column] : shown.filter(({ key: k }) => k !== column.key)),
        );
        const parts = [element("label", { class: "check" }, box, column.label)];
        if (on) {
          const width = /** @type {HTMLInputElement} */ (
            element("input", {
              class: "input",
              type: "number",
              min: String(LEAST_WIDTH),
              max: String(MOST_WIDTH),
              "aria-label": `Width of ${column.label}`,
            })
          );
          width.value = String(column.width);
          width.addEventListener("change", () => {
            const wide = Math.min(MOST_WIDTH, Math.max(LEAST_WIDTH, Number(width.value) || column.width));
            choose(shown.map((c) => (c.key === column.key ? { ...c, width: wide } : c)));
          });
          parts.push(width);
          if (!FIRST.includes(column.key)) parts.push(shift(-1), shift(1));
        }
        return element("div", { class: "view-column" }, ...parts);

        /** @param {number} by */
        function shift(by) {
          const to = at + by;
          const words = `Move ${column.label} to the ${by < 0 ? "left" : "right"}`;
          const button = quietButton(
            by < 0 ? "◂" : "▸",
            () => choose(shown.toSpliced(at, 1).toSpliced(to, 0, column)),
            words,
          );
          /** @type {HTMLButtonElement} */ (button).disabled = to < FIRST.length || to >= shown.length;
          return button;
        }
      }),
    );
    if (focused)
      /** @type {HTMLElement | null} */ (columnList.querySelector(`[aria-label="${CSS.escape(focused)}"]`))?.focus();
  }

  /** @param {import("../list/columns.js").Column[]} columns */
  function choose(columns) {
    store.show({ columns: columns.map(({ key: k, width }) => ({ key: k, width })) });
  }

  function sentence() {
    const { view, shown, rows } = store;
    const parts = [];
    if (view.text) parts.push(`name contains “${view.text}”`);
    for (const { key, filter } of FILTERS) if (view.only[key]) parts.push(filter.says(view.only[key], store));
    if (view.phase) parts.push(`in ${store.row(view.phase)?.name ?? "a phase that is gone"}`);
    if (view.from) parts.push(`from ${short(dayFrom(view.from))}`);
    if (view.to) parts.push(`to ${short(dayFrom(view.to))}`);
    if (view.keyOnly) parts.push("key tasks");
    if (view.hideDone) parts.push("not done");
    if (view.milestones) parts.push("milestones only");
    if (view.finishPath) parts.push("setting the finish");
    const tasks = (/** @type {typeof rows} */ of) => of.filter((row) => row.kind !== "phase").length;
    const filtered = parts.length > 0 ? `${tasks(shown)} of ${tasks(rows)} tasks: ${parts.join(", ")}` : "";
    const sort = view.sort ? `sorted by ${lower(fieldOf(view.sort.col))}${view.sort.down ? ", descending" : ""}` : "";
    const order = view.group ? [`grouped by ${lower(fieldOf(view.group))}`, sort].filter(Boolean).join(", ") : sort;
    const by = order ? `${order}, without phases` : "";
    const said = [filtered, by].filter(Boolean).join("; ");
    return `${said[0]?.toUpperCase() ?? ""}${said.slice(1)}.`;
  }

  /** @param {string} name */
  function field(name) {
    return /** @type {HTMLInputElement | HTMLSelectElement} */ (form.elements.namedItem(name));
  }

  /** @param {string} name */
  function value(name) {
    return field(name).value;
  }

  /** @param {string} name */
  function checked(name) {
    return /** @type {HTMLInputElement} */ (field(name)).checked;
  }

  /** @param {string} name @param {boolean} on */
  function check(name, on) {
    /** @type {HTMLInputElement} */ (field(name)).checked = on;
  }
}

/** @param {import("../fields/field.js").Field} field */
const lower = ({ label }) => label.toLowerCase();

/** Views that were saved under a name, for one project. */
class Views {
  #store;
  #remembered;
  #select = /** @type {HTMLSelectElement} */ (document.getElementById("saved-views"));
  #name = /** @type {HTMLInputElement} */ (document.getElementById("view-name"));

  /** @param {Store} store @param {Remembered} remembered */
  constructor(store, remembered) {
    this.#store = store;
    this.#remembered = remembered;
    this.#select.addEventListener("change", () => {
      const view = this.#all[this.#select.value];
      if (view) store.show(viewIn(view));
    });
    document.getElementById("view-save")?.addEventListener("click", () => this.#save());
    document.getElementById("view-delete")?.addEventListener("click", () => {
      const { [this.#select.value]: _, ...rest } = this.#all;
      this.#keep(rest);
    });
  }

  /** @returns {Record<string, View>} */
  get #all() {
    return this.#remembered.get("views") ?? {};
  }

  #save() {
    const name = this.#name.value.trim().slice(0, 60);
    if (name === "") {
      this.#name.focus();
      return;
    }
    this.#name.value = "";
    this.#keep({ ...this.#all, [name]: this.#store.view });
  }

  /** @param {Record<string, View>} views */
  #keep(views) {
    this.#remembered.set("views", views);
    this.draw();
  }

  /** Saves the current view under a name. */
  draw() {
    const now = JSON.stringify(viewIn(this.#store.view));
    const all = Object.entries(this.#all);
    this.#select.replaceChildren(
      new Option(all.length > 0 ? "Choose…" : "None yet", ""),
      ...all.map(([name]) => new Option(name, name)),
    );
    this.#select.value = all.find(([, view]) => JSON.stringify(viewIn(view)) === now)?.[0] ?? "";
    const forget = /** @type {HTMLButtonElement | null} */ (document.getElementById("view-delete"));
    if (forget) forget.disabled = this.#select.value === "";
  }
}
