// @ts-check
// Charts of money: told apart by shape and dashes as well as colour, with their numbers at the keys, and a table behind each.

/** @import { Point } from "./server.js" */
/** @import { Currency } from "./text.js" */
import { element } from "../plan/card/fields.js";
import { dayFrom, short } from "../plan/state/time.js";
import { svgElement } from "../plan/timeline/svg.js";
import { say, shortly } from "./text.js";

const WIDTH = 960;
const CURVE = { height: 300, left: 64, right: 132, top: 16, foot: 30 };
const LINES = /** @type {[keyof Point & ("pv" | "ev" | "ac"), string, string][]} */ ([
  ["pv", "money-pv", "To be done"],
  ["ev", "money-ev", "Done"],
  ["ac", "money-ac", "Spent"],
]);

/** @param {string} tag @param {Record<string, string | number>} at @param {string} [text] */
function shape(tag, at, text = "") {
  const node = svgElement(tag);
  for (const [name, value] of Object.entries(at)) node.setAttribute(name, String(value));
  if (text) node.textContent = text;
  return node;
}

/** Round numbers up to an amount, for an axis. @param {number} most */
export function ticksTo(most) {
  const rough = Math.max(1, most) / 4;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = /** @type {number} */ ([1, 2, 5, 10].map((n) => n * power).find((n) => n >= rough));
  return Array.from({ length: Math.ceil(Math.max(1, most) / step) + 1 }, (_, at) => at * step);
}

/**
 * What was to be done, what is done and what was spent, week by week. Left and right go along it and say the numbers.
 * @param {Point[]} points @param {string} today @param {Currency} currency @param {number | null} budget
 */
export function curve(points, today, currency, budget) {
  const { height, left, right, top, foot } = CURVE;
  const [first, last] = [dayFrom(points[0]?.day ?? today), dayFrom(points.at(-1)?.day ?? today)];
  const ticks = ticksTo(Math.max(budget ?? 0, ...points.map(({ pv, ev, ac }) => Math.max(pv, ev ?? 0, ac ?? 0))));
  const most = ticks.at(-1) ?? 1;
  const x = (/** @type {number} */ day) => left + ((WIDTH - left - right) * (day - first)) / Math.max(1, last - first);
  const y = (/** @type {number} */ amount) => height - foot - ((height - foot - top) * amount) / most;
  const svg = shape("svg", { viewBox: `0 0 ${WIDTH} ${height}`, class: "chart money-curve", "aria-hidden": "true" });
  for (const tick of ticks)
    svg.append(
      shape("line", { x1: left, x2: WIDTH - right, y1: y(tick), y2: y(tick), class: "money-grid" }),
      shape("text", { x: left - 8, y: y(tick) + 4, class: "chart-word", "text-anchor": "end" }, shortly(tick)),
    );
  const every = Math.max(1, Math.ceil(points.length / 9));
  points.forEach(({ day }, at) => {
    if (at % every === 0)
      svg.append(
        shape(
          "text",
          { x: x(dayFrom(day)), y: height - 10, class: "chart-word", "text-anchor": "middle" },
          short(dayFrom(day)),
        ),
      );
  });
  const now = x(dayFrom(today));
  if (now >= left && now <= WIDTH - right)
    svg.append(
      shape("line", { x1: now, x2: now, y1: top, y2: height - foot, class: "money-today" }),
      shape("text", { x: now + 5, y: top + 10, class: "chart-word" }, "today"),
    );
  if (budget !== null)
    svg.append(
      shape("line", { x1: left, x2: WIDTH - right, y1: y(budget), y2: y(budget), class: "money-budget" }),
      shape("text", { x: left + 6, y: y(budget) - 5, class: "chart-word" }, "budget"),
    );
  /** @type {{ y: number, words: string, name: string }[]} */ const ends = [];
  for (const [key, name, words] of LINES) {
    const known = points.filter((point) => point[key] !== null);
    if (known.length === 0) continue;
    const at = known.map((point) => [x(dayFrom(point.day)), y(Number(point[key]))]);
    svg.append(shape("path", { d: `M${at.map((place) => place.join(" ")).join("L")}`, class: `money-line ${name}` }));
    const [endX, endY] = /** @type {[number, number]} */ (at.at(-1));
    svg.append(shape("circle", { cx: endX, cy: endY, r: 4, class: `money-dot ${name}` }));
    ends.push({ y: endY, words: `${words} ${shortly(Number(known.at(-1)?.[key]))}`, name });
  }
  // Words at the ends of lines that end close to each other stand apart.
  ends.sort((a, b) => a.y - b.y);
  ends.forEach((end, at) => {
    const before = ends[at - 1];
    if (before) end.y = Math.max(end.y, before.y + 16);
    svg.append(shape("text", { x: WIDTH - right + 10, y: end.y + 4, class: `chart-word ${end.name}-word` }, end.words));
  });
  const line = shape("line", { x1: 0, x2: 0, y1: top, y2: height - foot, class: "money-at", visibility: "hidden" });
  svg.append(line);

  const said = element("p", { class: "money-said", role: "status" });
  const frame = element(
    "div",
    {
      class: "money-plot",
      tabindex: "0",
      role: "group",
      "aria-label":
        "Curve of what was to be done, what is done and what was spent. Left and right go from week to week.",
    },
    svg,
  );
  let at = Math.max(
    0,
    points.findIndex(({ day }) => day === today),
  );
  const tell = () => {
    const point = points[at];
    if (!point) return;
    const place = x(dayFrom(point.day));
    for (const name of ["x1", "x2"]) line.setAttribute(name, String(place));
    line.setAttribute("visibility", "visible");
    const parts = LINES.filter(([key]) => point[key] !== null).map(
      ([key, , words]) => `${words.toLowerCase()} ${say(Number(point[key]), currency)}`,
    );
    said.textContent = `${short(dayFrom(point.day))}: ${parts.join(", ")}${point.isReckoned ? ", reckoned from dates" : ""}.`;
  };
  frame.addEventListener("focus", tell);
  frame.addEventListener("keydown", (event) => {
    const step = /** @type {Record<string, number>} */ ({
      ArrowLeft: -1,
      ArrowRight: 1,
      Home: -Infinity,
      End: Infinity,
    })[event.key];
    if (step === undefined) return;
    event.preventDefault();
    at = Math.max(0, Math.min(points.length - 1, at + step));
    tell();
  });
  frame.addEventListener("pointermove", (event) => {
    const box = svg.getBoundingClientRect();
    const day =
      first + (((event.clientX - box.left) / box.width) * WIDTH - left) / ((x(last) - left) / (last - first || 1));
    at = points.reduce(
      (best, point, index) =>
        Math.abs(dayFrom(point.day) - day) < Math.abs(dayFrom(points[best]?.day ?? point.day) - day) ? index : best,
      0,
    );
    tell();
  });
  return element("figure", { class: "chart-frame" }, frame, said);
}

/**
 * Bars with their amounts: each a row of a table, so that there is no other table to keep in step.
 * @param {{ name: string, amount: number, done?: number, note?: string }[]} rows of each bar its amount, and how much of it is filled
 * @param {{ of: string, amount: string, done?: string, note?: string }} heads
 * @param {Currency} currency
 */
export function bars(rows, heads, currency) {
  const most = Math.max(1, ...rows.map(({ amount, done }) => Math.max(amount, done ?? 0)));
  const cells = (/** @type {(string | null | undefined)[]} */ texts, /** @type {string} */ tag) =>
    texts
      .filter((text) => text !== undefined)
      .map((text) => element(tag, tag === "th" ? { scope: "col" } : { class: "number" }, text ?? ""));
  const hasDone = heads.done !== undefined;
  const body = element("tbody");
  for (const { name, amount, done, note } of rows) {
    const bar = element("span", { class: "money-bar", "aria-hidden": "true" });
    bar.style.setProperty("--long", String(amount / most));
    bar.style.setProperty("--done", String(amount > 0 ? Math.min(1, (done ?? 0) / amount) : 0));
    body.append(
      element(
        "tr",
        {},
        element("th", { scope: "row" }, name),
        element("td", { class: "money-bar-cell" }, bar),
        ...cells(
          [
            say(amount, currency),
            hasDone ? say(done ?? 0, currency) : undefined,
            heads.note === undefined ? undefined : (note ?? ""),
          ],
          "td",
        ),
      ),
    );
  }
  return element(
    "table",
    { class: "plain money-bars" },
    element(
      "thead",
      {},
      element(
        "tr",
        {},
        element("th", { scope: "col" }, heads.of),
        element("td", {}),
        ...cells([heads.amount, heads.done, heads.note], "th"),
      ),
    ),
    body,
  );
}
