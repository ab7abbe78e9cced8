// @ts-check
// Figures of money in plain sentences, each with its formula on request.

/** @import { Money } from "./server.js" */
import { element } from "../plan/card/fields.js";
import { dayFrom, dayOf, minutesOf, short } from "../plan/state/time.js";
import { say } from "./text.js";

/** Where the project stands, in two or three sentences. @param {Money} money */
export function lead(money) {
  const { project } = money;
  const { budget, expected, free, spent, left, ev, pv } = project;
  if (expected === 0 && budget === null)
    return "Nothing costs anything yet. Give the project a budget here, and tasks their costs on their cards.";
  const sentences = [];
  if (budget === null) sentences.push(`It is expected to cost ${say(expected, money)}; nobody has set a budget.`);
  else if ((free ?? 0) < 0)
    sentences.push(
      `It is expected to cost ${say(expected, money)}, ${say(-(free ?? 0), money)} over the budget of ${say(budget, money)}.`,
    );
  else
    sentences.push(
      `It is expected to cost ${say(expected, money)}; ${say(free ?? 0, money)} of the budget of ${say(budget, money)} stay free.`,
    );
  sentences.push(`${say(spent, money)} are spent, and ${say(left, money)} are left to spend.`);
  if (ev !== null && pv !== null && (spent > 0 || pv > 0)) sentences.push(curveSaid(money));
  return sentences.join(" ");
}

/** What is done for what was spent. @param {number} cpi @param {string} sign of the currency */
const done = (cpi, sign) => `For each 100 ${sign} spent, ${Math.round(cpi * 100)} ${sign} of planned work is done`;

/** What the curve says today. @param {Money} money */
function curveSaid({ project: { cpi, spi }, sign }) {
  const cost = cpi === null ? "Nothing is spent yet" : done(cpi, sign);
  const time =
    spi === null
      ? "nothing was to be done yet"
      : spi >= 0.995 && spi <= 1.005
        ? "as much is done as was planned by now"
        : `${Math.round(spi * 100)}% of what was planned by now is done`;
  return `${cost}; ${time}.`;
}

/**
 * A figure that opens to what it means and how it is worked out.
 * @param {string} name @param {string} amount @param {string} means @param {string} formula @param {boolean} [isBad]
 */
function figure(name, amount, means, formula, isBad = false) {
  return element(
    "details",
    { class: `money-figure${isBad ? " is-over" : ""}` },
    element("summary", {}, element("span", {}, name), element("b", {}, amount)),
    element("p", {}, means),
    element("p", { class: "money-formula" }, formula),
  );
}

/** @param {Money} money */
export function mainFigures(money) {
  const { project } = money;
  const of = (/** @type {number | null} */ amount) => (amount === null ? "not set" : say(amount, money));
  const isEntered = project.actuals === "entered";
  const over = (project.free ?? 0) < 0;
  return element(
    "div",
    { class: "money-figures" },
    figure("Budget", of(project.budget), "What the project may cost.", "Set by whoever coordinates it."),
    figure(
      "Planned",
      of(project.planned),
      `What the plan costs as it stands: ${of(project.labour)} of labour and ${of(project.items)} of items.`,
      "Effort × hourly rate + cost per task, and quantity × price + once per use, over all rows.",
    ),
    figure(
      "Spent",
      of(project.spent),
      isEntered
        ? `Up to and with ${short(dayFrom(money.asOf))}: hours that people entered and payments that were made.`
        : "Reckoned from progress: nobody has entered hours or payments, or it was chosen so.",
      isEntered
        ? "Hours × rate of the day, overtime at its own + cost per task + payments."
        : "At start once begun + evenly × progress + at finish once finished.",
    ),
    figure(
      "Left",
      of(project.left),
      "What is still to be spent if the rest goes as planned.",
      isEntered ? "Effort left × rates + what is not yet paid of items." : "Planned − spent.",
    ),
    figure("Expected", of(project.expected), "What it costs in the end.", "Spent + left."),
    figure(
      over ? "Over budget" : "Free",
      project.free === null ? "no budget" : of(Math.abs(project.free)),
      over
        ? "So much more than the budget is expected to be spent."
        : "What of the budget is not expected to be spent.",
      "Budget − expected.",
      over,
    ),
  );
}

/** By the standard practice of earned value. @param {Money} money */
export function earnedFigures(money) {
  const { project } = money;
  const { bac, pv, ev, ac, sv, cv, spi, cpi, eac, eacAsPlanned, eacWithDelay, etc, vac, tcpi, spiT } = project;
  if (bac === null || ev === null || pv === null || sv === null || cv === null || vac === undefined)
    return element("p");
  const of = (/** @type {number | null} */ amount) => (amount === null ? "none" : say(amount, money));
  const index = (/** @type {number | null} */ number) => (number === null ? "none" : number.toFixed(2));
  const more = (/** @type {number} */ amount) => say(Math.abs(amount), money);
  const at = project.earnedScheduleAt ? short(dayOf(minutesOf(project.earnedScheduleAt))) : "";
  return element(
    "details",
    { class: "money-more" },
    element("summary", {}, "Earned value, figure by figure"),
    element(
      "div",
      { class: "money-figures" },
      figure(
        "BAC",
        of(bac),
        `The baseline says that all of it costs ${of(bac)}.`,
        "Budget at completion: Σ baseline cost.",
      ),
      figure("PV", of(pv), `By now, work of ${of(pv)} was to be done.`, "Planned value: Σ baseline cost due by now."),
      figure("EV", of(ev), `Work that was planned at ${of(ev)} is done.`, "Earned value: Σ baseline cost × progress."),
      figure("AC", of(ac), `${of(ac)} are spent so far.`, "Actual cost: what is spent."),
      figure(
        "SV",
        of(sv),
        sv < 0
          ? `Work of ${more(sv)} is late.`
          : sv > 0
            ? `Work of ${more(sv)} is early.`
            : "As much is done as was planned.",
        "Schedule variance: EV − PV.",
        sv < 0,
      ),
      figure(
        "CV",
        of(cv),
        cv < 0
          ? `What is done cost ${more(cv)} more than planned.`
          : `What is done cost ${more(cv)} less than planned.`,
        "Cost variance: EV − AC.",
        cv < 0,
      ),
      figure(
        "SPI",
        index(spi),
        spi === null ? "Nothing was to be done yet." : `${Math.round(spi * 100)}% of what was planned by now is done.`,
        "Schedule performance index: EV ÷ PV.",
      ),
      figure(
        "CPI",
        index(cpi),
        cpi === null ? "Nothing is spent yet." : `${done(cpi, money.sign)}.`,
        "Cost performance index: EV ÷ AC.",
      ),
      figure(
        "EAC",
        of(eac),
        `If the rest costs as what is done did: ${of(eac)}. If it costs what was planned: ${of(eacAsPlanned)}. ` +
          `If being late costs as well: ${of(eacWithDelay)}.`,
        "Estimate at completion: AC + (BAC − EV) ÷ CPI; AC + BAC − EV; AC + (BAC − EV) ÷ (CPI × SPI).",
      ),
      figure("ETC", of(etc), `Then ${of(etc)} are still to be spent.`, "Estimate to complete: EAC − AC."),
      figure(
        "VAC",
        of(vac),
        vac === null
          ? "There is no estimate."
          : vac < 0
            ? `It ends ${more(vac)} above the baseline.`
            : `It ends ${more(vac)} below the baseline.`,
        "Variance at completion: BAC − EAC.",
        (vac ?? 0) < 0,
      ),
      figure(
        "TCPI",
        index(tcpi),
        tcpi === null
          ? "Nothing of the baseline’s cost is left to be spent."
          : `To end at the baseline’s cost, each 100 ${money.sign} that are spent from now on must do ` +
              `${Math.round(tcpi * 100)} ${money.sign} of planned work.`,
        "To-complete performance index: (BAC − EV) ÷ (BAC − AC).",
      ),
      figure(
        "Earned schedule",
        at,
        `As much as is done now was to be done by ${at}; in time, that is ${index(spiT)} of what has passed.`,
        "The earliest time t with PV(t) ≥ EV; SPI(t) = working time from the start to t ÷ to now.",
      ),
    ),
  );
}
