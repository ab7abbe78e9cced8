// @ts-check
// Where filters and sorting are chosen, and the line that says what they leave out.

/** @import { Store } from "../state/store.js" */
/** @import { Row, Person } from "../state/types.js" */
/** @import { Look } from "../state/view.js" */
/** @import { Remembered } from "../state/remembered.js" */
import { element, quietButton } from "../card/fields.js";
import { COLUMNS, columnsOf, FIRST, LEAST_WIDTH, MOST_WIDTH, STATE_WORDS } from "../list/columns.js";
import { filtersOf, plainLook } from "../state/view.js";
import { dayOf, minutesOf, short } from "../state/time.js";

/** Fields of a look that are chosen from a list, or typed. */
const CHOICES = /** @type {const} */ ([
  "owner",
  "team",
  "state",
  "labelled",
  "phase",
  "from",
  "to",
  "group",
  "rows",
  "colour",
  "label",
  "weeks",
  "weekStart",
]);

/** Fields of a look that are on or off. */
const CHECKS = /** @type {const} */ (["keyOnly", "hideDone", "milestones", "finishPath", "wrap", "periods", "others"]);

const MOST_PHASES = 150;

/** Phases, down to the level at which there are not too many to choose from; the one that is chosen as well. @param {Store} store */
function phasesToChoose({ rows, look }) {
  const phases = rows.filter((row) => row.kind === "phase");
  let level = Math.max(0, ...phases.map((row) => row.level));
  while (level > 0 && phases.filter((row) => row.level <= level).length > MOST_PHASES) level--;
  const some = phases.filter((row) => row.level <= level).slice(0, MOST_PHASES);
  const chosen = phases.find((row) => row.id === look.phase);
  return chosen && !some.includes(chosen) ? [...some, chosen] : some;
}

/** The labels that tasks have, in order. @param {Store} store */
export const labelsOf = (store) =>
  [...new Set(store.rows.flatMap(({ label }) => (label ? [label] : [])))].sort((a, b) => a.localeCompare(b));

/** The teams of the people on the plan, in order. @param {Store} store */
const teamsOf = ({ people, teams }) =>
  [...new Set(people.flatMap(({ id }) => teams.get(id) ?? []))].sort((a, b) => a.localeCompare(b));

/** @param {Store} store @param {Remembered} remembered what one sees is remembered for each project */
export function drawLook(store, remembered) {
  const form = /** @type {HTMLFormElement} */ (document.getElementById("look-form"));
  const line = /** @type {HTMLElement} */ (document.getElementById("look-line"));
  const words = /** @type {HTMLElement} */ (document.getElementById("look-words"));
  const state = /** @type {HTMLSelectElement} */ (field("state"));
  state.append(new Option("Late or overdue", "late"));
  state.append(...Object.entries(STATE_WORDS).map(([value, label]) => new Option(label, value)));
  store.lookAt(lookIn(remembered.get("look")));
  let offered = "";
  /** What is drawn. @type {{ rows: Row[] | null, look: Look | null, people: Person[] | null }} */ let drawn = {
    rows: null,
    look: null,
    people: null,
  };

  form.addEventListener("submit", (event) => event.preventDefault());
  form.addEventListener("keydown", (event) => event.stopPropagation());
  form.addEventListener("input", () => {
    const sort = value("sort");
    const chosen = Object.fromEntries(CHOICES.map((name) => [name, value(name)]));
    const on = Object.fromEntries(CHECKS.map((name) => [name, checked(name)]));
    store.lookAt({
      .../** @type {Partial<Look>} */ (chosen),
      .../** @type {Partial<Look>} */ (on),
      text: value("text").trim(),
      sort: sort === "" ? null : { col: sort, down: checked("down") },
    });
  });
  const columnList = /** @type {HTMLElement} */ (document.getElementById("look-columns"));
  const views = new Views(store, remembered);
  store.subscribe(draw);
  draw();

  function draw() {
    const { look, rows } = store;
    if (rows === drawn.rows && look === drawn.look && store.people === drawn.people) return;
    if (rows !== drawn.rows || store.people !== drawn.people) offer();
    // What was looked for may be gone.
    if (look.phase !== "" && !store.position.has(look.phase)) store.lookAt({ phase: "" });
    if (JSON.stringify(lookIn(remembered.get("look"))) !== JSON.stringify(look)) remembered.set("look", look);
    if (document.activeElement !== field("text")) /** @type {HTMLInputElement} */ (field("text")).value = look.text;
    for (const name of CHECKS) check(name, look[name]);
    for (const name of CHOICES) field(name).value = look[name];
    field("sort").value = look.sort?.col ?? "";
    check("down", look.sort?.down ?? false);
    if (look.columns !== drawn.look?.columns || !drawn.look) drawColumns();
    views.draw();
    drawn = { rows, look, people: store.people };
    line.hidden = filtersOf(look) === 0 && !store.isFlat;
    if (!line.hidden) words.textContent = sentence();
  }

  /** The people, labels and phases that tasks are found by. */
  function offer() {
    const options = {
      owner: [["Anyone", ""], ["Nobody", "nobody"], ...store.people.map(({ id, name }) => [name, id])],
      team: [["Any", ""], ["None", "-"], ...teamsOf(store).map((team) => [team, team])],
      labelled: [["Any", ""], ["None", "-"], ...labelsOf(store).map((label) => [label, label])],
      phase: [["Any", ""], ...phasesToChoose(store).map((row) => [`${row.no} ${row.name}`, row.id])],
    };
    const now = JSON.stringify(options);
    if (now === offered) return;
    offered = now;
    for (const [name, choices] of Object.entries(options))
      /** @type {HTMLSelectElement} */ (field(name)).replaceChildren(
        ...choices.map(([words, value]) => new Option(words, value)),
      );
    // Where nobody is in a team there is none to choose.
    field("team")
      .closest("label")
      ?.toggleAttribute("hidden", teamsOf(store).length === 0 && store.look.team === "");
    document.getElementById("labels")?.replaceChildren(...labelsOf(store).map((label) => new Option("", label)));
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

  /** @param {import("../list/columns.js").Column[]} columns */
  function choose(columns) {
    store.lookAt({ columns: columns.map(({ key: k, width }) => ({ key: k, width })) });
  }

  function sentence() {
    const { look, shown, rows } = store;
    const parts = [];
    if (look.text) parts.push(`name contains “${look.text}”`);
    if (look.owner) parts.push(look.owner === "nobody" ? "of nobody" : `of ${nameOf(look.owner)}`);
    if (look.team) parts.push(look.team === "-" ? "of no team" : `of the team ${look.team}`);
    if (look.state) parts.push((STATE_WORDS[look.state] ?? "Late or overdue").toLowerCase());
    if (look.labelled) parts.push(look.labelled === "-" ? "without a label" : `labelled ${look.labelled}`);
    if (look.phase) parts.push(`in ${store.row(look.phase)?.name ?? "a phase that is gone"}`);
    if (look.from) parts.push(`from ${short(dayOf(minutesOf(`${look.from}T00:00`)))}`);
    if (look.to) parts.push(`to ${short(dayOf(minutesOf(`${look.to}T00:00`)))}`);
    if (look.keyOnly) parts.push("key tasks");
    if (look.hideDone) parts.push("not done");
    if (look.milestones) parts.push("milestones only");
    if (look.finishPath) parts.push("setting the finish");
    const tasks = (/** @type {typeof rows} */ of) => of.filter((row) => row.kind !== "phase").length;
    const filtered = parts.length > 0 ? `${tasks(shown)} of ${tasks(rows)} tasks: ${parts.join(", ")}` : "";
    const sort = look.sort ? `sorted by ${look.sort.col}${look.sort.down ? ", descending" : ""}` : "";
    const order = look.group ? [`grouped by ${look.group}`, sort].filter(Boolean).join(", ") : sort;
    const by = order ? `${order}, without phases` : "";
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

/** A look as it was kept, perhaps by an older version. @param {Partial<Look> | undefined} kept @returns {Look} */
function lookIn(kept) {
  const look = { ...plainLook(), ...kept };
  return Array.isArray(look.folded) ? look : plainLook();
}

/** Looks that were saved under a name, for one project. */
class Views {
  #store;
  #remembered;
  #select = /** @type {HTMLSelectElement} */ (document.getElementById("look-views"));
  #name = /** @type {HTMLInputElement} */ (document.getElementById("look-name"));

  /** @param {Store} store @param {Remembered} remembered */
  constructor(store, remembered) {
    this.#store = store;
    this.#remembered = remembered;
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
    return this.#remembered.get("views") ?? {};
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
    this.#remembered.set("views", views);
    this.draw();
  }

  /** Names the view that is as one sees it now. */
  draw() {
    const now = JSON.stringify(lookIn(this.#store.look));
    const all = Object.entries(this.#all);
    this.#select.replaceChildren(
      new Option(all.length > 0 ? "Choose…" : "None yet", ""),
      ...all.map(([name]) => new Option(name, name)),
    );
    this.#select.value = all.find(([, look]) => JSON.stringify(lookIn(look)) === now)?.[0] ?? "";
    const forget = /** @type {HTMLButtonElement | null} */ (document.getElementById("look-forget"));
    if (forget) forget.disabled = this.#select.value === "";
  }
}
