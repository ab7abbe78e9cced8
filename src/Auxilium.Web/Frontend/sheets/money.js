// @ts-check
// Money: what the project may cost, costs, has cost, and where that ends; every figure with what it means and how it is worked out.

/** @import { Curve, Group, Money, MoneyRow } from "../money/server.js" */
/** @import { Currency } from "../money/text.js" */
import { choiceField, element, keepTyped, quietButton } from "../plan/card/fields.js";
import { amountField } from "../money/fields.js";
import { bars, curve } from "../money/charts.js";
import { earnedFigures, lead, mainFigures } from "../money/figures.js";
import { makeReceipts } from "../money/receipts.js";
import { MoneyServer } from "../money/server.js";
import { say } from "../money/text.js";
import { momentInWords } from "../shared/moments.js";
import { dayFrom, monthName, short } from "../plan/state/time.js";

const main = /** @type {HTMLElement} */ (document.getElementById("main"));
const content = /** @type {HTMLElement} */ (document.getElementById("content"));
const server = new MoneyServer(main.dataset.project ?? "", main.dataset.token ?? "");
const mayEdit = main.dataset.rights === "edit";
const state = { by: "category", all: false };
/** Takes back what was told last. @type {() => Promise<string>} */ let undo = () => server.takeBack();
const receipts = makeReceipts(server, mayEdit, `/projects/${main.dataset.project}`, strip);
/** @type {Money} */ let money;
/** @type {Curve | null} */ let line = null;

content.removeAttribute("aria-live");
await load();
document.getElementById("undo")?.addEventListener("click", () => void takeBack(undo));
// What others changed while this page was not looked at.
document.addEventListener("visibilitychange", () => {
  if (!document.hidden) load().catch(() => {});
});
document.documentElement.dataset.ready = "true";
line = await server.ask("/money/curve");
draw();
main.dataset.whole = "true";

async function load() {
  money = await server.ask("/money");
  draw();
  await receipts.load(money);
}

/** @param {object} edit @param {(problem: string) => void} tell */
async function change(edit, tell) {
  try {
    strip(await server.change(edit), () => server.takeBack());
    tell("");
    await load();
  } catch (error) {
    tell(/** @type {Error} */ (error).message);
  }
}

/** @param {() => Promise<string>} how @param {(() => Promise<string>) | null} [again] takes that back */
async function takeBack(how, again = null) {
  try {
    strip(await how(), again);
    await load();
  } catch (error) {
    strip(/** @type {Error} */ (error).message, null);
  }
}

/** @param {string} text @param {(() => Promise<string>) | null} takesBack */
function strip(text, takesBack) {
  const strip = /** @type {HTMLElement} */ (document.getElementById("strip"));
  strip.hidden = false;
  const said = document.getElementById("strip-text");
  if (said) said.textContent = text;
  const button = document.getElementById("undo");
  if (button) button.hidden = takesBack === null;
  if (takesBack) undo = takesBack;
}

function draw() {
  keepTyped(content, () =>
    content.replaceChildren(
      element("p", { class: "lead" }, lead(money)),
      budgetBar(money),
      mainFigures(money),
      ...settings(),
      ...curveParts(),
      section("By row", rowsTable()),
      section("By category, person or supplier", byParts()),
      section("By month", bars(money.months.map(monthBar), { of: "Month", amount: "Planned" }, money)),
      section("To be paid", toBePaid()),
      section("Payments", receipts.host),
      lists(),
      ...(money.changes.length > 0 ? [section("Changes", changes())] : []),
    ),
  );
}

/** @param {string} title @param {...HTMLElement} inside */
function section(title, ...inside) {
  return element("section", { class: "money-section" }, element("h2", {}, title), ...inside);
}

/** Budget, spent, left and free as one hold. @param {Money} of */
function budgetBar({ project }) {
  const { budget, spent, left, expected, free } = project;
  const whole = Math.max(budget ?? 0, expected);
  const bar = element("div", { class: `money-hold${(free ?? 0) < 0 ? " is-over" : ""}`, "aria-hidden": "true" });
  if (whole <= 0) {
    bar.hidden = true;
    return bar;
  }
  for (const [name, amount] of /** @type {[string, number][]} */ ([
    ["is-spent", spent],
    ["is-left", left],
  ])) {
    const part = element("span", { class: name });
    part.style.width = `${(100 * Math.max(0, amount)) / whole}%`;
    bar.append(part);
  }
  if (budget !== null) {
    const mark = element("i", {});
    mark.style.left = `${(100 * budget) / whole}%`;
    bar.append(mark);
  }
  return bar;
}

function settings() {
  const { volunteered, project } = money;
  const fields = mayEdit
    ? [
        amountField(
          "Budget of the project",
          project.budget,
          money,
          (amount, tell) => void change({ type: "setBudget", task: null, amount }, tell),
        ),
        choiceField(
          "What is spent goes by",
          [
            ["", `What is known (${project.actuals === "entered" ? "hours and payments" : "progress"})`],
            ["entered", "Hours and payments"],
            ["progress", "Progress"],
          ],
          money.actualsSet ?? "",
          (by, tell) => void change({ type: "setActuals", by: by === "" ? null : by }, tell),
        ),
      ]
    : [];
  const done =
    volunteered.plannedHours > 0 || volunteered.workedHours > 0
      ? [
          element(
            "p",
            { class: "mute" },
            `Volunteers: ${hours(volunteered.workedHours)} of ${hours(volunteered.plannedHours)} done` +
              (volunteered.hourWorth === null
                ? ". They cost nothing."
                : `, worth ${say(volunteered.workedHours * volunteered.hourWorth, money)} of ` +
                  `${say(volunteered.plannedHours * volunteered.hourWorth, money)}. That is no part of the cost.`),
          ),
        ]
      : [];
  return [...(fields.length > 0 ? [element("div", { class: "money-settings" }, ...fields)] : []), ...done];
}

/** Where items of costs come in and go out. */
function lists() {
  const project = main.dataset.project ?? "";
  const link = (/** @type {string} */ href, /** @type {string} */ name) =>
    element("a", { class: "button", href }, name);
  return element(
    "div",
    { class: "actions" },
    ...(mayEdit ? [link(`/projects/${project}/money/import`, "Import costs…")] : []),
    link(`/api/v1/projects/${project}/costs?format=xlsx`, "Download costs as XLSX"),
    link(`/api/v1/projects/${project}/costs?format=csv`, "Download as CSV"),
  );
}

/** @param {number} much */
function hours(much) {
  return `${much.toLocaleString("en", { maximumFractionDigits: 1 })} h`;
}

function curveParts() {
  if (!line) return [section("In the course of time", element("p", { class: "mute" }, "Working out the curve…"))];
  if (line.baseline === null || line.points.length === 0)
    return [
      section(
        "In the course of time",
        element(
          "p",
          { class: "mute" },
          "Take a baseline of the plan, and this shows week by week what was to be done, what is done, and what it cost.",
        ),
      ),
    ];
  const table = element(
    "table",
    { class: "plain" },
    headOf(["Up to", "To be done", "Done", "Spent"]),
    element(
      "tbody",
      {},
      ...line.points.map(({ day, pv, ev, ac }) =>
        rowOf(
          short(dayFrom(day)),
          [pv, ev, ac].map((amount) => (amount === null ? "" : say(amount, money))),
        ),
      ),
    ),
  );
  return [
    section(
      "In the course of time",
      curve(line.points, money.asOf, money, money.project.budget),
      element("p", { class: "mute" }, `Measured by the baseline “${line.baseline}”.`),
      element("details", { class: "money-more" }, element("summary", {}, "The numbers"), wide("Curve", table)),
      earnedFigures(money),
    ),
  ];
}

/** @param {(string | undefined)[]} heads */
function headOf(heads) {
  return element("thead", {}, element("tr", {}, ...heads.map((head) => element("th", { scope: "col" }, head ?? ""))));
}

/** @param {string} name @param {string[]} cells */
function rowOf(name, cells) {
  return element(
    "tr",
    {},
    element("th", { scope: "row" }, name),
    ...cells.map((cell) => element("td", { class: "number" }, cell)),
  );
}

/** @param {string} label @param {HTMLElement} table */
function wide(label, table) {
  return element("div", { class: "wide", tabindex: "0", role: "region", "aria-label": label }, table);
}

function rowsTable() {
  const known = money.rows.filter((row) => state.all || hasMoney(row));
  const body = element("tbody");
  for (const row of known) {
    const { money: of, free } = row;
    const name = element(
      "th",
      { scope: "row" },
      element("a", { href: `/projects/${main.dataset.project}#${row.id}` }, `${row.outline} ${row.name}`),
    );
    name.style.paddingLeft = `${row.level * 18}px`;
    const tr = element(
      "tr",
      { class: row.phase ? "is-phase" : "" },
      name,
      element("td", { class: "number" }, mayEdit ? budgetCell(row) : of.budget === null ? "" : say(of.budget, money)),
      ...[of.planned, of.spent, of.left, row.expected].map((amount) =>
        element("td", { class: "number" }, say(amount, money)),
      ),
      element("td", { class: `number${(free ?? 0) < 0 ? " is-over" : ""}` }, freeSaid(free)),
    );
    body.append(tr);
  }
  if (money.gone !== 0)
    body.append(rowOf("Rows that are gone", ["", "", say(money.gone, money), "", say(money.gone, money), ""]));
  const more = quietButton(state.all ? "Only rows with money" : "All rows", () => {
    state.all = !state.all;
    draw();
  });
  return element(
    "div",
    {},
    wide(
      "Money by row",
      element(
        "table",
        { class: "plain money-rows" },
        headOf(["Row", "Budget", "Planned", "Spent", "Left", "Expected", "Free"]),
        body,
      ),
    ),
    element("div", { class: "actions" }, more),
    element("p", { class: "mute" }, "Items, prices and payments are typed under Costs on the card of each task."),
  );
}

/** @param {MoneyRow} row */
function hasMoney({ money: of }) {
  return of.planned !== 0 || of.spent !== 0 || of.budget !== null;
}

/** @param {number | null} free */
function freeSaid(free) {
  return free === null ? "" : free < 0 ? `over by ${say(-free, money)}` : say(free, money);
}

/** @param {MoneyRow} row */
function budgetCell(row) {
  const field = amountField(
    `Budget of ${row.name}`,
    row.money.budget,
    money,
    (amount, tell) => void change({ type: "setBudget", task: row.id, amount }, tell),
  );
  field.classList.add("is-bare");
  return field;
}

function byParts() {
  const ways = /** @type {[string, string, Group[]][]} */ ([
    ["category", "Category", money.categories],
    ["person", "Person", money.people],
    ["supplier", "Supplier", money.suppliers],
  ]);
  const [, head, groups] = ways.find(([key]) => key === state.by) ?? /** @type {[string, string, Group[]]} */ (ways[0]);
  const buttons = element("div", { class: "money-by", role: "group", "aria-label": "By" });
  for (const [key, words] of ways) {
    const button = quietButton(words, () => {
      state.by = key;
      draw();
      /** @type {HTMLElement | null} */ (content.querySelector(`[data-by="${key}"]`))?.focus();
    });
    button.dataset.by = key;
    button.setAttribute("aria-pressed", String(key === state.by));
    buttons.append(button);
  }
  const none = { category: "Without a category", person: "What is bought", supplier: "Without a supplier" }[state.by];
  return element(
    "div",
    {},
    buttons,
    groups.length === 0
      ? element("p", { class: "mute" }, "Nothing costs anything yet.")
      : bars(
          groups.map(({ name, spent, left }) => ({
            name: name || (none ?? ""),
            amount: spent + left,
            done: spent,
          })),
          { of: head, amount: "Expected", done: "Of that spent" },
          money,
        ),
  );
}

/** @param {{ from: string, amount: number }} of */
function monthBar({ from, amount }) {
  return { name: monthName(dayFrom(from)), amount };
}

function toBePaid() {
  if (money.toBePaid.length === 0) return element("p", { class: "mute" }, "Nothing is left to be paid for items.");
  let sum = 0;
  return bars(
    money.toBePaid.map(({ from, amount }) => {
      sum += amount;
      return { name: `Week of ${short(dayFrom(from))}`, amount, note: say(sum, money) };
    }),
    { of: "Week", amount: "To be paid", note: "Altogether" },
    money,
  );
}

function changes() {
  const list = element("ul", { class: "rows" });
  for (const { at, person, sentence } of money.changes)
    list.append(
      element(
        "li",
        {},
        element("span", {}, sentence),
        element("span", { class: "mute" }, `${person}, ${momentInWords(at)}`),
      ),
    );
  const actions = element("div", { class: "actions" });
  if (money.canUndo) actions.append(quietButton("Undo my last change", () => void takeBack(() => server.takeBack())));
  if (money.canRedo)
    actions.append(
      quietButton(
        "Redo",
        () =>
          void takeBack(
            () => server.takeBack(true),
            () => server.takeBack(),
          ),
      ),
    );
  return element("div", {}, list, actions);
}
