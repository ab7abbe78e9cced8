// @ts-check
// How money is asked for and changed.

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
 */
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

  /** @param {object} what @returns {Promise<string>} */
  async #post(what) {
    const answer = await this.#sent(
      fetch(`${this.#address}/money/edits`, {
        method: "POST",
        headers: { "Content-Type": "application/json", "X-Auxilium-Token": this.#token },
        body: JSON.stringify({ id: crypto.randomUUID(), baseVersion: this.version, ...what }),
      }),
    );
    this.version = answer.version;
    return answer.sentence;
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
