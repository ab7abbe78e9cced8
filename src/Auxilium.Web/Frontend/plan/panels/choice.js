// @ts-check
// What can be done to several picked rows at once: a bar above the strip, there while two or more are picked.

/** @import { Store } from "../state/store.js" */
/** @import { Actions } from "../commands/actions.js" */
import { FIELDS } from "../fields/fields.js";
import { element } from "../card/fields.js";

/** @param {Store} store @param {Actions} actions @param {{ id: string, name: string }[]} calendars */
export function drawChoice(store, actions, calendars) {
  const bar = /** @type {HTMLElement} */ (document.getElementById("choice"));
  const form = /** @type {HTMLFormElement} */ (document.getElementById("choice-form"));
  const count = /** @type {HTMLElement} */ (document.getElementById("choice-count"));
  const calendar = /** @type {HTMLSelectElement} */ (form.elements.namedItem("calendar"));
  count.after(
    ...FIELDS.flatMap(({ key, many }) => (many ? [element("label", {}, `${many.label} `, control(key, many))] : [])),
  );
  calendar.append(...calendars.map(({ id, name }) => new Option(name, id)));

  store.subscribe(() => {
    const { size } = store.selection;
    bar.hidden = size < 2;
    if (size >= 2) count.textContent = `${size} rows picked`;
  });

  // Enter in a field sends that field alone; the others keep what is typed in them.
  form.addEventListener("submit", (event) => event.preventDefault());
  form.addEventListener("keydown", (event) => {
    event.stopPropagation();
    const field = event.target;
    if (event.key === "Enter" && field instanceof HTMLInputElement) {
      event.preventDefault();
      send(field.name, field.value, () => (field.value = ""));
    }
  });
  for (const select of form.querySelectorAll("select"))
    select.addEventListener("change", () => {
      if (select.value !== "") send(select.name, select.value, () => (select.value = ""));
    });

  /** @param {string} name @param {string} text @param {() => void} sent */
  function send(name, text, sent) {
    const problem =
      name === "shift" ? shift(text) : name === "calendar" ? setCalendar(text) : actions.setAll(name, text);
    if (problem === null) sent();
    else store.tell(problem);
  }

  /** @param {string} text */
  function shift(text) {
    const days = Number(text.trim().replace(/^\+/, "").replace("−", "-"));
    if (!Number.isInteger(days) || days === 0)
      return `“${text.slice(0, 20)}” is no number of days: type 3 for three days later, -3 for three earlier.`;
    const { ids } = store.selection;
    actions.send({ type: "shiftTasks", tasks: ids, days }, ids[0]);
    return null;
  }

  /** @param {string} id */
  function setCalendar(id) {
    const tasks = store.selection.ids.filter((task) => store.row(task)?.kind !== "phase");
    const own = id === "-" ? null : id;
    actions.sendAll(
      tasks.map((task) => ({ type: "setTaskCalendar", task, calendar: own })),
      tasks[0] ?? null,
    );
    return null;
  }
}

/** @param {string} key @param {NonNullable<import("../fields/field.js").Field["many"]>} many */
function control(key, { placeholder, list, choices }) {
  if (choices) {
    const select = /** @type {HTMLSelectElement} */ (
      element("select", { class: "input", name: key }, new Option("", ""))
    );
    select.append(...choices.map(([words, value]) => new Option(words, value)));
    return select;
  }
  const how = { ...(placeholder ? { placeholder } : {}), ...(list ? { list } : {}) };
  return element("input", { class: "input", name: key, type: "text", ...how });
}
