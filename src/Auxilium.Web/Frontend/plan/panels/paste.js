// @ts-check
// Pasting a list, or choosing a file with one: how it was understood, before anything is made of it.

/** @import { Store } from "../state/store.js" */
/** @import { Outbox } from "../server/outbox.js" */
/** @import { Actions } from "../commands/actions.js" */
import { element } from "../card/fields.js";
import { FIELDS } from "../fields/fields.js";
import { changesOf, goneList, stateCell, toDo, wayChoice } from "./paste-compare.js";

/**
 * @typedef {object} Reading
 * @property {{ kind: string, heading: string, sample: string }[]} columns
 * @property {{ line: number, level: number, number: string, name: string, isPhase: boolean, cells: Record<string, string>, problems: {
 * column: string | null, message: string }[], state: "new" | "changed" | "same" | null,
 * changes: { column: string | null, before: string, after: string }[] }[]} rows
 * @property {string | null} dateOrder
 * @property {boolean} askDateOrder
 * @property {string[]} newPeople
 * @property {string | null} problem
 * @property {object | null} edit
 * @property {boolean} isLong whether it can be added, but is too long to be sent as an edit
 * @property {number} matches how many of its rows are in the plan already
 * @property {boolean} isLikelyAgain whether most of them are
 * @property {{ task: string, name: string, phase: string, inside: number }[]} gone
 */

/**
 * A file as the server read it.
 * @typedef {{ kind: string, sheets: string[], sheet: number, headRow: number, text: string, list: Reading }} FileRead
 */

const MOST_CHARACTERS = 5_000_000;
/** A longer text is sent as a file. */
const LONG = 300_000;
const LONG_PASTE = 10_000;
const MOST_ROWS = 300;

/** @type {[string, string][]} */
const KINDS = [
  ["ignored", "Leave out"],
  ["name", "Task"],
  ["number", "Number"],
  ["length", "Length"],
  ["start", "Start"],
  ["finish", "Finish"],
  ["deadline", "Deadline"],
  ["owner", "Owner"],
  ["after", "After"],
  ["progress", "Progress"],
  ["note", "Note"],
  ...FIELDS.flatMap(({ key, label, fact }) => (fact ? [/** @type {[string, string]} */ ([key, label])] : [])),
];

/**
 * @param {Store} store @param {Outbox} outbox @param {Actions} actions @param {(task: string) => void} show
 * @param {(command: string) => void} run
 */
export function makePaste(store, outbox, actions, show, run) {
  const dialog = /** @type {HTMLDialogElement} */ (document.getElementById("paste"));
  const text = /** @type {HTMLTextAreaElement} */ (document.getElementById("paste-text"));
  const preview = /** @type {HTMLElement} */ (document.getElementById("paste-preview"));
  const say = /** @type {HTMLElement} */ (document.getElementById("paste-say"));
  const add = /** @type {HTMLButtonElement} */ (document.getElementById("paste-add"));
  const chooser = /** @type {HTMLInputElement} */ (document.getElementById("paste-file"));
  const parts = /** @type {HTMLElement} */ (document.getElementById("paste-parts"));
  /** The file that the list is from. @type {File | null} */ let file = null;
  /** What of it is read. @type {{ sheet?: number, headRow?: number }} */ let part = {};
  /** @type {{ parent: string | null, after: string | null }} */ let place = { parent: null, after: null };
  let how = asFound();
  /** @type {Reading | null} */ let reading = null;
  /** @type {((edit: any) => void) | undefined} */ let added;
  let asked = 0;
  /** A question is under way. */
  let asking = false;

  chooser.addEventListener("change", () => {
    const chosen = chooser.files?.[0];
    if (chosen) bring(chosen);
  });
  text.addEventListener("input", takeText);
  // As the browser does it, thousands of lines take it half a minute.
  text.addEventListener("paste", (event) => {
    const pasted = event.clipboardData?.getData("text/plain") ?? "";
    if (pasted.length < LONG_PASTE) return;
    event.preventDefault();
    text.setRangeText(pasted, text.selectionStart, text.selectionEnd, "end");
    takeText();
  });
  document.getElementById("paste-prices")?.addEventListener("click", () => {
    dialog.close();
    run("priceList");
  });
  add.addEventListener("click", () => {
    if (reading?.isLong) void addAll();
    if (!reading?.edit) return;
    const { id, task } = /** @type {{ edits?: { id?: string, task?: string }[] }} */ (reading.edit).edits?.[0] ?? {};
    const first = id ?? task;
    const [edit, tellAdded] = [reading.edit, added];
    dialog.close();
    actions.send(edit, null, {
      onDone() {
        if (first) show(first);
        tellAdded?.(edit);
      },
    });
  });
  dialog.addEventListener("keydown", (event) => event.stopPropagation());

  return open;

  /** @param {string} [list] @param {File} [dropped] @param {(edit: any) => void} [whenAdded] gets the edit that added it */
  function open(list = "", dropped, whenAdded) {
    added = whenAdded;
    place = placeNow();
    how = asFound();
    text.value = list;
    forget();
    dialog.showModal();
    if (dropped) bring(dropped);
    else void read();
    if (list === "" && !dropped) text.focus();
    else add.focus();
  }

  function takeText() {
    how = asFound();
    forget();
    void read();
  }

  function forget() {
    file = null;
    part = {};
    chooser.value = "";
    parts.replaceChildren();
  }

  /** Takes the list of a file. @param {File} chosen @param {{ sheet?: number, headRow?: number }} [of] */
  function bring(chosen, of = {}) {
    file = chosen;
    part = of;
    how = asFound();
    draw(null, "");
    say.textContent = `Reading ${chosen.name} …`;
    void read();
  }

  /** What is read: a file as it is; a text as one where it is too long for anything else. */
  function source() {
    return (
      file ?? (text.value.length > LONG ? new File([text.value], "Pasted list.txt", { type: "text/plain" }) : null)
    );
  }

  /** Adds what is too long for one edit of the page: the server makes it of the file. */
  async function addAll() {
    const from = source() ?? new File([text.value], "Pasted list.txt", { type: "text/plain" });
    add.disabled = true;
    say.textContent = `Adding ${count(reading?.rows.length ?? 0, "row", "rows")} …`;
    const answer = await outbox.readFile(from, { ...asFields(), commit: true });
    if (!dialog.open) return;
    if ("message" in answer) draw(reading, answer.message);
    else dialog.close();
  }

  /** What a person has said, as fields of a form. */
  function asFields() {
    return {
      ...place,
      ...part,
      columns: how.columns?.join(","),
      dateOrder: how.dateOrder,
      makePeople: how.makePeople,
      levels: Object.keys(how.levels).length > 0 ? JSON.stringify(how.levels) : null,
      again: how.again === true,
      leave: how.leave.join(","),
      remove: how.remove.join(","),
    };
  }

  /** What of the file is read: which sheet, and from which row on. @param {FileRead} read */
  function drawParts({ kind, sheets, sheet, headRow }) {
    const again = (/** @type {{ sheet?: number, headRow?: number }} */ of) => file && bring(file, of);
    const asks = [];
    if (sheets.length > 1) {
      const choice = element(
        "select",
        { class: "input" },
        ...sheets.map((name, i) => element("option", { value: String(i) }, name)),
      );
      const list = /** @type {HTMLSelectElement} */ (choice);
      list.value = String(sheet);
      list.addEventListener("change", () => again({ sheet: Number(list.value) }));
      asks.push(element("label", { class: "paste-ask" }, "Sheet: ", list));
    }
    if (kind === "spreadsheet" || kind === "table") {
      const row = /** @type {HTMLInputElement} */ (
        element("input", { class: "input paste-row", type: "text", inputmode: "numeric", value: String(headRow) })
      );
      row.addEventListener("change", () => {
        const from = Number(row.value);
        if (Number.isInteger(from) && from > 0) again({ sheet, headRow: from });
        else row.value = String(headRow);
      });
      asks.push(element("label", { class: "paste-ask" }, "The headings are in row ", row));
    }
    parts.replaceChildren(...asks);
  }

  /** After the current row with all inside it; otherwise at the end. */
  function placeNow() {
    const row = store.row(store.current?.id);
    if (row && !row.unsaved) return { parent: row.parent, after: row.id };
    const top = store.rows.findLast((r) => r.level === 0 && !r.unsaved);
    return { parent: null, after: top?.id ?? null };
  }

  /** Reads what is there now: one question at a time, and the newest next, however fast somebody types. */
  async function read() {
    asked++;
    if (asking) return;
    asking = true;
    for (let of = 0; of !== asked;) {
      of = asked;
      const from = source();
      const why = file ? null : whyUnread();
      const answer =
        why !== null
          ? { message: why }
          : from
            ? await outbox.readFile(from, asFields())
            : await outbox.readList({ text: text.value, ...place, ...how, again: how.again === true });
      if (of !== asked) continue;
      if ("message" in answer) draw(null, answer.message);
      else if ("list" in answer) {
        if (file) text.value = answer.text;
        if (file) drawParts(answer);
        took(answer.list);
      } else took(answer);
    }
    asking = false;
  }

  /** A list that is in the plan already is compared with it, unless somebody says otherwise. @param {Reading} now */
  function took(now) {
    draw(now, "");
    if (!now.isLikelyAgain || how.again !== null) return;
    how.again = true;
    asked++;
  }

  /** Why there is nothing to ask; null where there is. */
  function whyUnread() {
    if (text.value.trim() === "") return "";
    if (text.value.length <= MOST_CHARACTERS) return null;
    return (
      `This is ${Math.round(text.value.length / 1000).toLocaleString("en")} thousand characters long: ` +
      "a list has at most 5,000 thousand. Paste only the part with the tasks."
    );
  }

  /** @param {Reading | null} now @param {string} problem */
  function draw(now, problem) {
    reading = now;
    const troubled = now?.rows.filter((row) => row.problems.length > 0).length ?? 0;
    const order = now?.askDateOrder === true && how.dateOrder === null;
    say.className = problem || now?.problem ? "problem" : "hint";
    say.textContent = problem || now?.problem || (now ? summary(now, troubled, order) : "");
    add.disabled = !(now?.edit || now?.isLong) || order;
    add.textContent =
      now && how.again === true
        ? toDo(now, how)
        : now?.edit || now?.isLong
          ? `Add ${count(now.rows.length, "row", "rows")}`
          : "Add rows";
    // A list of choices that has the focus is left alone.
    const focused = /** @type {HTMLElement | null} */ (document.activeElement)?.dataset.choice;
    preview.replaceChildren(
      ...(now ? [...questions(now, order), table(now), ...goneList(now, how, () => void read())] : []),
    );
    if (focused) /** @type {HTMLElement | null} */ (preview.querySelector(`[data-choice="${focused}"]`))?.focus();
  }

  /** @param {Reading} now @param {number} troubled @param {boolean} order */
  function summary(now, troubled, order) {
    const phases = now.rows.filter((row) => row.isPhase).length;
    const parts = [count(now.rows.length, "row", "rows")];
    if (phases > 0) parts.push(`${count(phases, "of them a phase", "of them phases")}`);
    const unread =
      troubled > 0 ? ` In ${count(troubled, "row", "rows")} something could not be read: it is said there.` : "";
    const what = how.again === true ? "changes" : "is added";
    const until = order ? "Say how the dates are meant first." : `Nothing ${what} until you say so.`;
    return `${parts.join(", ")}. ${until}${unread}`;
  }

  /** @param {Reading} now @param {boolean} order */
  function questions(now, order) {
    const asks = wayChoice(now, how, () => void read());
    if (now.askDateOrder || how.dateOrder !== null) {
      const choice = select(
        "order",
        [
          ["", "Choose…"],
          ["dayFirst", "The day first: 5/6 is 5 June"],
          ["monthFirst", "The month first: 5/6 is 6 May"],
        ],
        how.dateOrder ?? "",
        (value) => (how.dateOrder = value || null),
      );
      const label = element("label", { class: "paste-ask" }, "Dates such as 5/6: ", choice);
      if (order) label.classList.add("is-open");
      asks.push(label);
    }
    if (now.newPeople.length > 0) {
      const box = /** @type {HTMLInputElement} */ (element("input", { type: "checkbox", "data-choice": "people" }));
      box.checked = how.makePeople;
      box.addEventListener("change", () => {
        how.makePeople = box.checked;
        void read();
      });
      asks.push(element("label", { class: "paste-ask" }, box, ` New on this plan: ${names(now.newPeople)}`));
    }
    return asks;
  }

  /** @param {Reading} now */
  function table(now) {
    const kinds = now.columns.map((column) => column.kind);
    const head = element("tr", {}, element("th", { scope: "col" }, "Line"));
    if (how.again === true) head.append(element("th", { scope: "col" }, "In the plan"));
    now.columns.forEach((column, i) => {
      // What is known of nothing becomes a field of the project, if somebody wants it to.
      const fresh = `new:${i}`;
      const kindsHere =
        column.heading === ""
          ? KINDS
          : [...KINDS, /** @type {[string, string]} */ ([fresh, `New field “${column.heading}”`])];
      const choice = select(`column-${i}`, kindsHere, column.kind, (value) => {
        how.columns = kinds.map((kind, k) =>
          k === i ? value : kind === value && value !== "ignored" ? "ignored" : kind,
        );
      });
      choice.setAttribute("aria-label", `Column ${i + 1}${column.heading ? `, “${column.heading}”` : ""}, is read as`);
      const words = element("span", { class: "mute" }, column.heading || `“${column.sample.slice(0, 18)}”`);
      head.append(element("th", { scope: "col" }, choice, words));
    });
    // Of a long list, the first rows and all in which something is wrong; beside the plan, what is other.
    const isTold = (/** @type {Reading["rows"][number]} */ row, /** @type {number} */ i) =>
      row.problems.length > 0 || (row.state === null ? i < MOST_ROWS : row.state !== "same");
    const rows = now.rows
      .map((row, i) => ({ row, above: i === 0 ? -1 : now.rows[i - 1].level }))
      .filter(({ row }, i) => isTold(row, i))
      .slice(0, 2 * MOST_ROWS)
      .map(({ row, above }) => line(row, above, kinds));
    const more = now.rows.length - rows.length;
    return element(
      "div",
      { class: "paste-table", tabindex: "0", role: "region", "aria-label": "How the list was read" },
      element("table", {}, element("thead", {}, head), element("tbody", {}, ...rows)),
      ...(more > 0
        ? [
            element(
              "p",
              { class: "hint" },
              how.again === true ? asItIs(more) : `And ${count(more, "row", "rows")} more.`,
            ),
          ]
        : []),
    );
  }

  /** @param {number} rows */
  function asItIs(rows) {
    return rows === 1
      ? "One row is as it is in the plan."
      : `${rows.toLocaleString("en")} rows are as they are in the plan.`;
  }

  /** What stands above a column of a field. @param {string} kind */
  function headingOf(kind) {
    return reading?.columns.find((column) => column.kind === kind)?.heading ?? "Field";
  }

  /**
   * Puts a row a level out or in.
   * @param {Reading["rows"][number]} row
   * @param {-1 | 1} by
   * @param {number} above the level of the row before
   */
  function leveller(row, by, above) {
    const words = by < 0 ? "out" : "in";
    const button = /** @type {HTMLButtonElement} */ (
      element(
        "button",
        {
          type: "button",
          class: "button button-quiet paste-level",
          "data-choice": `${words}-${row.line}`,
          "aria-label": `Move ${row.name} one level ${words}`,
        },
        by < 0 ? "‹" : "›",
      )
    );
    button.disabled = row.level + by < 0 || row.level + by > above + 1;
    button.addEventListener("click", () => {
      how.levels[row.line] = row.level + by;
      void read();
    });
    return button;
  }

  /** @param {Reading["rows"][number]} row @param {number} above the level of the row before @param {string[]} kinds */
  function line(row, above, kinds) {
    const cells = kinds.map((kind) => {
      const problem = row.problems
        .filter((p) => p.column === kind)
        .map((p) => p.message)
        .join(" ");
      const words = kind === "name" ? row.name : kind === "number" ? row.number : (row.cells[kind] ?? "");
      const cell = element("td", { class: `paste-${kind}` }, words);
      if (kind === "name") {
        cell.style.paddingLeft = `${8 + row.level * 16}px`;
        cell.prepend(leveller(row, -1, above), leveller(row, 1, above));
        cell.append(...changesOf(row, (of) => KINDS.find(([key]) => key === of)?.[1] ?? headingOf(of)));
      }
      if (problem) cell.append(element("span", { class: "problem" }, problem));
      return cell;
    });
    const whole = row.problems
      .filter((p) => p.column === null)
      .map((p) => p.message)
      .join(" ");
    const number = element("td", { class: "mute" }, String(row.line));
    // Beside the name, where there is room for a sentence.
    if (whole) (cells[kinds.indexOf("name")] ?? number).append(element("span", { class: "problem" }, whole));
    const state = row.state ? [stateCell(row, how, () => void read())] : [];
    const out = element("tr", {}, number, ...state, ...cells);
    if (row.isPhase) out.classList.add("is-phase");
    return out;
  }

  /** @param {string} name @param {[string, string][]} options @param {string} value @param {(value: string) => void} take */
  function select(name, options, value, take) {
    const choice = /** @type {HTMLSelectElement} */ (element("select", { class: "input", "data-choice": name }));
    for (const [option, words] of options) choice.append(new Option(words, option));
    choice.value = value;
    choice.addEventListener("change", () => {
      take(choice.value);
      void read();
    });
    return choice;
  }
}

/**
 * What somebody has said of the list: nothing yet.
 * @returns {{ columns: string[] | null, dateOrder: string | null, makePeople: boolean, levels: Record<number, number>,
 * again: boolean | null, leave: number[], remove: string[] }}
 */
const asFound = () => ({
  columns: null,
  dateOrder: null,
  makePeople: true,
  levels: {},
  again: null,
  leave: [],
  remove: [],
});

/** @param {number} n @param {string} one @param {string} many */
const count = (n, one, many) => `${n.toLocaleString("en")} ${n === 1 ? one : many}`;

/** @param {string[]} people */
const names = (people) =>
  people.length <= 6 ? people.join(", ") : `${people.slice(0, 5).join(", ")} and ${people.length - 5} more`;
