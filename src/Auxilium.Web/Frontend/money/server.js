// @ts-check
// How money is asked for and changed.

import { whyTooLarge } from "../shared/files.js";

/**
 * @typedef {object} Item
 * @property {string} id
 * @property {string} name
 * @property {"material" | "equipment" | "fixed"} kind
 * @property {number} quantity
 * @property {string} unit
 * @property {number | null} price
 * @property {"unit" | "hour" | "day"} per
 * @property {number} perUse
 * @property {"start" | "evenly" | "finish"} accrues
 * @property {string} category
 * @property {string} supplier
 * @property {string} note
 * @property {{ day: string, amount: number, receipt: string | null }[]} payments
 */
/** @typedef {{ planned: number, labour: number, items: number, spent: number, left: number, budget: number | null }} RowMoney */
/** @typedef {{ name: string, planned: number, spent: number, left: number }} Group */
/**
 * @typedef {object} Costs of one row
 * @property {number} version
 * @property {string} sign
 * @property {number} decimals
 * @property {number | null} budget
 * @property {number | null} free
 * @property {RowMoney} money
 * @property {{ item: Item, planned: number, paid: number, supplierName: string }[]} items
 * @property {Group[]} labour
 * @property {Receipt[]} receipts
 */
/**
 * @typedef {object} Receipt that was added as a file
 * @property {string} id
 * @property {string} name
 * @property {string[]} proves what payments call it
 * @property {string} type
 * @property {number} size in bytes
 * @property {string} person
 * @property {string} at
 * @property {string} address
 */
/** @typedef {{ day: string, amount: number, item: string, task: string, name: string | null, receipt: string | null }} Paid */
/** @typedef {{ version: number, payments: Paid[], files: Receipt[] }} Receipts */
/**
 * @typedef {object} ProjectMoney
 * @property {string | null} currency
 * @property {"entered" | "progress"} actuals
 * @property {number} planned
 * @property {number} labour
 * @property {number} items
 * @property {number} spent
 * @property {number} left
 * @property {number} expected
 * @property {number | null} budget
 * @property {number | null} free
 * @property {number | null} bac
 * @property {number | null} pv
 * @property {number | null} ev
 * @property {number} ac
 * @property {number | null} sv
 * @property {number | null} cv
 * @property {number | null} spi
 * @property {number | null} cpi
 * @property {number | null} eac
 * @property {number | null} eacAsPlanned
 * @property {number | null} eacWithDelay
 * @property {number | null} etc
 * @property {number | null} vac
 * @property {number | null} tcpi
 * @property {string | null} earnedScheduleAt
 * @property {number | null} spiT
 */
/**
 * @typedef {object} MoneyRow
 * @property {string} id
 * @property {string} outline
 * @property {string} name
 * @property {number} level
 * @property {boolean} phase
 * @property {number} own
 * @property {number} expected
 * @property {number | null} free
 * @property {RowMoney} money
 */
/** @typedef {{ from: string, amount: number }} AmountIn */
/** @typedef {{ day: string, pv: number, ev: number | null, ac: number | null, isReckoned: boolean }} Point */
/** @typedef {{ baseline: string | null, points: Point[] }} Curve */
/**
 * @typedef {object} Money
 * @property {number} version
 * @property {string} asOf
 * @property {string} sign
 * @property {number} decimals
 * @property {string | null} actualsSet
 * @property {ProjectMoney} project
 * @property {number} gone
 * @property {MoneyRow[]} rows
 * @property {Group[]} categories
 * @property {Group[]} people
 * @property {Group[]} suppliers
 * @property {AmountIn[]} months
 * @property {AmountIn[]} toBePaid
 * @property {{ plannedHours: number, workedHours: number, hourWorth: number | null }} volunteered
 * @property {boolean} canUndo
 * @property {boolean} canRedo
 * @property {{ at: string, person: string, sentence: string }[]} changes
 */

export class MoneyServer {
  #address;
  #token;
  /** The version that changes are made on. */
  version = 0;

  /** @param {string} project @param {string} token */
  constructor(project, token) {
    this.#address = `/api/v1/projects/${project}`;
    this.#token = token;
  }

  /** @template T @param {string} path @returns {Promise<T>} */
  async ask(path) {
    const answer = await this.#sent(fetch(this.#address + path));
    if ("version" in answer) this.version = answer.version;
    return answer;
  }

  /** @param {object} edit @returns {Promise<string>} what it did, in a sentence */
  change(edit) {
    return this.#post({ edit });
  }

  /** @param {boolean} redo @returns {Promise<string>} */
  takeBack(redo = false) {
    return this.#post({ takeBack: redo ? "lastTakeBack" : "lastEdit" });
  }

  /** Lets the other parts of the page know that there is a new version. */
  announce() {
    document.dispatchEvent(new CustomEvent("money-changed", { detail: this.version }));
  }

  /**
   * Adds a receipt as a file.
   * @param {File} file @param {string | null} called what its payment calls it, where it calls it anything
   * @returns {Promise<Receipt>}
   */
  addReceipt(file, called = null) {
    const problem = whyTooLarge(file);
    if (problem) return Promise.reject(new Error(problem));
    const named = new URLSearchParams({ name: file.name, ...(called === null ? {} : { receipt: called }) });
    return this.#send(`/money/receipts?${named}`, "POST", file);
  }

  /** Removes a receipt, or brings it back. @param {string} id @returns {Promise<string>} what was done, in a sentence */
  async setReceipt(id, isRemoved = true) {
    const path = `/money/receipts/${id}`;
    return (await (isRemoved ? this.#send(path, "DELETE") : this.#send(`${path}/back`, "POST"))).sentence;
  }

  /** @param {object} what @returns {Promise<string>} */
  async #post(what) {
    const body = JSON.stringify({ id: crypto.randomUUID(), baseVersion: this.version, ...what });
    const answer = await this.#send("/money/edits", "POST", body);
    this.version = answer.version;
    return answer.sentence;
  }

  /** @param {string} path @param {string} method @param {string | File} [body] JSON, or a file as it is */
  #send(path, method, body) {
    const type = typeof body === "string" ? "application/json" : "application/octet-stream";
    const headers = { "X-Auxilium-Token": this.#token, ...(body === undefined ? {} : { "Content-Type": type }) };
    return this.#sent(fetch(this.#address + path, { method, headers, body }));
  }

  /** @param {Promise<Response>} asked @returns {Promise<any>} */
  async #sent(asked) {
    const answer = await asked.catch(() => null);
    if (!answer) throw new Error("The server does not answer. What you typed is still here: try again in a moment.");
    const body = await answer.json().catch(() => ({}));
    if (!answer.ok) throw new Error(body.errors?.[0]?.message ?? body.detail ?? body.title ?? "That did not work.");
    return body;
  }
}

/** An id for something new. */
export const newId = () => crypto.randomUUID().slice(0, 13);
