// @ts-check
// What lies between the two ends of a link: where an upright line can go down without running through a bar or what is written
// beside it.

const NEAR = 3; // pixels at which a line is in the way of what it goes past
// Pixels that it keeps when it goes round it: beside the edge of its phase, and beside the lines that leave it, and not on them.
const LEFT_OF = 9;
const RIGHT_OF = 13;
const MOST = 80; // rows between that are looked at: a longer line cannot be followed with the eye anyway

/** @typedef {[number, number] | null} Extent from where to where something is drawn in a row; null where nothing is in the way */

/** The rows between two ends, from the first that a line comes to. */
export class Between {
  /** @type {Extent[]} */ #extents = [];
  /** @type {number[]} */ #gaps = [];

  /**
   * @param {number} from line
   * @param {number} to line
   * @param {number} height of a row, in pixels
   * @param {(line: number) => Extent} extentOf
   */
  constructor(from, to, height, extentOf) {
    const step = Math.sign(to - from);
    if (Math.abs(to - from) > MOST) return;
    for (let line = from + step; step !== 0 && line !== to; line += step) {
      this.#extents.push(extentOf(line));
      this.#gaps.push(step > 0 ? line * height : (line + 1) * height);
    }
  }

  /** The first row that a line at x would run through; -1 where it goes past all of them. @param {number} x */
  blocked(x) {
    return this.#extents.findIndex((extent) => isIn(extent, x));
  }

  /**
   * Where the line between a row and the one it comes from is.
   * @param {number} row as {@link blocked} counts
   * @returns {number} pixels from the top
   */
  gapBefore(row) {
    return this.#gaps[row];
  }

  /**
   * The x nearest to one end of a stretch at which a line goes past a row and all that follow.
   * @param {number} row as {@link blocked} counts @param {number} near @param {number} far may be left or right of it @returns {number |
   * null}
   */
  free(row, near, far) {
    const step = Math.sign(far - near) || 1;
    const past = this.#extents.slice(row).flatMap((extent) => (extent ? [extent] : []));
    let x = near;
    // Each time something is in the way the line goes on behind it.
    for (let moved = true; moved;) {
      moved = false;
      for (const extent of past) {
        if (!isIn(extent, x)) continue;
        x = step > 0 ? extent[1] + RIGHT_OF : extent[0] - LEFT_OF;
        moved = true;
      }
      if ((far - x) * step < 0) return null;
    }
    return x;
  }
}

/** @param {Extent} extent @param {number} x */
const isIn = (extent, x) => extent !== null && x > extent[0] - NEAR && x < extent[1] + NEAR;
