// @ts-check
// Rows of the organisation's price list, chosen to become tasks: each category a phase, each item a task in it.

/** @import { Outbox } from "../server/outbox.js" */
import { element } from "../card/fields.js";

/**
 * @typedef
 * {{ id: string, category: string, name: string, unit: string, price: number | null, supplier: string, length: string }} Price
 */

const HEAD = ["Task", "Length", "Delivered by", "Note", "Source id"];

/**
 * Asks which items, and hands them on as a list that can be looked at before it is added.
 * @param {Outbox} outbox
 * @param {(list: string) => void} take
 */
export async function choosePrices(outbox, take) {
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
      element("button", { class: "button button-strong", type: "button" }, "Preview")
    );
    add.disabled = true;
    add.addEventListener("click", () => {
      dialog.close();
      take(asList(answer, chosen));
    });
    const update = (/** @type {string} */ id, /** @type {string | null} */ many) => {
      if (many === null) chosen.delete(id);
      else chosen.set(id, many);
      add.disabled = chosen.size === 0;
      add.textContent =
        chosen.size === 0 ? "Preview" : `Preview ${chosen.size} ${chosen.size === 1 ? "task" : "tasks"}`;
    };
    const categories = byCategory(answer);
    dialog.append(
      title,
      element("p", { class: "hint" }, "Each category becomes a phase. You see the rows before they are added."),
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

/** What was chosen, as a list that is read like any other. @param {Price[]} prices @param {Map<string, string>} chosen */
function asList(prices, chosen) {
  const picked = prices.filter(({ id }) => chosen.has(id));
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
