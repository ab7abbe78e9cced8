// @ts-check
// The part of the board that is in sight. It is measured when it changes and not whenever something is drawn: asking for sizes
// between two changes makes the browser lay the page out each time.

export class Sight {
  #board;
  #list;
  top = 0;
  left = 0;
  width = 0;
  height = 0;
  /** How much of the timeline lies under the list at its left. */
  covered = 0;

  /** @param {HTMLElement} board @param {HTMLElement} list @param {() => void} changed */
  constructor(board, list, changed) {
    this.#board = board;
    this.#list = list;
    board.addEventListener("scroll", () => (this.#place(), changed()), { passive: true });
    const observer = new ResizeObserver(() => (this.measure(), changed()));
    observer.observe(board);
    observer.observe(list);
    this.measure();
  }

  measure() {
    this.width = this.#board.clientWidth;
    this.height = this.#board.clientHeight;
    this.covered = this.#board.dataset.pane === "both" ? this.#list.offsetWidth : 0;
    this.#place();
  }

  /** @param {{ top?: number, left?: number }} to */
  scroll({ top = this.top, left = this.left }) {
    if (top === this.top && left === this.left) return;
    this.#board.scrollTo(left, top);
    this.#place();
  }

  #place() {
    this.top = this.#board.scrollTop;
    this.left = this.#board.scrollLeft;
  }
}
