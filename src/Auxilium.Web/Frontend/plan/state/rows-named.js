// @ts-check
// Rows that something comes after, typed by number or by name, and offered while typing.

/** @import { Store } from "./store.js" */

const MOST_OFFERED = 40;

/** What stands before and behind the row in a link as it is typed: “after …”, “ends after … starts + 2d”. */
const LINK =
  /^(?<kind>(?:ends?\s+)?(?:after|with)\s+)?(?<row>.+?)(?<starts>\s+starts?)?(?<lag>\s*[+\-−–]\s*[\d.,½¼¾]+\s*[a-z]*(?:\s+elapsed)?)?$/i;
const NUMBER = /^\d+(?:\.\d+)*$/;

/**
 * The same links with numbers in place of names.
 * @param {Store} store @param {string} text @param {string} [own] the row they are for, which is never meant itself
 * @returns {{ text: string } | { problem: string }}
 */
export function withNumbers(store, text, own) {
  /** @type {string[]} */ const parts = [];
  for (const part of text.split(/[,;]/)) {
    const { kind = "", row = "", starts = "", lag = "" } = LINK.exec(part.trim())?.groups ?? {};
    const [first] = row.split(" ");
    // As it is offered: the number and the name.
    const isOffered =
      NUMBER.test(first) && row.includes(" ") && nameOf(store, first) === plain(row.slice(first.length));
    const number = NUMBER.test(row) ? row : isOffered ? first : null;
    if (row === "" || number !== null) {
      parts.push(row === "" ? part : `${kind}${number}${starts}${lag}`);
      continue;
    }
    const found = rowsCalled(store, row, own);
    if (found.length > 1)
      return {
        problem: `${found.length} rows are called like “${row}”: type the number of one, such as ${found[0].no}.`,
      };
    // What names no row may be something else: the server says what is wrong with it.
    parts.push(found.length === 1 ? `${kind}${found[0].no}${starts}${lag}` : part);
  }
  return { text: parts.join(", ") };
}

/** Offers rows for the last of the links that is being typed. @param {Store} store @param {HTMLInputElement} input @param {string} own */
export function offerRows(store, input, own) {
  const list = /** @type {HTMLDataListElement} */ (document.getElementById("rows"));
  input.setAttribute("list", "rows");
  const offer = () => {
    const comma = input.value.lastIndexOf(",") + 1;
    const before = comma === 0 ? "" : `${input.value.slice(0, comma)} `;
    const typed = plain(input.value.slice(comma));
    const rows = store.rows.filter(
      (row) => row.id !== own && !row.unsaved && plain(`${row.no} ${row.name}`).includes(typed),
    );
    list.replaceChildren(
      ...rows.slice(0, MOST_OFFERED).map((row) => new Option(row.name, `${before}${row.no} ${row.name}`)),
    );
  };
  input.addEventListener("input", offer);
  offer();
}

/** Those with exactly this name, else those whose name begins with it. @param {Store} store @param {string} name @param {string} [own] */
function rowsCalled(store, name, own) {
  const wanted = plain(name);
  const others = store.rows.filter((row) => row.id !== own && !row.unsaved);
  const exact = others.filter((row) => plain(row.name) === wanted);
  return exact.length > 0 ? exact : others.filter((row) => plain(row.name).startsWith(wanted));
}

/** @param {Store} store @param {string} number */
const nameOf = (store, number) => plain(store.rows.find((row) => row.no === number)?.name ?? "");

/** @param {string} text */
const plain = (text) => text.trim().toLocaleLowerCase();
