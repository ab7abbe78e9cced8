// @ts-check
// Where filters and sorting are chosen, and the line that says what they leave out.

/** @import { Store } from "./store.js" */
/** @import { Look } from "./look.js" */
import { STATE_WORDS } from "./columns.js";
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
    }
    const filters = filtersOf(look);
    line.hidden = filters === 0 && !look.sort;
    if (!line.hidden) words.textContent = sentence();
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
