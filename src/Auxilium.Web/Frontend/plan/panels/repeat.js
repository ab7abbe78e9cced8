// @ts-check
// Letting a task come again: a rule is put together, said in plain words with its dates, and then kept.

/** @import { Store } from "../state/store.js" */
/** @import { Outbox } from "../server/outbox.js" */
/** @import { Actions } from "../commands/actions.js" */
/** @import { Row, CardRepeat } from "../state/types.js" */
import { element } from "../card/fields.js";
import { dayFrom, dayOf, iso, parts, short, timeIn, withYear } from "../state/time.js";

const WEEKDAYS = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"];
const SHOWN = 8; // dates of the preview

/** @typedef {{ sentence: string, change: string, dates: { start: string, text: string, moved: boolean }[] }} Told */

/** @param {Store} store @param {Outbox} outbox @param {Actions} actions */
export function makeRepeat(store, outbox, actions) {
  const dialog = /** @type {HTMLDialogElement} */ (document.getElementById("repeat"));
  const form = /** @type {HTMLFormElement} */ (document.getElementById("repeat-form"));
  const title = /** @type {HTMLElement} */ (document.getElementById("repeat-title"));
  const say = /** @type {HTMLElement} */ (document.getElementById("repeat-say"));
  const dates = /** @type {HTMLElement} */ (document.getElementById("repeat-dates"));
  const keep = /** @type {HTMLButtonElement} */ (document.getElementById("repeat-keep"));
  let task = "";
  let asked = 0;
  /** The day it comes first, as far as it is known. */ let firstDay = "";

  form.addEventListener("submit", (event) => event.preventDefault());
  form.addEventListener("input", () => {
    arrange();
    void ask();
  });
  dialog.addEventListener("keydown", (event) => event.stopPropagation());
  keep.addEventListener("click", () => {
    dialog.close();
    actions.send({ type: "repeatTask", task, rule: rule() }, task);
  });

  return open;

  /** @param {Row} row @param {CardRepeat | null} [known] the rule it has */
  function open(row, known = null) {
    task = row.id;
    title.textContent = known ? `When “${row.name}” comes` : `Repeat “${row.name}”`;
    const start = row.start ?? store.project.start;
    const day = dayOf(start);
    const weekday = WEEKDAYS[day % 7];
    set("every", known?.every ?? "week");
    set("interval", String(known?.interval ?? 1));
    for (const name of WEEKDAYS) box(name).checked = known?.on.length ? known.on.includes(name) : name === weekday;
    set("which", known?.week ? String(known.week) : "date");
    set("weekday", (known?.week && known.on[0]) || weekday);
    setDay("from", (known?.from ?? iso(day)).slice(0, 10));
    set(
      "time",
      known ? (known.from.split("T")[1] ?? "") : start % 1440 === store.project.dayStart ? "" : timeIn(start, day),
    );
    set("length", known?.length ?? (row.kind === "milestone" ? "0d" : row.length.replace("?", "")));
    set("end", known?.times ? "times" : known?.until ? "until" : "project");
    setDay("until", known?.until?.slice(0, 10) ?? iso(dayOf(store.project.finish)));
    set("times", String(known?.times ?? 6));
    set("closed", known?.closed ?? "next");
    field("length").disabled = row.kind === "milestone";
    arrange();
    dialog.showModal();
    void ask();
  }

  /** Only what the rest of the rule leaves open is asked for. */
  function arrange() {
    const every = value("every");
    show("repeat-days", every === "week");
    show("repeat-which", every === "month" || every === "year");
    show("repeat-weekday", (every === "month" || every === "year") && value("which") !== "date");
    show("repeat-until", value("end") === "until");
    show("repeat-times", value("end") === "times");
    const one = value("interval") === "1";
    for (const option of /** @type {HTMLSelectElement} */ (field("every")).options)
      option.text = one ? option.value : `${option.value}s`;
    const [date] = /** @type {HTMLSelectElement} */ (field("which")).options;
    const first = firstDay === "" ? null : dayFrom(firstDay);
    if (first !== null) date.text = every === "year" ? `on ${short(first)}` : `on day ${parts(first).date}`;
  }

  function rule() {
    const every = value("every");
    const counted = every !== "week" && every !== "day" && value("which") !== "date";
    const [from, time] = [value("from").trim(), value("time").trim()];
    const end = value("end");
    return {
      every,
      interval: Math.round(Number(value("interval"))) || 0,
      on: every === "week" ? WEEKDAYS.filter((name) => box(name).checked) : counted ? [value("weekday")] : [],
      week: counted ? Number(value("which")) : null,
      from: time === "" ? from : `${from}${/^\d{4}-\d\d-\d\d$/.test(from) ? "T" : " "}${time}`,
      until: end === "until" ? value("until").trim() || null : null,
      times: end === "times" ? Math.round(Number(value("times"))) || 0 : null,
      length: value("length"),
      closed: value("closed"),
    };
  }

  async function ask() {
    const mine = ++asked;
    const answer = await outbox.askRepeat(task, rule());
    if (mine !== asked) return;
    const problem = "message" in answer ? answer.message : "";
    keep.disabled = problem !== "";
    if (!("message" in answer) && answer.dates[0] && answer.dates[0].start.slice(0, 10) !== firstDay) {
      firstDay = answer.dates[0].start.slice(0, 10);
      arrange();
    }
    say.className = problem ? "problem" : "repeat-said";
    say.textContent = "message" in answer ? problem : `${answer.sentence} ${answer.change}`.trim();
    dates.replaceChildren(...("message" in answer ? [] : listed(answer)));
  }

  /** @param {Told} told */
  function listed({ dates: all }) {
    const items = all.slice(0, SHOWN).map(({ text, moved }) => element("li", moved ? { class: "is-moved" } : {}, text));
    if (all.length > SHOWN) items.push(element("li", { class: "mute" }, `and ${all.length - SHOWN} more`));
    return items;
  }

  /** @param {string} name */
  function field(name) {
    return /** @type {HTMLInputElement | HTMLSelectElement} */ (form.elements.namedItem(name));
  }

  /** @param {string} name */
  function box(name) {
    return /** @type {HTMLInputElement} */ (field(name));
  }

  /** @param {string} name */
  function value(name) {
    return field(name).value;
  }

  /** @param {string} name @param {string} text */
  function set(name, text) {
    field(name).value = text;
  }

  /** @param {"from" | "until"} name @param {string} day YYYY-MM-DD */
  function setDay(name, day) {
    if (name === "from") firstDay = day;
    set(name, withYear(dayFrom(day)));
  }

  /** @param {string} id @param {boolean} on */
  function show(id, on) {
    /** @type {HTMLElement} */ (document.getElementById(id)).hidden = !on;
  }
}
