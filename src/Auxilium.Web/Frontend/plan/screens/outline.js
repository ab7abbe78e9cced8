// @ts-check
// Outline: the phases and tasks of a plan as a tree, with their dates, effort and progress rolled up.

/** @import { Store } from "../state/store.js" */
/** @import { Row } from "../state/types.js" */
/** @import { Shape } from "../timeline/svg.js" */
/** @import { Box, Way } from "./outline-layout.js" */
import { rowSentence } from "../list/columns.js";
import { quietButton } from "../card/fields.js";
import { effort } from "../fields/effort.js";
import { STATE_WORDS } from "../fields/state.js";
import { dayOf, finishDayOf, lastDayOf, short, span } from "../state/time.js";
import { shownRows } from "../state/view.js";
import { say } from "../../money/text.js";
import { patch, svgElement } from "../timeline/svg.js";
import { outsideShape } from "../fields/delivered-by.js";
import { BOX, layOutline, ROOT } from "./outline-layout.js";
import { Picture } from "./picture.js";

const LETTERS = 28; // of a name that fit into a box
const FOLD = 9; // radius of what a phase is folded by

/** @param {Store} store @param {HTMLElement} frame @param {(id: string) => void} open */
export function drawOutline(store, frame, open) {
  let drawn = "";
  let layout = layOutline([], "right");
  /** The box that Tab comes to. */ let current = ROOT;

  const ways = /** @type {[Way, string][]} */ ([
    ["right", "Left to right"],
    ["down", "Top down"],
  ]).map(([way, words]) => {
    const button = quietButton(words, () => store.show({ tree: way }));
    button.dataset.way = way;
    return button;
  });
  const costs = quietButton("Costs", () => store.show({ treeCosts: !store.view.treeCosts }));
  const picture = new Picture(frame, {
    label: "The outline as a tree",
    tools: store.hasMoney ? [...ways, costs] : ways,
    hint: "Enter opens the card, Space folds a phase, the arrow keys go along the tree.",
    sizeOf: () => layout,
    paint: () => paint(),
  });
  const { svg } = picture;
  svg.setAttribute("role", "tree");
  const layers = ["lines", "boxes"].map(() => svg.appendChild(svgElement("g")));
  for (const layer of layers) layer.setAttribute("role", "presentation");
  store.subscribe(draw);
  draw();

  svg.addEventListener("click", (event) => {
    const folds = /** @type {Element} */ (event.target).closest("[data-folds]")?.getAttribute("data-folds");
    const id = boxAt(event.target);
    if (folds) fold(folds);
    else if (id) open(id);
  });
  svg.addEventListener("keydown", onKey);
  svg.addEventListener("focusin", (event) => {
    current = boxAt(event.target) ?? current;
  });

  /** @param {string} id */
  function fold(id) {
    const { folded } = store.view;
    store.show({ folded: folded.includes(id) ? folded.filter((other) => other !== id) : [...folded, id] });
  }

  /** @param {KeyboardEvent} event */
  function onKey(event) {
    const id = boxAt(event.target);
    const box = id === null ? undefined : layout.boxes.get(id);
    if (id === null || !box) return;
    if (event.key === "Enter") {
      event.preventDefault();
      if (id !== ROOT) open(id);
      return;
    }
    if (event.key === " ") {
      event.preventDefault();
      if (store.row(id)?.kind === "phase") fold(id);
      return;
    }
    const beside = layout.boxes.get(box.parent ?? ROOT)?.children ?? [];
    const at = beside.indexOf(id);
    const [along, back] =
      store.view.tree === "down" && !box.stacked ? ["ArrowRight", "ArrowLeft"] : ["ArrowDown", "ArrowUp"];
    const [into, out] = store.view.tree === "down" ? ["ArrowDown", "ArrowUp"] : ["ArrowRight", "ArrowLeft"];
    const to = {
      [along]: beside[at + 1],
      [back]: beside[at - 1] ?? (along === "ArrowDown" && into === "ArrowDown" ? box.parent : undefined),
      ...(along === into ? {} : { [into]: box.children[0], [out]: box.parent }),
    };
    if (!(event.key in to)) return;
    event.preventDefault();
    const next = to[event.key];
    if (next !== undefined && next !== null) focus(next);
  }

  /** @param {string} id */
  function focus(id) {
    const box = layout.boxes.get(id);
    if (!box) return;
    current = id;
    picture.reveal(box, BOX);
    paint();
    /** @type {SVGElement | null} */ (svg.querySelector(`[data-box="${id}"]`))?.focus({ preventScroll: true });
  }

  /** @param {EventTarget | null} target @returns {string | null} */
  function boxAt(target) {
    return /** @type {Element | null} */ (target)?.closest("[data-box]")?.getAttribute("data-box") ?? null;
  }

  function draw() {
    const { view } = store;
    for (const button of ways) button.setAttribute("aria-pressed", String(button.dataset.way === view.tree));
    costs.setAttribute("aria-pressed", String(view.treeCosts));
    const rows = shownRows(store.rows, { ...view, sort: null, group: "" }, store).filter((row) => !row.unsaved);
    const now = JSON.stringify([view.tree, rows.map(({ id, level }) => [id, level])]);
    if (now !== drawn) {
      drawn = now;
      layout = layOutline(rows, view.tree);
      picture.resize();
      if (!layout.boxes.has(current)) current = ROOT;
    }
    paint();
  }

  /** Only what is in sight is in the page, and the box that has the focus. */
  function paint() {
    const view = picture.inSight(BOX);
    const inSight = (/** @type {Box} */ { x, y }) =>
      x >= view.left && x <= view.right && y >= view.top && y <= view.bottom;
    const boxes = [...layout.boxes.values()].filter((box) => inSight(box) || box.id === current);
    const lines = [...layout.boxes.values()].flatMap((box) => {
      const parent = box.parent === null ? undefined : layout.boxes.get(box.parent);
      const from = parent && { x: Math.min(parent.x, box.x), y: Math.min(parent.y, box.y) };
      const isSeen =
        from && from.x <= view.right && box.x >= view.left && from.y <= view.bottom && box.y + BOX.height >= view.top;
      return parent && isSeen ? [lineShape(parent, box)] : [];
    });
    patch(layers[0], lines);
    patch(
      layers[1],
      boxes.map((box) => (box.id === ROOT ? rootShape(box) : boxShape(box, /** @type {Row} */ (store.row(box.id))))),
    );
  }

  /** @param {Box} from @param {Box} to @returns {Shape} */
  function lineShape(from, to) {
    const half = BOX.height / 2;
    const bend = (from.y + BOX.height + to.y) / 2;
    const d =
      store.view.tree === "right"
        ? `M${from.x + BOX.width} ${from.y + half}H${to.x - 22}V${to.y + half}H${to.x}`
        : to.stacked
          ? `M${to.x - 14} ${from.y + BOX.height}V${to.y + half}H${to.x}`
          : `M${from.x + BOX.width / 2} ${from.y + BOX.height}V${bend}H${to.x + BOX.width / 2}V${to.y}`;
    return { key: to.id, tag: "path", at: { d, class: "tree-line" } };
  }

  function tellsCosts() {
    return store.hasMoney && store.view.treeCosts;
  }

  /** @param {number | undefined} amount */
  function cost(amount) {
    return amount ? say(amount, store.currency) : "";
  }

  /** @param {Box} box @returns {Shape} */
  function rootShape(box) {
    const { name, start, finish, progress } = store.project;
    const work = store.rows.filter((row) => row.level === 0).reduce((sum, row) => sum + row.effort, 0);
    const much = tellsCosts() ? cost(store.planned) : effort.text(store, { ...EMPTY, effort: work });
    const facts = [span(dayOf(start), finishDayOf(finish)), much];
    const percent = Math.floor(progress);
    return shape(box, name, facts.filter(Boolean).join(" · "), `${percent}%`, progress, {
      class: "tree-box is-root",
      "aria-expanded": "true",
    });
  }

  /** @param {Box} box @param {Row} row @returns {Shape} */
  function boxShape(box, row) {
    const dates =
      row.start === null
        ? "no dates"
        : row.kind === "milestone"
          ? short(lastDayOf(row))
          : span(dayOf(row.start), lastDayOf(row));
    const much = tellsCosts() ? cost(store.money.get(row.id)?.money.planned) : effort.text(store, row);
    const facts = [dates, much].filter(Boolean).join(" · ");
    const isPhase = row.kind === "phase";
    const state = isPhase ? `${Math.floor(row.progress)}%` : (STATE_WORDS[row.state ?? ""] ?? "");
    const names = ["tree-box", `is-${row.kind}`];
    if (row.critical) names.push("sets-finish");
    if (row.state === "done") names.push("is-finished");
    if (row.state === "overdue" || row.state === "lateToStart") names.push("is-late");
    const isFolded = store.view.folded.includes(row.id);
    return shape(
      box,
      `${row.no} ${row.name}`,
      facts,
      state,
      row.progress,
      {
        class: names.join(" "),
        "aria-description": rowSentence(store, row),
        ...(isPhase ? { "aria-expanded": String(!isFolded) } : {}),
      },
      [
        ...(row.critical ? [keelShape(box)] : []),
        ...outsideShape(row, box.x + BOX.width - 24, box.y + 9),
        ...(isPhase ? [foldShape(box, isFolded)] : []),
      ],
    );
  }

  /**
   * @param {Box} box @param {string} name @param {string} facts @param {string} state @param {number} progress
   * @param {Record<string, string | number>} at @param {Shape[]} [more]
   * @returns {Shape}
   */
  function shape(box, name, facts, state, progress, at, more = []) {
    const { id, x, y } = box;
    const title = name.length > LETTERS ? `${name.slice(0, LETTERS - 1)}…` : name;
    const done = ((BOX.width - 24) * Math.min(100, progress)) / 100;
    return {
      key: `box ${id}`,
      tag: "g",
      at: { ...at, "data-box": id, role: "treeitem", "aria-level": box.level + 1, tabindex: id === current ? 0 : -1 },
      parts: [
        { key: "box", tag: "rect", at: { x, y, width: BOX.width, height: BOX.height, rx: 9, class: "tree-frame" } },
        { key: "name", tag: "text", at: { x: x + 12, y: y + 20, class: "chain-name" }, text: title },
        { key: "facts", tag: "text", at: { x: x + 12, y: y + 38, class: "chain-facts" }, text: facts },
        {
          key: "state",
          tag: "text",
          at: { x: x + BOX.width - 12, y: y + 38, "text-anchor": "end", class: "chain-facts tree-state" },
          text: state,
        },
        {
          key: "rule",
          tag: "rect",
          at: { x: x + 12, y: y + 48, width: BOX.width - 24, height: 5, rx: 2.5, class: "tree-rule" },
        },
        { key: "done", tag: "rect", at: { x: x + 12, y: y + 48, width: done, height: 5, rx: 2.5, class: "tree-done" } },
        ...more,
      ],
    };
  }

  /** Below what sets the finish. @param {Box} box @returns {Shape} */
  function keelShape({ x, y }) {
    const at = { x: x + 5, y: y + BOX.height - 4, width: BOX.width - 10, height: 4, rx: 2, class: "keel" };
    return { key: "keel", tag: "rect", at };
  }

  /**
   * What a phase is folded by: with a bar across, and upright too while it is folded.
   * @param {Box} box
   * @param {boolean} isFolded
   * @returns {Shape}
   */
  function foldShape({ id, x, y }, isFolded) {
    const [cx, cy] =
      store.view.tree === "right" ? [x + BOX.width, y + BOX.height / 2] : [x + BOX.width / 2, y + BOX.height];
    const d = `M${cx - 4} ${cy}h8${isFolded ? `M${cx} ${cy - 4}v8` : ""}`;
    return {
      key: "fold",
      tag: "g",
      at: { class: "tree-fold", "data-folds": id, "aria-hidden": "true" },
      parts: [
        { key: "ring", tag: "circle", at: { cx, cy, r: FOLD } },
        { key: "mark", tag: "path", at: { d } },
      ],
    };
  }
}

/** For the words of an effort that no row has. */
const EMPTY = /** @type {Row} */ (/** @type {unknown} */ ({ start: 0 }));
