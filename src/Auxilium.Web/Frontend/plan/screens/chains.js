// @ts-check
// Chains: how tasks are linked, as a picture from left to right. Links are drawn, changed and removed in it.

/** @import { Store } from "../state/store.js" */
/** @import { Preview } from "../server/preview.js" */
/** @import { Actions } from "../commands/actions.js" */
/** @import { Row, Link } from "../state/types.js" */
/** @import { Shape } from "../timeline/svg.js" */
/** @import { Node } from "./chains-layout.js" */
import { rowSentence } from "../list/columns.js";
import { BOX, layChains } from "./chains-layout.js";
import { Picture } from "./picture.js";
import { outsideShape } from "../fields/delivered-by.js";
import { listenToHold } from "../timeline/hold.js";
import { dayOf, lastDayOf, short, span } from "../state/time.js";
import { patch, svgElement } from "../timeline/svg.js";

const LETTERS = 26; // of a name that fit into a box

/** Words at links that are other than finish to start. @type {Record<string, string>} */
const KIND_WORDS = { startToStart: "with", finishToFinish: "ends with", startToFinish: "ends after start" };

/**
 * @param {Store} store
 * @param {Preview} preview
 * @param {Actions} actions
 * @param {HTMLElement} frame
 * @param {(id: string) => void} open
 * @returns {SVGElement} where links can be clicked
 */
export function drawChains(store, preview, actions, frame, open) {
  let drawn = "";
  let layout = layChains([], []);
  /** The box that Tab comes to. @type {string | null} */ let current = null;

  const picture = new Picture(frame, {
    label: "How tasks are linked",
    hint: "Drag from the dot at the right of a box to another one to link them. Click a link to change or remove it.",
    sizeOf: () => layout,
    paint: () => paint(),
  });
  const { board, svg } = picture;
  svg.setAttribute("role", "group");
  const layers = ["links", "boxes", "thread"].map(() => svg.appendChild(svgElement("g")));
  store.subscribe(draw);
  draw();

  svg.addEventListener("click", (event) => {
    const id = boxAt(event.target);
    if (id) open(id);
  });
  svg.addEventListener("keydown", onKey);
  svg.addEventListener("focusin", (event) => {
    current = boxAt(event.target) ?? current;
  });
  listenToHold(board, {
    grab(event) {
      const over = /** @type {Element} */ (event.target);
      const dot = over.closest("[data-dot]")?.getAttribute("data-dot") ?? null;
      if (dot === null && over.closest("[data-box], [data-link]")) return null;
      event.preventDefault();
      return { from: dot, to: /** @type {string | null} */ (null), left: board.scrollLeft, top: board.scrollTop };
    },
    follow(held, event, by) {
      if (held.from === null) {
        board.scrollTo(held.left - by.x, held.top - by.y);
        return;
      }
      const to = boxAt(document.elementFromPoint(event.clientX, event.clientY));
      held.to = to !== held.from ? to : null;
      drawThread(held.from, event, held.to !== null);
      preview.ask(linkOf(held.from, held.to), held.to);
    },
    end({ from }) {
      patch(layers[2], []);
      if (from !== null) preview.end();
    },
    drop({ from, to }) {
      const edit = linkOf(from, to);
      if (edit) actions.send(edit, to);
    },
  });
  return svg;

  /** @param {string | null} from @param {string | null} to */
  function linkOf(from, to) {
    return from !== null && to !== null ? { type: "linkTasks", from, to, kind: "finishToStart" } : null;
  }

  /** From a box to the pointer. @param {string} id @param {PointerEvent} event @param {boolean} lands */
  function drawThread(id, event, lands) {
    const from = nodeOf(id);
    if (!from) return;
    const frameBox = svg.getBoundingClientRect();
    const at = {
      x1: from.x + BOX.width,
      y1: from.y + BOX.height / 2,
      x2: (event.clientX - frameBox.left) / picture.zoom,
      y2: (event.clientY - frameBox.top) / picture.zoom,
    };
    patch(layers[2], [{ key: "thread", tag: "line", at: { ...at, class: `thread${lands ? " lands" : ""}` } }]);
  }

  /** Left and right follow the links, up and down go along a layer. @param {KeyboardEvent} event */
  function onKey(event) {
    const id = boxAt(event.target);
    const node = id === null ? undefined : nodeOf(id);
    if (!node || !id) return;
    if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      open(id);
      return;
    }
    const nodes = [...layout.nodes.values(), ...layout.alone];
    const beside = nodes.filter((other) => other.layer === node.layer).sort((a, b) => a.y - b.y || a.x - b.x);
    const at = beside.findIndex((other) => other.id === id);
    /** @type {Record<string, string | undefined>} */
    const to = {
      ArrowRight: store.links.find((link) => link.from === id && nodeOf(link.to))?.to,
      ArrowLeft: store.links.find((link) => link.to === id && nodeOf(link.from))?.from,
      ArrowDown: beside[at + 1]?.id ?? (node.layer >= 0 ? layout.alone[0]?.id : undefined),
      ArrowUp: beside[at - 1]?.id,
    };
    const next = to[event.key];
    if (!(event.key in to)) return;
    event.preventDefault();
    if (next) focus(next);
  }

  /** @param {string} id */
  function focus(id) {
    const node = nodeOf(id);
    if (!node) return;
    current = id;
    picture.reveal(node, BOX);
    paint();
    /** @type {SVGElement | null} */ (svg.querySelector(`[data-box="${id}"]`))?.focus({ preventScroll: true });
  }

  /** @param {string} id */
  function nodeOf(id) {
    return layout.nodes.get(id) ?? layout.alone.find((node) => node.id === id);
  }

  /** @param {EventTarget | null} target @returns {string | null} */
  function boxAt(target) {
    return /** @type {Element | null} */ (target)?.closest("[data-box]")?.getAttribute("data-box") ?? null;
  }

  function draw() {
    const ends = new Set(store.links.flatMap((link) => [link.from, link.to]));
    const rows = store.passing((row) => !row.unsaved && (row.kind === "phase" ? ends.has(row.id) : true));
    const now = JSON.stringify([rows.map((row) => row.id), store.links.map(({ from, to }) => [from, to])]);
    if (now !== drawn) {
      drawn = now;
      layout = layChains(
        rows.map((row) => row.id),
        store.links,
      );
      picture.resize();
    }
    paint();
  }

  /** Only what is in sight is in the page, and the box that has the focus. */
  function paint() {
    const view = picture.inSight(BOX);
    const inSight = (/** @type {Node} */ node) =>
      node.x >= view.left && node.x <= view.right && node.y >= view.top && node.y <= view.bottom;
    const first = layout.nodes.values().next().value?.id ?? layout.alone[0]?.id;
    if (current === null || !nodeOf(current)) current = first ?? null;
    const boxes = [...layout.nodes.values(), ...layout.alone].filter((node) => inSight(node) || node.id === current);
    const links = store.links
      .flatMap((link) => {
        const [from, to] = [layout.nodes.get(link.from), layout.nodes.get(link.to)];
        if (!from || !to) return [];
        const [left, right] = [Math.min(from.x, to.x), Math.max(from.x, to.x)];
        const [top, bottom] = [Math.min(from.y, to.y), Math.max(from.y, to.y)];
        return left <= view.right && right >= view.left && top <= view.bottom && bottom >= view.top
          ? [{ link, from, to }]
          : [];
      })
      .sort((a, b) => Number(a.link.setsFinish) - Number(b.link.setsFinish));
    patch(layers[0], [
      ...links.flatMap(({ link, from, to }) =>
        linkShapes(link, from, to, layout.routes.get(`${link.from}>${link.to}`) ?? []),
      ),
      ...(layout.alone.length > 0
        ? [
            {
              key: "alone",
              tag: "text",
              at: { x: 26, y: layout.bottom + 40, class: "picture-words" },
              text: "Linked to nothing",
            },
          ]
        : []),
    ]);
    patch(
      layers[1],
      boxes.flatMap((node) => {
        const row = store.row(node.id);
        return row ? [boxShape(row, node)] : [];
      }),
    );
  }

  /** @param {Row} row @param {Node} node @returns {Shape} */
  function boxShape(row, { id, x, y }) {
    const names = ["chain-box", row.kind === "phase" ? "is-phase" : ""];
    if (row.critical) names.push("sets-finish");
    if (row.state === "done") names.push("is-finished");
    if (row.state === "overdue" || row.state === "lateToStart") names.push("is-late");
    const name = row.name.length > LETTERS ? `${row.name.slice(0, LETTERS - 1)}…` : row.name;
    const dates =
      row.start === null
        ? "no dates"
        : row.kind === "milestone"
          ? short(lastDayOf(row))
          : span(dayOf(row.start), lastDayOf(row));
    const slack = row.state === "done" ? "done" : row.critical ? "no float" : row.spare ? `${row.spare} float` : "";
    return {
      key: id,
      tag: "g",
      at: {
        "data-box": id,
        role: "button",
        tabindex: id === current ? 0 : -1,
        "aria-description": rowSentence(store, row),
        class: names.filter(Boolean).join(" "),
      },
      parts: [
        {
          key: "box",
          tag: "rect",
          at: { x, y, width: BOX.width, height: BOX.height, rx: row.kind === "milestone" ? 16 : 8 },
        },
        ...(row.critical
          ? [
              {
                key: "keel",
                tag: "rect",
                at: { x: x + 5, y: y + BOX.height - 4, width: BOX.width - 10, height: 4, rx: 2, class: "keel" },
              },
            ]
          : []),
        ...outsideShape(row, x + BOX.width - 22, y + 8),
        { key: "name", tag: "text", at: { x: x + 12, y: y + 20, class: "chain-name" }, text: `${row.no} ${name}` },
        { key: "dates", tag: "text", at: { x: x + 12, y: y + 38, class: "chain-facts" }, text: dates },
        {
          key: "slack",
          tag: "text",
          at: { x: x + BOX.width - 12, y: y + 38, "text-anchor": "end", class: "chain-facts" },
          text: slack,
        },
        {
          key: "dot",
          tag: "circle",
          at: { cx: x + BOX.width, cy: y + BOX.height / 2, r: 6, class: "chain-dot", "data-dot": id },
        },
      ],
    };
  }
}

/**
 * From the right of one box to the left of the next, past the boxes between; other kinds say so in words.
 * @param {Link} link
 * @param {Node} from
 * @param {Node} to
 * @param {{ x: number, y: number }[]} route
 * @returns {Shape[]}
 */
function linkShapes(link, from, to, route) {
  const end = { x: to.x - 1, y: to.y + BOX.height / 2 };
  let at = { x: from.x + BOX.width + 6, y: from.y + BOX.height / 2 };
  let d = `M${at.x} ${at.y}`;
  for (const point of route) {
    d += `${curve(at, point)}H${point.x + BOX.width}`;
    at = { x: point.x + BOX.width, y: point.y };
  }
  d += curve(at, { x: end.x - 5, y: end.y });
  const key = `${link.from}>${link.to}`;
  const name = link.setsFinish ? " sets-finish" : "";
  const words = KIND_WORDS[link.kind];
  const arrow = `M${end.x - 7} ${end.y - 4}L${end.x} ${end.y}L${end.x - 7} ${end.y + 4}Z`;
  const label = { x: end.x - 10, y: end.y - 7, "text-anchor": "end", class: "chain-facts" };
  return [
    { key: `${key}/hit`, tag: "path", at: { d, class: "link-hit", "data-link": key } },
    { key, tag: "path", at: { d, class: `link${name}` } },
    { key: `${key}/arrow`, tag: "path", at: { d: arrow, class: `arrow${name}` } },
    ...(words ? [{ key: `${key}/kind`, tag: "text", at: label, text: words }] : []),
  ];
}

/** @param {{ x: number, y: number }} from @param {{ x: number, y: number }} to */
function curve(from, to) {
  const bend = (to.x - from.x) / 2;
  return `C${from.x + bend} ${from.y} ${to.x - bend} ${to.y} ${to.x} ${to.y}`;
}
