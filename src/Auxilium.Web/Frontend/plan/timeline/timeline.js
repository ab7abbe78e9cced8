// @ts-check
// The timeline: keeps its picture in line with the plan, the scale and what is in sight.

/** @import { Store } from "../store.js" */
/** @import { ListView } from "../list.js" */
/** @import { Sight } from "../sight.js" */
/** @import { Scale } from "./scale.js" */
import { HEAD_HEIGHT } from "../list.js";
import { firstWeekday } from "../look.js";
import { dayOf, finishDayOf } from "../time.js";
import { headShapes } from "./head-shapes.js";
import { SCALES, scaleFor, within } from "./scale.js";
import { bodyShapes } from "./shapes.js";
import { patch, svgElement } from "./svg.js";

const LAYERS = /** @type {const} */ (["back", "trays", "tails", "links", "bars", "knobs", "ghosts"]);

export class Timeline {
  #store;
  #sight;
  #list;
  #head = svgElement("svg");
  #body = svgElement("svg");
  /** @type {Record<string, SVGElement>} */ #layers = {};
  /** @type {Scale} */ scale;

  /** @param {Store} store @param {Sight} sight @param {HTMLElement} element @param {ListView} list @param {string} scale */
  constructor(store, sight, element, list, scale) {
    this.#store = store;
    this.#sight = sight;
    this.#list = list;
    this.scale = scaleFor(scale, store.project, store.rows, store.rowHeight);
    this.#head.classList.add("time-head");
    this.#head.setAttribute("aria-hidden", "true");
    this.#body.classList.add("time-body");
    this.#body.setAttribute("role", "group");
    this.#body.setAttribute("aria-label", "Timeline");
    this.#body.append(hatch());
    for (const name of LAYERS) {
      this.#layers[name] = svgElement("g");
      this.#body.append(this.#layers[name]);
    }
    element.append(this.#head, this.#body);
  }

  /** Pixels of the timeline in sight. */
  get #width() {
    return this.#sight.width - this.#sight.covered;
  }

  draw() {
    const before = this.scale;
    this.scale = scaleFor(before.day, this.#store.project, this.#store.rows, this.#store.rowHeight);
    const [first, last] = this.#list.range();
    const height = Math.max(this.#list.height, this.#sight.height - HEAD_HEIGHT);
    size(this.#head, this.scale.width, HEAD_HEIGHT);
    size(this.#body, this.scale.width, height);
    // An earlier first day moves everything to the right: the eye stays where it was.
    const added = (before.firstDay - this.scale.firstDay) * this.scale.day;
    this.#sight.scroll({ left: this.#sight.left + added });
    const { left } = this.#sight;
    const right = left + this.#width;
    const bottom = this.#sight.top + this.#sight.height - HEAD_HEIGHT;
    patch(
      this.#head,
      headShapes(this.#store.project, this.scale, left, right, this.#store.look.weeks, firstWeekday(this.#store.look)),
    );
    const shapes = bodyShapes(this.#store, this.scale, {
      first,
      last,
      left: left - 300,
      right: right + 300,
      height,
      bottom,
      seen: left,
    });
    for (const name of LAYERS) patch(this.#layers[name], shapes[name]);
    this.#body.classList.toggle("has-lit", this.#store.lit !== null && this.#store.linked(this.#store.lit).size > 0);
  }

  /**
   * Changes the scale about a point that stays where it is.
   * @param {string | number} scale its name, or pixels a day @param {number} [at] pixels from the left of what is in sight; its middle when left out
   */
  zoom(scale, at = this.#width / 2) {
    const day = this.scale.firstDay + (this.#sight.left + at) / this.scale.day;
    this.scale = scaleFor(scale, this.#store.project, this.#store.rows, this.#store.rowHeight);
    size(this.#head, this.scale.width, HEAD_HEIGHT);
    this.#body.setAttribute("width", String(this.scale.width));
    this.#sight.scroll({ left: this.scale.xOfDay(day) - at });
    this.#store.changed();
  }

  /** Makes these times fill the width. @param {number} from minutes @param {number} to minutes */
  fit(from, to) {
    const [first, last] = [dayOf(from), finishDayOf(to) + 1];
    this.zoom(Math.min(SCALES.hours, (this.#width * 0.92) / Math.max(1, last - first)));
    this.show(first, 0.04);
  }

  /** Zooms with the wheel while Ctrl is held, as a pinch of two fingers on a pad does. @param {(scale: string) => void} told */
  listenToWheel(told) {
    let turned = 0;
    let at = 0;
    const zoom = () => {
      const { name } = this.scale;
      this.zoom(within(this.scale.day * Math.exp(-turned / 300)), at);
      turned = 0;
      if (this.scale.name !== name) told(this.scale.name);
    };
    this.#body.parentElement?.addEventListener(
      "wheel",
      (event) => {
        if (!event.ctrlKey && !event.metaKey) return;
        event.preventDefault();
        // Once a frame, however often the wheel turns.
        if (turned === 0) requestAnimationFrame(zoom);
        turned += event.deltaY;
        at = event.clientX - this.#body.getBoundingClientRect().left - this.#sight.left;
      },
      { passive: false },
    );
  }

  /** @param {number} day @param {number} share of the width that stays left of it */
  show(day, share) {
    this.#sight.scroll({ left: this.scale.xOfDay(day) - this.#width * share });
  }

  /** The start of the project while today is near it, else today. */
  showBeginning() {
    this.draw();
    const { start, today } = this.#store.project;
    const inSight = this.#width / this.scale.day;
    const first = Math.min(dayOf(start), dayOf(today));
    // From a Monday, so that the first week has its date.
    if (Math.abs(dayOf(today) - dayOf(start)) < inSight * 0.7) this.show(first - (first % 7) - 0.8, 0);
    else this.show(dayOf(today), 0.3);
  }

  /** Where a pointer is. @param {PointerEvent} event */
  xOf(event) {
    return event.clientX - this.#body.getBoundingClientRect().left;
  }

  /** @returns {SVGElement} */
  get body() {
    return this.#body;
  }
}

/** @param {SVGElement} svg @param {number} width @param {number} height */
function size(svg, width, height) {
  svg.setAttribute("width", String(width));
  svg.setAttribute("height", String(height));
}

function hatch() {
  const defs = svgElement("defs");
  const pattern = svgElement("pattern");
  for (const [name, value] of Object.entries({ id: "hatch", width: 7, height: 7, patternUnits: "userSpaceOnUse" }))
    pattern.setAttribute(name, String(value));
  pattern.setAttribute("patternTransform", "rotate(45)");
  const line = svgElement("line");
  for (const [name, value] of Object.entries({ x1: 0, y1: 0, x2: 0, y2: 7, class: "hatch-line" }))
    line.setAttribute(name, String(value));
  pattern.append(line);
  defs.append(pattern);
  return defs;
}
