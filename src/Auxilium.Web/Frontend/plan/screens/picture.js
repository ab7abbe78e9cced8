// @ts-check
// A picture that is larger than what is in sight: it is scrolled, zoomed about the pointer, and only what is in sight is drawn.

import { element, quietButton } from "../card/fields.js";
import { svgElement } from "../timeline/svg.js";

const LEAST = 0.2;
const MOST = 2;

export class Picture {
  zoom = 1;
  /** What it is drawn into. @type {SVGElement} */ svg;
  /** What it is scrolled in. @type {HTMLElement} */ board;
  #sizeOf;
  #paint;

  /**
   * @param {HTMLElement} frame
   * @param {object} how
   * @param {string} how.label what a screen reader calls it
   * @param {HTMLElement[]} [how.tools] beside those for the zoom
   * @param {string} how.hint
   * @param {() => { width: number, height: number }} how.sizeOf the whole of it, at a zoom of 1
   * @param {() => void} how.paint draws what is in sight
   */
  constructor(frame, { label, tools = [], hint, sizeOf, paint }) {
    this.#sizeOf = sizeOf;
    this.#paint = paint;
    this.board = element("div", { class: "picture-board" });
    this.svg = svgElement("svg");
    this.svg.setAttribute("aria-label", label);
    this.board.append(this.svg);
    const scaled = (/** @type {number} */ by) => () => this.setZoom(this.zoom * by);
    frame.append(
      element(
        "div",
        { class: "picture-head" },
        quietButton("−", scaled(1 / 1.25), "Zoom out"),
        quietButton("+", scaled(1.25), "Zoom in"),
        quietButton("Fit", () => this.fit()),
        ...tools,
        element("p", { class: "hint" }, hint),
      ),
      this.board,
    );
    this.board.addEventListener("scroll", () => this.#paint(), { passive: true });
    this.board.addEventListener(
      "wheel",
      (event) => {
        if (!event.ctrlKey && !event.metaKey) return;
        event.preventDefault();
        const box = this.board.getBoundingClientRect();
        this.setZoom(this.zoom * Math.exp(-event.deltaY / 400), event.clientX - box.left, event.clientY - box.top);
      },
      { passive: false },
    );
    new ResizeObserver(() => this.#paint()).observe(this.board);
  }

  /** Shows all of it at once. */
  fit() {
    const { width, height } = this.#sizeOf();
    this.setZoom(Math.min(1, (this.board.clientWidth - 8) / width, (this.board.clientHeight - 8) / height));
  }

  /** About a point of what is in sight. @param {number} to @param {number} [x] @param {number} [y] */
  setZoom(to, x = this.board.clientWidth / 2, y = this.board.clientHeight / 2) {
    const [left, top] = [(this.board.scrollLeft + x) / this.zoom, (this.board.scrollTop + y) / this.zoom];
    this.zoom = Math.min(MOST, Math.max(LEAST, to));
    this.resize();
    this.board.scrollTo(left * this.zoom - x, top * this.zoom - y);
    this.#paint();
  }

  resize() {
    const { width, height } = this.#sizeOf();
    this.svg.setAttribute("width", String(width * this.zoom));
    this.svg.setAttribute("height", String(height * this.zoom));
    this.svg.setAttribute("viewBox", `0 0 ${width} ${height}`);
  }

  /** What is in sight, with so much before it that a box that ends there is seen. @param {{ width: number, height: number }} box */
  inSight({ width, height }) {
    const { board, zoom } = this;
    return {
      left: board.scrollLeft / zoom - width,
      top: board.scrollTop / zoom - height,
      right: (board.scrollLeft + board.clientWidth) / zoom,
      bottom: (board.scrollTop + board.clientHeight) / zoom,
    };
  }

  /** Scrolls a box into sight. @param {{ x: number, y: number }} at @param {{ width: number, height: number }} size */
  reveal(at, { width, height }) {
    const { board, zoom } = this;
    const [x, y] = [at.x * zoom, at.y * zoom];
    if (x < board.scrollLeft || x + width * zoom > board.scrollLeft + board.clientWidth) board.scrollLeft = x - 60;
    if (y < board.scrollTop || y + height * zoom > board.scrollTop + board.clientHeight) board.scrollTop = y - 60;
  }
}
