// @ts-check
// Costs on the card: items typed like a small sheet, with their payments, and what people's work costs beside them.

/** @import { Costs, Item } from "../../money/server.js" */
/** @import { Price } from "./prices.js" */
/** @import { Store } from "../state/store.js" */
import { choiceField, element, keepTyped, quietButton, textField } from "../card/fields.js";
import { amountField } from "../../money/fields.js";
import { MoneyServer, newId } from "../../money/server.js";
import { receiptOf } from "../../money/receipts.js";
import { AMOUNT_HELP, plain, readAmount, say } from "../../money/text.js";
import { chooseFiles } from "../../shared/files.js";
import { dayFrom, withYear } from "../state/time.js";

const KINDS = /** @type {[Item["kind"], string][]} */ ([
  ["fixed", "Fixed cost"],
  ["material", "Material"],
  ["equipment", "Equipment"],
]);
const PERS = /** @type {[Item["per"], string][]} */ ([
  ["unit", "each"],
  ["hour", "each, an hour of the task"],
  ["day", "each, a day of the task"],
]);
const DUE = /** @type {[Item["accrues"], string][]} */ ([
  ["start", "At the start"],
  ["evenly", "Evenly"],
  ["finish", "At the finish"],
]);

/**
 * @param {Store} store @param {string} project @param {string} token
 * @param {(take: (prices: Price[], many: Map<string, string>) => void) => void} fromPrices asks for items of the price list
 * @returns {(host: HTMLElement, task: string) => void} fills a section of the card
 */
export function makeCosts(store, project, token, fromPrices) {
  document.head.append(element("link", { rel: "stylesheet", href: "/money.css" }));
  const server = new MoneyServer(project, token);
  const mayEdit = store.rights === "edit";
  /** @type {WeakMap<HTMLElement, CostsSheet>} */ const sheets = new WeakMap();
  /** @type {CostsSheet | null} */ let shown = null;
  document.addEventListener("money-changed", (event) => void shown?.follow(/** @type {CustomEvent} */ (event).detail));
  return (host, task) => {
    const tell = (/** @type {string} */ said) => store.tell(said);
    const importAt = `/projects/${project}/money/import`;
    const sheet = sheets.get(host) ?? new CostsSheet(host, server, importAt, task, mayEdit, tell, fromPrices);
    sheets.set(host, sheet);
    shown = sheet;
    void sheet.load();
  };
}

/**
 * Tasks that were made of the price list cost what it says.
 * @param {Store} store @param {string} project @param {string} token
 * @param {{ edits?: Record<string, any>[] }} edit that made them, with the ids of the prices in it
 * @param {Price[]} chosen @param {Map<string, string>} many how many of each
 */
export async function addCosts(store, project, token, edit, chosen, many) {
  /** @type {Map<string, string>} */ const tasks = new Map();
  for (const each of edit.edits ?? [])
    for (const value of Object.values(each)) if (many.has(value)) tasks.set(value, each.task);
  const edits = itemsOf(chosen, many, (id) => tasks.get(id));
  if (edits.length === 0) return;
  try {
    const server = new MoneyServer(project, token);
    await server.ask(`/tasks/${edits[0].task}/costs`);
    store.tell(await server.change({ type: "together", edits }));
    server.announce();
  } catch (error) {
    store.tell(`The tasks are added, but not what they cost: ${/** @type {Error} */ (error).message}`);
  }
}

/**
 * What was chosen as items, without those of no task.
 * @param {Price[]} chosen @param {Map<string, string>} many @param {(id: string) => string | undefined} taskOf
 */
function itemsOf(chosen, many, taskOf) {
  return chosen.flatMap(({ id, category, name, unit, price, supplier }) => {
    const task = taskOf(id);
    const quantity = readAmount(many.get(id) ?? "") ?? 1;
    /** @type {Item["kind"]} */ const kind = quantity === 1 && unit === "" ? "fixed" : "material";
    const item = { id: newId(), name, kind, quantity, unit, price, category, supplier, payments: [] };
    return task ? [{ type: "setItem", task, item }] : [];
  });
}

class CostsSheet {
  #host;
  #server;
  #importAt;
  #task;
  #mayEdit;
  #tell;
  #fromPrices;
  /** @type {Costs | null} */ #costs = null;
  /** Items whose details are open. @type {Set<string>} */ #open = new Set();
  #canUndo = false;
  /** Items with what is typed and on its way, by id. @type {Map<string, Item>} */ #typed = new Map();
  #sending = Promise.resolve();

  /**
   * @param {HTMLElement} host @param {MoneyServer} server @param {string} importAt where lists are imported
   * @param {string} task @param {boolean} mayEdit @param {(said: string) => void} tell
   * @param {Parameters<typeof makeCosts>[3]} fromPrices
   */
  constructor(host, server, importAt, task, mayEdit, tell, fromPrices) {
    this.#host = host;
    this.#server = server;
    this.#importAt = importAt;
    this.#task = task;
    this.#mayEdit = mayEdit;
    this.#tell = tell;
    this.#fromPrices = fromPrices;
  }

  /** @param {string} [focus] the field that gets the focus then */
  async load(focus) {
    try {
      this.#costs = await this.#server.ask(`/tasks/${this.#task}/costs`);
      this.#draw();
    } catch (error) {
      this.#host.replaceChildren(element("p", { class: "problem" }, /** @type {Error} */ (error).message));
    }
    if (focus)
      /** @type {HTMLElement | null} */ (this.#host.querySelector(`[data-field="${CSS.escape(focus)}"]`))?.focus();
  }

  /** Somebody changed the money of this project. @param {number} version that it has since */
  async follow(version) {
    await this.#sending;
    if (this.#host.isConnected && version > this.#server.version) await this.load();
  }

  /** Changes are sent one after another. @param {object} edit @param {(problem: string) => void} tell @param {string} [focus] */
  #change(edit, tell, focus) {
    this.#sending = this.#sending.then(() => this.#send(edit, tell, focus));
  }

  /** @param {object} edit @param {(problem: string) => void} tell @param {string} [focus] */
  async #send(edit, tell, focus) {
    try {
      this.#tell(await this.#server.change(edit));
      this.#canUndo = true;
      this.#server.announce();
      tell("");
      await this.load(focus);
    } catch (error) {
      tell(/** @type {Error} */ (error).message);
    }
  }

  /**
   * Changes an item as it is now, and not as it was when the field was drawn: two cells may be typed one right after the other.
   * @param {Item} item @param {Partial<Item>} now @param {(problem: string) => void} tell
   */
  #set(item, now, tell) {
    const next = { ...(this.#typed.get(item.id) ?? item), ...now };
    this.#typed.set(item.id, next);
    this.#change({ type: "setItem", task: this.#task, item: next }, (problem) => {
      if (problem || this.#typed.get(item.id) === next) this.#typed.delete(item.id);
      tell(problem);
    });
  }

  #draw() {
    const costs = /** @type {Costs} */ (this.#costs);
    const { money, budget, free } = costs;
    const sums = element("p", { class: "costs-sum" });
    for (const [name, amount] of /** @type {[string, number][]} */ ([
      ["Planned", money.planned],
      ["Spent", money.spent],
      ["Left", money.left],
    ]))
      sums.append(element("span", {}, `${name} `, element("b", {}, say(amount, costs))));
    if (free !== null)
      sums.append(
        element(
          "span",
          { class: free < 0 ? "is-over number" : "" },
          free < 0 ? `${say(-free, costs)} over budget` : `${say(free, costs)} free`,
        ),
      );
    const body = element("tbody");
    for (const each of costs.items) body.append(...this.#rows(each.item, each.planned, each.paid));
    if (this.#mayEdit) body.append(this.#newRow());
    const table = element(
      "table",
      { class: "costs", "aria-label": "Items" },
      element(
        "thead",
        {},
        element(
          "tr",
          {},
          ...["Item", "Quantity", "Price", "Cost"].map((head, at) =>
            element("th", { scope: "col", class: at > 0 ? "number" : "" }, head),
          ),
          element("td", {}),
        ),
      ),
      body,
    );
    const labour = costs.labour.map(({ name, planned, spent }) =>
      element("li", {}, `${name}: ${say(planned, costs)} planned, ${say(spent, costs)} spent`),
    );
    const actions = element("div", { class: "actions" });
    if (this.#mayEdit)
      actions.append(
        quietButton("From the price list…", () => this.#choosePrices()),
        element(
          "a",
          { class: "button button-quiet", href: `${this.#importAt}?task=${encodeURIComponent(this.#task)}` },
          "Import a list…",
        ),
      );
    if (this.#canUndo) actions.append(quietButton("Undo cost change", () => void this.#undo()));
    keepTyped(this.#host, () =>
      this.#host.replaceChildren(
        sums,
        ...(costs.items.length > 0 || this.#mayEdit ? [table] : []),
        actions,
        ...(labour.length > 0 ? [element("ul", { class: "mute costs-labour" }, ...labour)] : []),
        ...(this.#mayEdit
          ? [
              amountField("Budget of this row", budget, costs, (amount, tell) =>
                this.#change({ type: "setBudget", task: this.#task, amount }, tell),
              ),
            ]
          : []),
      ),
    );
  }

  /** @param {Item} item @param {number} planned @param {number} paid */
  #rows(item, planned, paid) {
    const costs = /** @type {Costs} */ (this.#costs);
    if (!this.#mayEdit)
      return [
        element(
          "tr",
          {},
          element("td", {}, item.name),
          element("td", { class: "number" }, `${item.quantity} ${item.unit}`),
          element("td", { class: "number" }, item.price === null ? "not known" : say(item.price, costs)),
          element("td", { class: "number" }, say(planned, costs)),
          element("td", {}),
        ),
        ...(item.payments.length > 0 ? [element("tr", {}, element("td", { colspan: "5" }, this.#paid(item)))] : []),
      ];
    const cell = (/** @type {HTMLElement} */ field, number = false) => {
      field.classList.add("is-bare");
      if (number) field.querySelector(".input")?.classList.add("is-number");
      return element("td", {}, field);
    };
    const isOpen = this.#open.has(item.id);
    const more = quietButton(
      isOpen ? "Less" : "More",
      () => this.#turn(item.id),
      `${isOpen ? "Less" : "More"} about ${item.name}`,
    );
    more.setAttribute("aria-expanded", String(isOpen));
    more.dataset.field = `more ${item.id}`;
    const row = element(
      "tr",
      {},
      cell(
        textField(`Name of ${item.name}`, item.name, (name, tell) => this.#set(item, { name }, tell), {
          key: `name ${item.id}`,
        }),
      ),
      cell(
        numberField(`Quantity of ${item.name}`, item.quantity, `quantity ${item.id}`, (quantity, tell) =>
          this.#set(item, { quantity: quantity ?? 0 }, tell),
        ),
        true,
      ),
      cell(
        numberField(`Price of ${item.name}`, item.price, `price ${item.id}`, (price, tell) =>
          this.#set(item, { price }, tell),
        ),
        true,
      ),
      element(
        "td",
        { class: "number" },
        say(planned, costs),
        ...(paid !== 0 ? [element("br"), element("span", { class: "mute" }, `${say(paid, costs)} paid`)] : []),
      ),
      element("td", {}, more),
    );
    return isOpen ? [row, element("tr", {}, element("td", { colspan: "5" }, this.#details(item)))] : [row];
  }

  /** @param {string} item */
  #turn(item) {
    if (!this.#open.delete(item)) this.#open.add(item);
    this.#draw();
    /** @type {HTMLElement | null} */ (
      this.#host.querySelector(`[data-field="${CSS.escape(`more ${item}`)}"]`)
    )?.focus();
  }

  /** @param {Item} item */
  #details(item) {
    const text = (/** @type {string} */ label, /** @type {"unit" | "category" | "supplier" | "note"} */ key) =>
      textField(label, item[key], (typed, tell) => this.#set(item, { [key]: typed }, tell), {
        key: `${key} ${item.id}`,
      });
    const choice = (
      /** @type {string} */ label,
      /** @type {[string, string][]} */ options,
      /** @type {"kind" | "per" | "accrues"} */ key,
    ) =>
      choiceField(
        label,
        options,
        item[key],
        (value, tell) =>
          this.#set(
            item,
            // Only what is rented has a price by the hour or day.
            key === "kind" && value !== "equipment"
              ? { kind: /** @type {any} */ (value), per: "unit" }
              : { [key]: value },
            tell,
          ),
        `${key} ${item.id}`,
      );
    const note = text("Note", "note");
    note.classList.add("costs-whole");
    const remove = quietButton(
      "Remove item",
      () => this.#change({ type: "removeItem", task: this.#task, item: item.id }, (said) => this.#tell(said)),
      `Remove item ${item.name}`,
    );
    return element(
      "div",
      { class: "costs-more" },
      choice("Kind", KINDS, "kind"),
      text("Unit", "unit"),
      ...(item.kind === "equipment" ? [choice("Price is for", PERS, "per")] : []),
      numberField("Once per use", item.perUse, `perUse ${item.id}`, (perUse, tell) =>
        this.#set(item, { perUse: perUse ?? 0 }, tell),
      ),
      choice("Due", DUE, "accrues"),
      text("Category", "category"),
      text("Supplier", "supplier"),
      note,
      this.#payments(item),
      element("div", { class: "actions costs-whole" }, remove),
    );
  }

  /** @param {Item} item */
  #payments(item) {
    const add = textField(
      "Add a payment",
      "",
      (typed, tell) => {
        const read = readPayment(typed);
        if (!read) tell(`Type a day and an amount, such as 12 May 50.00, and the receipt behind it.`);
        else this.#set(item, { payments: [...item.payments, read] }, tell);
      },
      { hint: "12 May 50.00 R-109", key: `payment ${item.id}` },
    );
    return element("div", { class: "costs-whole" }, this.#paid(item), add);
  }

  /** What was paid of it, with the receipts. @param {Item} item */
  #paid(item) {
    const costs = /** @type {Costs} */ (this.#costs);
    const problem = element("p", { class: "problem", role: "alert" });
    const list = element("ul", { class: "rows" });
    item.payments.forEach((payment, at) => {
      const day = withYear(dayFrom(payment.day));
      const isProved = costs.receipts.some(({ proves }) => proves.includes(payment.receipt ?? ""));
      const line = element("li", {}, element("span", {}, `${day}: ${say(payment.amount, costs)} `));
      if (payment.receipt !== null) line.append(receiptOf(payment.receipt, costs.receipts));
      if (this.#mayEdit) {
        const words = isProved ? "Change receipt…" : "Add receipt…";
        const name = `${words} for the payment of ${day}`;
        const attach = quietButton(words, () => void this.#attach(item, at, problem), name);
        attach.dataset.field = `receipt ${at} ${item.id}`;
        const remove = quietButton(
          "Delete",
          () => this.#set(item, { payments: item.payments.filter((_, i) => i !== at) }, (said) => this.#tell(said)),
          `Delete the payment of ${day}`,
        );
        line.append(attach, remove);
      }
      list.append(line);
    });
    return element("div", {}, list, problem);
  }

  /** Adds the receipt of a payment as a file. @param {Item} item @param {number} at which payment @param {HTMLElement} problem */
  async #attach(item, at, problem) {
    const payment = item.payments[at];
    const [file] = await chooseFiles(false);
    if (!file || !payment) return;
    problem.textContent = "";
    try {
      const { name, proves } = await this.#server.addReceipt(file, payment.receipt);
      const focus = `receipt ${at} ${item.id}`;
      if (payment.receipt !== null && proves.includes(payment.receipt)) {
        this.#tell(`“${name}” added as the receipt.`);
        await this.load(focus);
        return;
      }
      const payments = item.payments.map((each, i) => (i === at ? { ...each, receipt: name } : each));
      this.#set(item, { payments }, (said) => (problem.textContent = said));
    } catch (error) {
      problem.textContent = /** @type {Error} */ (error).message;
    }
  }

  /** The last line: a name makes an item. */
  #newRow() {
    const field = textField(
      "New item",
      "",
      (name, tell) => {
        const id = newId();
        this.#change(
          { type: "setItem", task: this.#task, item: { id, name, kind: "material", payments: [] } },
          tell,
          `quantity ${id}`,
        );
      },
      { hint: "New item", key: "new item" },
    );
    field.classList.add("is-bare");
    return element("tr", {}, element("td", {}, field), element("td", { colspan: "4" }));
  }

  #choosePrices() {
    this.#fromPrices((chosen, many) =>
      this.#change({ type: "together", edits: itemsOf(chosen, many, () => this.#task) }, (said) => {
        if (said) this.#tell(said);
      }),
    );
  }

  async #undo() {
    try {
      this.#tell(await this.#server.takeBack());
    } catch (error) {
      this.#canUndo = false;
      this.#tell(/** @type {Error} */ (error).message);
    }
    await this.load();
  }
}

/**
 * A number that may be left empty.
 * @param {string} label @param {number | null} number @param {string} key
 * @param {(number: number | null, tell: (problem: string) => void) => void} send
 */
function numberField(label, number, key, send) {
  const field = textField(
    label,
    plain(number),
    (text, tell) => {
      const read = text === "" ? null : readAmount(text);
      if (text !== "" && read === null) tell(`“${text}” is no number. ${AMOUNT_HELP}`);
      else send(read, tell);
    },
    { key },
  );
  field.querySelector("input")?.setAttribute("inputmode", "decimal");
  return field;
}

/**
 * “12 May 50.00 R-109”: a day, an amount, and the receipt where there is one.
 * @param {string} typed
 */
export function readPayment(typed) {
  const found = /^(?<day>.*?\S)\s+(?<amount>-?[\d.,]+)\s*(?:[€£$]|[A-Z]{3})?(?:\s+(?<receipt>\S.*))?$/.exec(
    typed.trim(),
  );
  const { day = "", amount = "", receipt = "" } = found?.groups ?? {};
  const read = readAmount(amount.replace(/^-/, ""));
  // A day of the month alone, as in “12 50”, could be meant otherwise.
  if (!found || read === null || !/[a-z]|\d[-./]\d/i.test(day)) return null;
  return { day, amount: amount.startsWith("-") ? -read : read, receipt: receipt === "" ? null : receipt };
}
