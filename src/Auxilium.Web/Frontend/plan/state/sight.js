// @ts-check
// The part of the board that is in sight. It is measured when it changes and not whenever something is drawn: asking for sizes
// between two changes makes the browser lay the page out each time.

export class Sight {
  #board;
  #list;
  /** Its left edge on the screen. */
  x = 0;
  top = 0;
  left = 0;
  width = 0;
  height = 0;
  /** How much of the timeline lies under the list at its left. */
  covered = 0;
  #isAimed = false;

  /**
   * @param {HTMLElement} board
   * @param {HTMLElement} list
   * @param {() => void} moved something else is in sight
   * @param {() => void} changed it has another size
   */
  constructor(board, list, moved, changed) {
    this.#board = board;
    this.#list = list;
    const isThere = () => Math.abs(board.scrollTop - this.top) < 1 && Math.abs(board.scrollLeft - this.left) < 1;
    board.addEventListener("scroll", () => isThere() || (this.#place(), moved()), { passive: true });
    const observer = new ResizeObserver(() => (this.measure(), changed()));
    observer.observe(board);
    observer.observe(list);
    this.measure();
  }

  measure() {
    this.x = this.#board.getBoundingClientRect().left;
    this.width = this.#board.clientWidth;
    this.height = this.#board.clientHeight;
    this.covered = this.#board.dataset.pane === "both" ? this.#list.offsetWidth : 0;
    this.#place();
  }

  /** @param {{ top?: number, left?: number }} to */
  scroll({ top = this.top, left = this.left }) {
    if (top !== this.top) this.#board.scrollTop = top;
    if (left !== this.left) {
      this.#board.scrollLeft = left;
      this.left = this.#board.scrollLeft;
    }
    this.#place();
  }

  /** Where the left edge goes once all is drawn: until then nothing is measured. @param {number} left @param {number} most */
  aim(left, most) {
    this.left = Math.max(0, Math.min(left, most));
    this.#isAimed = true;
  }

  settle() {
    if (!this.#isAimed) return;
    this.#isAimed = false;
    this.#board.scrollTo(this.left, this.top);
  }

  #place() {
    this.top = this.#board.scrollTop;
    // Where the left edge is about to go counts, and not where it is until then.
    if (!this.#isAimed) this.left = this.#board.scrollLeft;
  }
}
