// @ts-check
// The timeline: keeps its picture in line with the plan, the scale and what is in sight.

/** @import { Store } from "../state/store.js" */
/** @import { ListView } from "../list/list.js" */
/** @import { Sight } from "../state/sight.js" */
/** @import { Scale } from "./scale.js" */
import { HEAD_HEIGHT } from "../list/list.js";
import { firstWeekday } from "../state/view.js";
import { dayOf, finishDayOf } from "../state/time.js";
import { headShapes } from "./head-shapes.js";
import { SCALES, scaleFor, within } from "./scale.js";
import { bandNames, bodyShapes } from "./shapes.js";
import { patch, svgElement } from "./svg.js";

const LAYERS = /** @type {const} */ ([
  "back",
  "trays",
  "planned",
  "tails",
  "links",
  "names",
  "bars",
  "knobs",
  "ghosts",
]);
const STRETCH = 240; // pixels by which the picture goes on when one scrolls to the side
const REST = 160; // milliseconds after which zooming has come to rest, and is drawn in full
const AROUND = 300; // pixels that are drawn on either side of what is in sight
const GLIDE = 200; // milliseconds after which bars have glided to their places
const STRETCHED = [0.62, 1.6]; // how far what is drawn is stretched while one zooms, before it is drawn anew

export class Timeline {
  #store;
  #sight;
  #list;
  #head = svgElement("svg");
  #body = svgElement("svg");
  /** @type {Record<string, SVGElement>} */ #layers = {};
  /** @type {Scale} */ scale;
  /** Pixels a day as they are drawn. */ #day = 0;
  /** Where the drawn stretch begins. */ #from = -1;
  /** @type {ReturnType<typeof setTimeout> | undefined} */ #rest;
  /** All that the picture was drawn from. @type {unknown[]} */ #drawn = [];
  /** Until when bars may be gliding. */ #glides = 0;
  /** The scale of the picture, and what was at the left edge of the board. @type {{ scale: Scale, left: number } | null} */ #picture =
    null;

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
    // Whoever types on does not wait for bars: they are where they go at once, and the next edit has the machine to itself.
    document.addEventListener(
      "keydown",
      () => {
        if (performance.now() < this.#glides) this.#body.classList.add("is-settled");
      },
      { capture: true },
    );
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
    if (added !== 0) this.#sight.aim(this.#sight.left + added, this.scale.width - this.#width);
    // Bars glide where the plan has changed, not where the scale has.
    const isZooming = this.#day !== this.scale.day;
    this.#picture = { scale: this.scale, left: this.#sight.left };
    this.#head.style.transform = this.#body.style.transform = "";
    this.#day = this.scale.day;
    this.#body.classList.toggle("is-still", isZooming);
    if (isZooming) this.#drawAtRest();
    else this.#body.classList.remove("is-stretched");
    this.#from = this.#block;
    if (this.#isAsDrawn(first, last, height)) {
      this.#sight.settle();
      return;
    }
    this.#body.classList.remove("is-settled");
    this.#glides = performance.now() + GLIDE;
    const shapes = bodyShapes(this.#store, this.scale, this.#view(first, last, height));
    for (const name of LAYERS) patch(this.#layers[name], shapes[name]);
    this.#drawHead();
    this.#body.classList.toggle("has-lit", this.#store.lit !== null && this.#store.linked(this.#store.lit).size > 0);
    this.#sight.settle();
  }

  #drawAtRest() {
    clearTimeout(this.#rest);
    this.#rest = setTimeout(() => this.#store.changed(), REST);
  }

  /** Whether nothing that the picture tells has changed since it was drawn. @param {number[]} seen */
  #isAsDrawn(...seen) {
    const { rows, shown, shownLinks, closed, people, others, view, project, lit, ghosts, thread, drop, behind, used } =
      this.#store;
    const { left, top, width, height } = this.#sight;
    const plan = [
      rows,
      shown,
      shownLinks,
      closed,
      people,
      others,
      view,
      project,
      lit,
      ghosts,
      thread,
      drop,
      behind,
      used,
    ];
    const now = [
      ...plan,
      this.scale.day,
      this.scale.firstDay,
      this.scale.row,
      left,
      top,
      width,
      height,
      this.#sight.covered,
      ...seen,
    ];
    const isSame = now.length === this.#drawn.length && now.every((part, i) => part === this.#drawn[i]);
    this.#drawn = now;
    return isSame;
  }

  /** Whether all that is in sight is drawn. */
  get isDrawn() {
    return this.#from === this.#block;
  }

  /** What goes along with what is in sight, where all of that is drawn. */
  follow() {
    this.#drawHead();
    const height = Math.max(this.#list.height, this.#sight.height - HEAD_HEIGHT);
    patch(this.#layers.names, bandNames(this.#store, this.scale, this.#view(0, 0, height)));
  }

  /** The picture is drawn for a stretch at a time. */
  get #block() {
    return Math.floor(this.#sight.left / STRETCH) * STRETCH;
  }

  /** @param {number} first @param {number} last @param {number} height @returns {import("./shapes.js").Viewport} */
  #view(first, last, height) {
    const { left, top } = this.#sight;
    const [from, to] = [this.#block - AROUND, this.#block + STRETCH + this.#width + AROUND];
    return { first, last, left: from, right: to, height, bottom: top + this.#sight.height - HEAD_HEIGHT, seen: left };
  }

  #drawHead() {
    const { left } = this.#sight;
    const { view, project } = this.#store;
    patch(this.#head, headShapes(project, this.scale, left, left + this.#width, view.weeks, firstWeekday(view)));
  }

  /**
   * Changes the scale about a point that stays where it is.
   * @param {string | number} scale its name, or pixels a day @param {number} [at] pixels from the left of what is in sight; its middle
   * when left out
   * @param {boolean} [goesOn] whether it is one of many changes of a movement
   */
  zoom(scale, at = this.#width / 2, goesOn = false) {
    const day = this.scale.firstDay + (this.#sight.left + at) / this.scale.day;
    this.scale = scaleFor(scale, this.#store.project, this.#store.rows, this.#store.rowHeight);
    size(this.#head, this.scale.width, HEAD_HEIGHT);
    this.#sight.aim(this.scale.xOfDay(day) - at, this.scale.width - this.#width);
    if (goesOn && this.#stretch()) return;
    this.#body.setAttribute("width", String(this.scale.width));
    this.#store.changed();
  }

  /**
   * Painting the whole picture takes longer than a frame should: a little is stretched, with the dates drawn anew.
   * @returns {boolean} whether that is enough
   */
  #stretch() {
    if (!this.#picture) return false;
    const { scale, left } = this.#picture;
    const by = this.scale.day / scale.day;
    if (by < STRETCHED[0] || by > STRETCHED[1]) return false;
    const moved = left - this.#sight.left;
    this.#body.classList.add("is-stretched");
    this.#body.style.transform = `translateX(${(scale.firstDay - this.scale.firstDay) * this.scale.day + moved}px) scaleX(${by})`;
    this.#head.style.transform = `translateX(${moved}px)`;
    this.#drawHead();
    this.#drawAtRest();
    return true;
  }

  /** Makes these times fill the width. @param {number} from minutes @param {number} to minutes */
  fit(from, to) {
    const [first, last] = [dayOf(from), finishDayOf(to) + 1];
    this.zoom(Math.min(SCALES.hours, (this.#width * 0.92) / Math.max(1, last - first)));
    this.show(first, 0.04);
  }

  /** Zooms with the wheel while Ctrl is held, as a pinch of two fingers on a pad does. @param {(scale: string) => void} told */
  listenToWheel(told) {
    this.#body.parentElement?.addEventListener(
      "wheel",
      (event) => {
        if (!event.ctrlKey && !event.metaKey) return;
        event.preventDefault();
        const { name } = this.scale;
        const at = event.clientX - this.#sight.x - this.#sight.covered;
        this.zoom(within(this.scale.day * Math.exp(-event.deltaY / 300)), at, true);
        if (this.scale.name !== name) told(this.scale.name);
      },
      { passive: false },
    );
  }

  /** @param {number} day @param {number} share of the width that stays left of it */
  show(day, share) {
    this.#sight.scroll({ left: this.scale.xOfDay(day) - this.#width * share });
  }

  /** Where the work is: the start while that is near or to come, then today, and the end of what is over. */
  showBeginning() {
    this.draw();
    const { project } = this.#store;
    const inSight = this.#width / this.scale.day;
    const [start, finish, today] = [project.start, project.finish, project.today].map(dayOf);
    const near = Math.abs(today - start) < inSight * 0.7;
    const first = near ? Math.min(start, today) : start;
    // From a Monday, so that the first week has its date.
    if (near || today < start) this.show(first - (first % 7) - 0.8, 0);
    else if (today - finish > inSight * 0.3) this.show(finish, 0.7);
    else this.show(today, 0.3);
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
