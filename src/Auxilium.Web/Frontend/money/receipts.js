// @ts-check
// What was paid, with its receipts: as links where they were added as files.

/** @import { MoneyServer, Receipt, Receipts } from "./server.js" */
/** @import { Currency } from "./text.js" */
import { element, keepTyped, quietButton } from "../plan/card/fields.js";
import { dayFrom, withYear } from "../plan/state/time.js";
import { chooseFiles, sizeOf } from "../shared/files.js";
import { say } from "./text.js";

const ADD = "add receipts";

/** Payments that are shown before all are asked for. */
const FIRST = 20;

/** What a payment calls its receipt, as a link where there is a file. @param {string} receipt @param {Receipt[]} files */
export function receiptOf(receipt, files) {
  const links = files.filter(({ proves }) => proves.includes(receipt)).map(linkTo);
  return element("span", { class: "receipt" }, ...(links.length > 0 ? links : [receipt]));
}

/** @param {Receipt} file */
function linkTo({ name, address }) {
  return element("a", { href: address, target: "_blank", rel: "noopener" }, name);
}

/**
 * The payments of a project and the files of their receipts.
 * @param {MoneyServer} server @param {boolean} mayEdit @param {string} plan address of the plan, whose rows are named behind a “#”
 * @param {(said: string, undo: (() => Promise<string>) | null) => void} tell says what was done, and how it is taken back
 */
export function makeReceipts(server, mayEdit, plan, tell) {
  const host = element("div");
  /** @type {Receipts} */ let known = { version: 0, payments: [], files: [] };
  /** @type {Currency | null} */ let currency = null;
  let all = false;

  /** @param {Currency} now of the amounts */
  async function load(now) {
    currency = now;
    known = await server.ask("/money/receipts");
    draw();
  }

  /** @param {() => Promise<string>} act */
  async function change(act, undo = /** @type {(() => Promise<string>) | null} */ (null)) {
    try {
      const said = await act();
      if (said) tell(said, undo);
    } catch (error) {
      tell(/** @type {Error} */ (error).message, null);
    }
    if (currency) await load(currency);
    // What was pressed may be gone.
    if (document.activeElement === document.body)
      /** @type {HTMLElement | null} */ (host.querySelector(`[data-field="${ADD}"]`))?.focus();
  }

  const add = () =>
    change(async () => {
      const files = await chooseFiles(true);
      if (files.length === 0) return "";
      for (const file of files) await server.addReceipt(file);
      return files.length === 1 ? `“${files[0]?.name}” added.` : `${files.length} receipts added.`;
    });

  /** @param {Receipt} file */
  function removal({ id, name }) {
    const back = () => server.setReceipt(id, false);
    return quietButton("Remove", () => void change(() => server.setReceipt(id), back), `Remove the receipt ${name}`);
  }

  /** @param {string} receipt */
  function removals(receipt) {
    return mayEdit ? known.files.filter(({ proves }) => proves.includes(receipt)).map(removal) : [];
  }

  function draw() {
    const { payments, files } = known;
    const shown = all ? payments : payments.slice(0, FIRST);
    const proved = payments.filter(({ receipt }) => files.some(({ proves }) => proves.includes(receipt ?? ""))).length;
    const loose = files.filter(({ proves }) => proves.length === 0);
    keepTyped(host, () =>
      host.replaceChildren(
        payments.length === 0
          ? element(
              "p",
              { class: "mute" },
              "Nothing is paid yet. Payments are typed under Costs on the card of each task.",
            )
          : table(shown),
        ...(payments.length > 0
          ? [element("p", { class: "mute" }, `${proved} of ${payments.length} payments have a receipt file.`)]
          : []),
        ...(loose.length > 0 ? [element("h3", {}, "Files without a payment"), list(loose)] : []),
        actions(),
      ),
    );
  }

  /** @param {Receipts["payments"]} payments */
  function table(payments) {
    const body = element("tbody");
    for (const { day, amount, item, task, name, receipt } of payments)
      body.append(
        element(
          "tr",
          {},
          element("th", { scope: "row" }, withYear(dayFrom(day))),
          element("td", {}, item),
          element("td", {}, name === null ? "A row that is gone" : element("a", { href: `${plan}#${task}` }, name)),
          element("td", { class: "number" }, currency ? say(amount, currency) : ""),
          element("td", {}, ...(receipt === null ? [] : [receiptOf(receipt, known.files), ...removals(receipt)])),
        ),
      );
    const heads = ["Day", "Item", "Row", "Paid", "Receipt"];
    return element(
      "div",
      { class: "wide", tabindex: "0", role: "region", "aria-label": "Payments" },
      element(
        "table",
        { class: "plain money-paid" },
        element("thead", {}, element("tr", {}, ...heads.map((head) => element("th", { scope: "col" }, head)))),
        body,
      ),
    );
  }

  /** @param {Receipt[]} files */
  function list(files) {
    return element(
      "ul",
      { class: "rows" },
      ...files.map((file) =>
        element(
          "li",
          {},
          element("span", {}, linkTo(file), ` ${sizeOf(file.size)}, ${file.person}`),
          ...(mayEdit ? [removal(file)] : []),
        ),
      ),
    );
  }

  function actions() {
    const row = element("div", { class: "actions" });
    if (known.payments.length > FIRST) {
      const more = quietButton(all ? "Only the newest payments" : `All ${known.payments.length} payments`, () => {
        all = !all;
        draw();
      });
      more.dataset.field = "all payments";
      row.append(more);
    }
    if (mayEdit) {
      const button = quietButton("Add receipts…", () => void add());
      button.dataset.field = ADD;
      const hint = "A file called R-109.pdf belongs to the payments with the receipt R-109.";
      row.append(button, element("span", { class: "hint" }, hint));
    }
    return row;
  }

  return { host, load };
}
