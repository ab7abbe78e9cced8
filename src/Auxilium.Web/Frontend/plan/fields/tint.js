// @ts-check
// The field that tells the colour of rows, or of bars.

/** @import { Row } from "../state/types.js" */
/** @import { Around, Tint } from "./field.js" */
import { fieldOf } from "./fields.js";

/**
 * What a row or a bar is coloured by, as an attribute of it; none where there is nothing to tell.
 * @param {Around} store @param {Row} row @param {string} by a field, or "none"
 * @returns {Tint | null}
 */
export const tintOf = (store, row, by) => (by === "none" ? null : (fieldOf(by).tint?.(store, row) ?? null));
