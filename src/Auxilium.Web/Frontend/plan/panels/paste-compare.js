// @ts-check
// A list beside the rows that it was once brought in as: what is new, changed and gone, each to be taken or left.

/** @import { Reading } from "./paste.js" */
import { element } from "../card/fields.js";

/** @typedef {Reading["rows"][number]} ListRow */
/** @typedef {{ again: boolean | null, leave: number[], remove: string[] }} Choices */

const STATES = { new: "New", changed: "Changed", same: "As it is" };

/**
 * Whether rows that are there are updated, or all are added.
 * @param {Reading} now @param {Choices} how @param {() => void} read
 */
export function wayChoice(now, how, read) {
  if (now.matches === 0) return [];
  const way = (/** @type {boolean} */ again, /** @type {string} */ words) => {
    const radio = /** @type {HTMLInputElement} */ (
      element("input", { type: "radio", name: "paste-way", "data-choice": again ? "again" : "anew" })
    );
    radio.checked = (how.again === true) === again;
    radio.addEventListener("change", () => {
      Object.assign(how, { again, leave: [], remove: [] });
      read();
    });
    return element("label", { class: "paste-ask" }, radio, ` ${words}`);
  };
  const are = now.matches === 1 ? "1 row that is" : `${now.matches.toLocaleString("en")} rows that are`;
  return [
    element(
      "div",
      { class: "paste-way", role: "radiogroup", "aria-label": "Rows that are in the plan already" },
      way(true, `Update the ${are} in the plan already`),
      way(false, "Add all rows as new ones"),
    ),
  ];
}

/** Whether a row is taken: its line is not among those left. @param {ListRow} row @param {Choices} how */
const isTaken = (row, how) => row.state !== "same" && !how.leave.includes(row.line);

/**
 * What of a row is in the plan, and the box that takes or leaves it.
 * @param {ListRow} row @param {Choices} how @param {() => void} read
 */
export function stateCell(row, how, read) {
  const state = /** @type {keyof typeof STATES} */ (row.state);
  if (state === "same") return element("td", { class: "mute paste-state" }, STATES.same);
  const box = tick(`line-${row.line}`, isTaken(row, how), (on) => {
    how.leave = on ? how.leave.filter((line) => line !== row.line) : [...how.leave, row.line];
    read();
  });
  return element("td", { class: `paste-state is-${state}` }, element("label", {}, box, ` ${STATES[state]}`));
}

/**
 * What of a row would change, for the cell of its name.
 * @param {ListRow} row @param {(kind: string) => string} titleOf
 */
export function changesOf(row, titleOf) {
  if (row.changes.length === 0) return [];
  const short = (/** @type {string} */ text) => (text.length > 60 ? `${text.slice(0, 59)}…` : text);
  const said = row.changes.map(({ column, before, after }) => {
    const name = column === null ? "Phase" : titleOf(column);
    return element(
      "li",
      {},
      `${name}: `,
      ...(before === "" ? [] : [element("del", {}, short(before)), " → "]),
      element("ins", {}, short(after)),
    );
  });
  return [element("ul", { class: "paste-changes" }, ...said)];
}

/**
 * Rows of the plan that the list no longer has: they stay, unless somebody says otherwise.
 * @param {Reading} now @param {Choices} how @param {() => void} read
 */
export function goneList(now, how, read) {
  if (now.gone.length === 0) return [];
  const rows = now.gone.map(({ task, name, phase, inside }) => {
    const box = tick(`gone-${task}`, how.remove.includes(task), (on) => {
      how.remove = on ? [...how.remove, task] : how.remove.filter((id) => id !== task);
      read();
    });
    const where = [phase ? `in ${phase}` : "", inside > 0 ? `with ${inside} inside` : ""].filter(Boolean).join(", ");
    const more = where ? [element("span", { class: "mute" }, `, ${where}`)] : [];
    return element("li", {}, element("label", {}, box, ` Remove ${name}`), ...more);
  });
  const head = now.gone.length === 1 ? "One row beside these is not in the list" : "These rows are not in the list";
  return [element("div", { class: "paste-gone" }, element("p", {}, `${head}:`), element("ul", {}, ...rows))];
}

/** What would be done, for the button. @param {Reading} now @param {Choices} how */
export function toDo(now, how) {
  const many = (/** @type {string} */ state) => now.rows.filter((r) => r.state === state && isTaken(r, how)).length;
  const parts = [
    [many("new"), "add"],
    [many("changed"), "change"],
    [how.remove.length, "remove"],
  ].flatMap(([n, verb]) => (Number(n) > 0 ? [`${verb} ${Number(n).toLocaleString("en")}`] : []));
  const said = parts.length > 2 ? `${parts[0]}, ${parts[1]} and ${parts[2]}` : parts.join(" and ");
  return said === "" ? "Nothing to update" : said.charAt(0).toUpperCase() + said.slice(1);
}

/** @param {string} name @param {boolean} on @param {(on: boolean) => void} take */
function tick(name, on, take) {
  const box = /** @type {HTMLInputElement} */ (element("input", { type: "checkbox", "data-choice": name }));
  box.checked = on;
  box.addEventListener("change", () => take(box.checked));
  return box;
}
