// @ts-check
// What a field of a task is: how its cell, editor, order, groups, filter, colour, card and copies work. Each field is a module of its
// own; the list of them is in fields.js.

/** @import { Card, Person, Row, Used } from "../state/types.js" */
/** @import { Store } from "../state/store.js" */
/** @import { SendEdit } from "../card/sections.js" */

/**
 * What rows are seen among.
 * @typedef {object} Around
 * @property {Person[]} people
 * @property {Map<string, string>} teams
 * @property {Map<string, Used>} [used]
 * @property {(id: string | null | undefined) => Row | undefined} row finds one
 */

/**
 * The edit that a typed text means, or the sentence that says why it means none.
 * @typedef {{ edit: object } | { problem: string }} Made
 */

/** A colour as an attribute of a row or a bar. @typedef {{ name: "data-hue" | "data-tint", value: string }} Tint */

/**
 * How rows stand together by a field.
 * @typedef {object} Grouping
 * @property {(row: Row, around: Around) => string} of which group a row is in; empty for none
 * @property {(key: string, around: Around) => string} title
 * @property {(row: Row, around: Around) => number} [rank] orders the groups; by their titles where it is missing, and what is in none last
 * @property {(row: Row, key: string) => object} [give] the edit that puts a row into a group
 */

/**
 * How rows are found by a field.
 * @typedef {object} Filter
 * @property {string} any what it is called to filter by nothing
 * @property {(store: Store) => string[][]} values words and value of each choice
 * @property {(row: Row, value: string, around: Around) => boolean} holds
 * @property {(value: string, store: Store) => string} says what is left, in the line that says what the filters leave out
 */

/**
 * @typedef {object} Field
 * @property {string} key
 * @property {string} label
 * @property {number} [width] of its column in pixels; a field without one has no column
 * @property {boolean} [extra] whether its column is shown by choice only
 * @property {boolean} [money] whether it is only for those who may have the project’s money
 * @property {(store: Store, row: Row) => string} text what its cell says
 * @property {(store: Store, row: Row) => string} [typed] what its editor begins with, where that is not what the cell says
 * @property {(store: Store, row: Row) => string} [filled] what is typed into rows below it, where that is more
 * @property {(store: Store, row: Row) => string} [copied] what goes to a spreadsheet, where that is not what the cell says
 * @property {(store: Store, row: Row, text: string) => Made} [edit] a field without it cannot be typed into
 * @property {(store: Store, input: HTMLInputElement, row: Row) => void} [assist] helps while it is typed
 * @property {(row: Row) => number | undefined} [near] the day that dates typed into it are close to
 * @property {boolean} [clears] whether Delete empties it
 * @property {boolean} [shared] whether many rows may be given the same
 * @property {boolean} [onPhases] whether phases have it as well
 * @property {{ label: string, placeholder?: string, list?: string, choices?: string[][] }} [many] its field above the bottom line, for all
 * picked rows
 * @property {(row: Row, around: Around) => number | string} [order]
 * @property {string} [orderLabel] what the order is called, where it is not called as the field
 * @property {Grouping} [group]
 * @property {Filter} [filter]
 * @property {(store: Around, row: Row) => Tint | null} [tint]
 * @property {string} [tintLabel] what the colour is called, where it is not called as the field
 * @property {(store: Store, row: Row) => string} [barLabel] what stands beside a bar
 * @property {(row: Row) => string | null} [said] in the sentence that a screen reader reads
 * @property {(row: Row) => { name: string, title: string } | null} [mark] beside the name
 * @property {(card: Card, send: SendEdit, store: Store) => HTMLElement | null} [card]
 * @property {(store: Store) => string[]} [lanes] the values that Lanes has columns for
 * @property {{ usual: unknown }} [fact] of a plain fact: what a row has that says nothing of it
 */

const HUES = 9;

/** The same word always has the same hue. @param {string} word @returns {Tint} */
export function hueOf(word) {
  let sum = 0;
  for (const letter of word) sum = (sum * 31 + (letter.codePointAt(0) ?? 0)) % 9973;
  return { name: "data-hue", value: String(sum % HUES) };
}

/** What comes after every word. */
export const LAST = "\uffff";
