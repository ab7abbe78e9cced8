// @ts-check
// The load of one person or team under the timeline, on the same scale: it goes along when one scrolls or zooms.

/** @import { Store } from "../state/store.js" */
/** @import { Timeline } from "../timeline/timeline.js" */
/** @import { LoadAnswer } from "../../load/model.js" */
import { element, quietButton } from "../card/fields.js";
import { columnsOf, hours, isOver, overDays, pastDays } from "../../load/model.js";
import { svgElement } from "../timeline/svg.js";
import { dayFrom, dayOf, withWeekday } from "../state/time.js";

const HEIGHT = 104;
const FOOT = 4;
const HEAD = 16;

/**
 * @param {Store} store @param {Timeline} timeline @param {HTMLElement} board
 * @param {{ answer: () => LoadAnswer | null, listen: (act: () => void) => void }} loads
 * @param {string} project
 * @returns {() => void} shows it, or hides it
 */
export function makeHistogram(store, timeline, board, loads, project) {
  const who = /** @type {HTMLSelectElement} */ (element("select", { class: "input", "aria-label": "Whose load" }));
  const svg = svgElement("svg");
  const said = element("p", { class: "mute", role: "status" });
  const frame = element(
    "section",
    { class: "histogram", "aria-label": "Load under the timeline", hidden: "" },
    element(
      "div",
      { class: "histogram-who" },
      who,
      said,
      element("div", {}, element("a", { class: "link", href: `/projects/${project}/load` }, "Open Load"), " "),
      quietButton("Close", () => turn(), "Close the load"),
    ),
    element("div", { class: "histogram-picture" }, svg),
  );
  svg.setAttribute("role", "img");
  board.closest(".stage")?.after(frame);
  let waiting = false;
  const later = () => {
    if (waiting || frame.hidden) return;
    waiting = true;
    requestAnimationFrame(() => {
      waiting = false;
      draw();
    });
  };
  board.addEventListener("scroll", later, { passive: true });
  store.subscribe(later);
  loads.listen(() => {
    offer();
    later();
  });
  who.addEventListener("change", later);
  offer();
  return turn;

  function turn() {
    frame.hidden = !frame.hidden;
    if (frame.hidden) return board.focus();
    offer();
    draw();
    who.focus();
  }

  function offer() {
    const answer = loads.answer();
    if (!answer) return;
    const kept = who.value || `person ${store.row(store.current?.id)?.owner ?? ""}`;
    const past = pastDays(answer);
    const options = [
      ...answer.people.map((one) => ({ ...one, key: `person ${one.id}` })),
      ...answer.teams.map((one) => ({ ...one, key: `team ${one.name}` })),
    ];
    who.replaceChildren(
      ...options.map(({ key, name, load: list, capacity }) =>
        element("option", { value: key }, overDays(list, capacity, past) > 0 ? `${name} (overbooked)` : name),
      ),
    );
    const first =
      options.find(({ key }) => key === kept) ?? options.find((o) => overDays(o.load, o.capacity, past) > 0);
    who.value = (first ?? options[0])?.key ?? "";
  }

  function chosen() {
    const answer = loads.answer();
    const [kind, ...id] = who.value.split(" ");
    return kind === "team"
      ? answer?.teams.find(({ name }) => name === id.join(" "))
      : answer?.people.find((person) => person.id === id.join(" "));
  }

  function draw() {
    const [answer, of] = [loads.answer(), chosen()];
    if (!answer || !of) return;
    const [first, past] = [dayFrom(answer.from), pastDays(answer)];
    const picture = svg.getBoundingClientRect();
    const zero = timeline.body.getBoundingClientRect().left - picture.left;
    const { scale } = timeline;
    const kind = scale.day > 8.5 ? "day" : scale.day > 2 ? "week" : "month";
    const columns = columnsOf(first, of.load.length, kind, dayOf(store.project.today));
    const bars = [];
    for (const column of columns) {
      const x = zero + scale.xOfDay(first + column.first);
      const width = scale.xOfDay(first + column.last + 1) - scale.xOfDay(first + column.first);
      if (x + width < 0 || x > picture.width) continue;
      let [much, has, days] = [0, 0, 0];
      for (let day = column.first; day <= column.last; day++) {
        much += of.load[day] ?? 0;
        has += of.capacity[day] ?? 0;
        if (day >= past && isOver(of.load[day] ?? 0, of.capacity[day] ?? 0)) days++;
      }
      bars.push({ x, width, much, has, days, name: column.name });
    }
    const most = Math.max(60, ...bars.map(({ much, has }) => Math.max(much, has)));
    const high = (/** @type {number} */ minutes) => (minutes / most) * (HEIGHT - FOOT - HEAD);
    const rest = HEIGHT - FOOT;
    svg.setAttribute("viewBox", `0 0 ${Math.max(1, picture.width)} ${HEIGHT}`);
    svg.replaceChildren(
      ...bars.flatMap(({ x, width, much, has, days, name }) => {
        const title = `${name}: ${hours(much)} of ${hours(has)} h`;
        const parts = [
          shape(
            "rect",
            { x: x + 1, y: rest - high(has), width: Math.max(1, width - 2), height: high(has), class: "has" },
            title,
          ),
          shape(
            "rect",
            {
              x: x + 2,
              y: rest - high(Math.min(much, has)),
              width: Math.max(1, width - 4),
              height: high(Math.min(much, has)),
              class: "does",
            },
            title,
          ),
        ];
        if (days === 0) return parts;
        const top = rest - high(Math.max(much, has));
        if (much > has)
          parts.push(
            shape(
              "rect",
              { x: x + 2, y: top, width: Math.max(1, width - 4), height: high(much - has), class: "over" },
              title,
            ),
          );
        // A flag on what is too much, as on the Load page.
        parts.push(shape("path", { d: `M${x + width / 2 - 5} ${top - 9}h10l-5 7z`, class: "flag" }, title));
        return parts;
      }),
    );
    const days = overDays(of.load, of.capacity, past);
    const at = of.load.findIndex((minutes, day) => day >= past && isOver(minutes, of.capacity[day] ?? 0));
    const [load, capacity] = [of.load[at] ?? 0, of.capacity[at] ?? 0];
    const long = days === 1 ? "1 day" : `${days} days`;
    said.textContent =
      days === 0
        ? "Not overbooked."
        : `Overbooked on ${long}, first ${withWeekday(first + at)}: ${hours(load)} of ${hours(capacity)} h.`;
    svg.setAttribute("aria-label", `Load of ${of.name}. ${said.textContent}`);
  }
}

/** @param {string} tag @param {Record<string, string | number>} at @param {string} title */
function shape(tag, at, title) {
  const node = svgElement(/** @type {"rect"} */ (tag));
  for (const [name, value] of Object.entries(at)) node.setAttribute(name, String(value));
  const words = svgElement("title");
  words.textContent = title;
  node.append(words);
  return node;
}
