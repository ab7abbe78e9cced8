// @ts-check
// Rows of the organisation's price list, chosen to become tasks, or items of a task's costs.

/** @import { Outbox } from "../server/outbox.js" */
import { element } from "../card/fields.js";

/**
 * @typedef
 * {{ id: string, category: string, name: string, unit: string, price: number | null, supplier: string, length: string }} Price
 */

const HEAD = ["Task", "Length", "Delivered by", "Note", "Source id"];

/** @typedef {{ hint: string, verb: string, one: string, more: string }} Words what becomes of what is chosen */

export const AS_TASKS = {
  hint: "Each category becomes a phase. You see the rows before they are added.",
  verb: "Preview",
  one: "task",
  more: "tasks",
};

export const AS_ITEMS = { hint: "Each becomes an item of this task’s costs.", verb: "Add", one: "item", more: "items" };

/**
 * Asks which items.
 * @param {Outbox} outbox
 * @param {(prices: Price[], many: Map<string, string>) => void} take gets those that were chosen, and how many of each by id
 * @param {Words} [words]
 */
export async function choosePrices(outbox, take, words = AS_TASKS) {
  const answer = await outbox.prices();
  const dialog = /** @type {HTMLDialogElement} */ (
    element("dialog", { class: "panel prices", "aria-labelledby": "prices-title" })
  );
  dialog.addEventListener("close", () => dialog.remove());
  dialog.addEventListener("keydown", (event) => event.stopPropagation());
  const close = element("button", { class: "button", type: "button" }, "Cancel");
  close.addEventListener("click", () => dialog.close());
  const title = element("h2", { id: "prices-title" }, "From the price list");
  if ("message" in answer || answer.length === 0) {
    const why =
      "message" in answer ? answer.message : "The price list is empty. Organisers fill it under People, Organisation.";
    dialog.append(title, element("p", {}, why), element("div", { class: "actions" }, close));
  } else {
    const chosen = new Map();
    const add = /** @type {HTMLButtonElement} */ (
      element("button", { class: "button button-strong", type: "button" }, words.verb)
    );
    add.disabled = true;
    add.addEventListener("click", () => {
      dialog.close();
      take(
        answer.filter(({ id }) => chosen.has(id)),
        chosen,
      );
    });
    const update = (/** @type {string} */ id, /** @type {string | null} */ many) => {
      if (many === null) chosen.delete(id);
      else chosen.set(id, many);
      add.disabled = chosen.size === 0;
      add.textContent =
        chosen.size === 0 ? words.verb : `${words.verb} ${chosen.size} ${chosen.size === 1 ? words.one : words.more}`;
    };
    const categories = byCategory(answer);
    dialog.append(
      title,
      element("p", { class: "hint" }, words.hint),
      ...categories.map(([category, items]) => group(category, items, update)),
      element("div", { class: "actions" }, close, add),
    );
  }
  document.getElementById("main")?.append(dialog);
  dialog.showModal();
}

/** @param {string} category @param {Price[]} items @param {(id: string, many: string | null) => void} update */
function group(category, items, update) {
  const rows = items.map((item) => {
    const box = /** @type {HTMLInputElement} */ (element("input", { type: "checkbox" }));
    const many = /** @type {HTMLInputElement} */ (
      element("input", {
        class: "input",
        type: "text",
        inputmode: "decimal",
        "aria-label": `How many of ${item.name}`,
        placeholder: item.unit,
      })
    );
    box.addEventListener("change", () => update(item.id, box.checked ? many.value : null));
    many.addEventListener("input", () => {
      if (many.value.trim() !== "") box.checked = true;
      update(item.id, box.checked ? many.value : null);
    });
    const more = [item.supplier, item.length].filter(Boolean).join(", ");
    return element(
      "li",
      {},
      element("label", { class: "check" }, box, item.name, element("span", { class: "mute" }, ` ${more}`)),
      many,
    );
  });
  return element("fieldset", {}, element("legend", {}, category || "Other"), element("ul", {}, ...rows));
}

/** What was chosen, as a list that is read like any other. @param {Price[]} picked @param {Map<string, string>} chosen */
export function asList(picked, chosen) {
  const lines = byCategory(picked).flatMap(([category, items]) => [
    category || "Other",
    ...items.map((item) => {
      const many = (chosen.get(item.id) ?? "").trim();
      const note = many === "" ? "" : `${many} ${item.unit}`.trim();
      return [`  ${item.name}`, item.length, item.supplier, note, item.id].join("\t");
    }),
  ]);
  return [HEAD.join("\t"), ...lines].join("\n");
}

/** @param {Price[]} prices @returns {[string, Price[]][]} in the order of the list */
function byCategory(prices) {
  /** @type {Map<string, Price[]>} */ const all = new Map();
  for (const price of prices) all.set(price.category, [...(all.get(price.category) ?? []), price]);
  return [...all];
}
