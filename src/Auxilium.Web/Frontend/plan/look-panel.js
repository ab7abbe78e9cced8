// @ts-check
// Where filters and sorting are chosen, and the line that says what they leave out.

/** @import { Store } from "./store.js" */
/** @import { Look } from "./look.js" */
import { element, quietButton } from "./card/fields.js";
import { COLUMNS, columnsOf, FIRST, LEAST_WIDTH, MOST_WIDTH, STATE_WORDS } from "./columns.js";
import { filtersOf, plainLook } from "./look.js";

/** @param {Store} store @param {string} project its id: what one sees is remembered for each */
export function drawLook(store, project) {
  const form = /** @type {HTMLFormElement} */ (document.getElementById("look-form"));
  const line = /** @type {HTMLElement} */ (document.getElementById("look-line"));
  const words = /** @type {HTMLElement} */ (document.getElementById("look-words"));
  const owner = /** @type {HTMLSelectElement} */ (field("owner"));
  const state = /** @type {HTMLSelectElement} */ (field("state"));
  const key = `auxilium-look-${project}`;
  state.append(...Object.entries(STATE_WORDS).map(([value, label]) => new Option(label, value)));
  store.lookAt(remembered(key));
  let people = "";
  let kept = "";

  form.addEventListener("submit", (event) => event.preventDefault());
  form.addEventListener("keydown", (event) => event.stopPropagation());
  form.addEventListener("input", () => {
    const sort = value("sort");
    store.lookAt({
      text: value("text").trim(),
      owner: owner.value,
      state: state.value,
      hideDone: checked("hideDone"),
      milestones: checked("milestones"),
      finishPath: checked("finishPath"),
      weeks: /** @type {Look["weeks"]} */ (value("weeks")),
      label: /** @type {Look["label"]} */ (value("label")),
      colour: /** @type {Look["colour"]} */ (value("colour")),
      sort: sort === "" ? null : { col: sort, down: checked("down") },
    });
  });
  const columnList = /** @type {HTMLElement} */ (document.getElementById("look-columns"));
  const views = new Views(store, project);
  store.subscribe(draw);
  draw();

  function draw() {
    const now = JSON.stringify(store.people.map(({ id, name }) => [id, name]));
    if (now !== people) {
      owner.replaceChildren(
        new Option("Anyone", ""),
        new Option("Nobody", "nobody"),
        ...store.people.map(({ id, name }) => new Option(name, id)),
      );
      people = now;
    }
    const { look } = store;
    if (kept !== JSON.stringify(look)) {
      kept = JSON.stringify(look);
      localStorage.setItem(key, kept);
      if (document.activeElement !== field("text")) /** @type {HTMLInputElement} */ (field("text")).value = look.text;
      owner.value = look.owner;
      state.value = look.state;
      for (const name of /** @type {const} */ (["hideDone", "milestones", "finishPath"])) check(name, look[name]);
      for (const name of /** @type {const} */ (["weeks", "label", "colour"])) field(name).value = look[name];
      field("sort").value = look.sort?.col ?? "";
      check("down", look.sort?.down ?? false);
      drawColumns();
      views.draw();
    }
    const filters = filtersOf(look);
    line.hidden = filters === 0 && !look.sort;
    if (!line.hidden) words.textContent = sentence();
  }

  /** Each column with its width and its place; those that are not shown come last. */
  function drawColumns() {
    const shown = columnsOf(store);
    const hidden = COLUMNS.filter((column) => !shown.some(({ key: k }) => k === column.key));
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
        return element("div", { class: "look-column" }, ...parts);

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

  /** @param {import("./columns.js").Column[]} columns */
  function choose(columns) {
    store.lookAt({ columns: columns.map(({ key: k, width }) => ({ key: k, width })) });
  }

  function sentence() {
    const { look, shown, rows } = store;
    const parts = [];
    if (look.text) parts.push(`called “${look.text}”`);
    if (look.owner) parts.push(look.owner === "nobody" ? "of nobody" : `of ${nameOf(look.owner)}`);
    if (look.state) parts.push(STATE_WORDS[look.state].toLowerCase());
    if (look.hideDone) parts.push("not done");
    if (look.milestones) parts.push("milestones only");
    if (look.finishPath) parts.push("setting the finish");
    const tasks = (/** @type {typeof rows} */ of) => of.filter((row) => row.kind !== "phase").length;
    const filtered = parts.length > 0 ? `${tasks(shown)} of ${tasks(rows)} tasks: ${parts.join(", ")}` : "";
    const by = look.sort ? `sorted by ${look.sort.col}${look.sort.down ? ", the last first" : ""}, without phases` : "";
    const said = [filtered, by].filter(Boolean).join("; ");
    return `${said[0]?.toUpperCase() ?? ""}${said.slice(1)}.`;
  }

  /** @param {string} id */
  function nameOf(id) {
    return store.people.find((person) => person.id === id)?.name ?? "somebody who left";
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

/** @param {string} key @returns {Look} */
function remembered(key) {
  try {
    const look = { ...plainLook(), ...JSON.parse(localStorage.getItem(key) ?? "{}") };
    return Array.isArray(look.folded) ? look : plainLook();
  } catch {
    return plainLook();
  }
}

/** Looks that were saved under a name, for one project. */
class Views {
  #store;
  #key;
  #select = /** @type {HTMLSelectElement} */ (document.getElementById("look-views"));
  #name = /** @type {HTMLInputElement} */ (document.getElementById("look-name"));

  /** @param {Store} store @param {string} project */
  constructor(store, project) {
    this.#store = store;
    this.#key = `auxilium-views-${project}`;
    this.#select.addEventListener("change", () => {
      const look = this.#all[this.#select.value];
      if (look) store.lookAt({ ...plainLook(), ...look });
    });
    document.getElementById("look-save")?.addEventListener("click", () => this.#save());
    document.getElementById("look-forget")?.addEventListener("click", () => {
      const { [this.#select.value]: _, ...rest } = this.#all;
      this.#keep(rest);
    });
  }

  /** @returns {Record<string, Look>} */
  get #all() {
    try {
      return JSON.parse(localStorage.getItem(this.#key) ?? "{}");
    } catch {
      return {};
    }
  }

  #save() {
    const name = this.#name.value.trim().slice(0, 60);
    if (name === "") {
      this.#name.focus();
      return;
    }
    this.#name.value = "";
    this.#keep({ ...this.#all, [name]: this.#store.look });
  }

  /** @param {Record<string, Look>} views */
  #keep(views) {
    localStorage.setItem(this.#key, JSON.stringify(views));
    this.draw();
  }

  /** Names the view that is as one sees it now. */
  draw() {
    const now = JSON.stringify(this.#store.look);
    const all = Object.entries(this.#all);
    this.#select.replaceChildren(
      new Option(all.length > 0 ? "Choose…" : "None yet", ""),
      ...all.map(([name]) => new Option(name, name)),
    );
    this.#select.value = all.find(([, look]) => JSON.stringify(look) === now)?.[0] ?? "";
    const forget = /** @type {HTMLButtonElement | null} */ (document.getElementById("look-forget"));
    if (forget) forget.disabled = this.#select.value === "";
  }
}
