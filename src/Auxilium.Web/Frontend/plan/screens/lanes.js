// @ts-check
// Lanes: the same tasks as cards in columns. Moving a card is an edit like any other.

/** @import { Store } from "../state/store.js" */
/** @import { Preview } from "../server/preview.js" */
/** @import { Actions } from "../commands/actions.js" */
/** @import { Row } from "../state/types.js" */
import { outsideMark } from "../fields/delivered-by.js";
import { FIELDS, fieldOf } from "../fields/fields.js";
import { ownerOf } from "../fields/owner.js";
import { STATE_WORDS } from "../fields/state.js";
import { rowSentence } from "../list/columns.js";
import { element, textField } from "../card/fields.js";
import { listenToHold } from "../timeline/hold.js";
import { dayOf, lastDayOf, short, span } from "../state/time.js";

const MOST = 120; // cards of a lane that are drawn before one asks for more

/** @typedef {{ key: string, title: string, holds: (row: Row) => boolean, edit: (row: Row) => object | null }} Lane */

/** @param {Store} store @param {Preview} preview @param {Actions} actions @param {HTMLElement} frame @param {(id: string) => void} open */
export function drawLanes(store, preview, actions, frame, open) {
  let by = localStorage.getItem("auxilium-lanes") ?? "progress";
  /** Lanes of which every card is shown. @type {Set<string>} */ const whole = new Set();
  let drawn = "";
  /** The row whose card is held: the lanes stay as they are meanwhile. @type {Row | null} */ let lifted = null;

  const select = /** @type {HTMLSelectElement} */ (element("select", { class: "input", "aria-label": "Lanes by" }));
  select.append(
    new Option("Progress", "progress"),
    new Option("Owner", "owner"),
    new Option("Phase", "phase"),
    ...FIELDS.flatMap(({ key, label, lanes }) => (lanes ? [new Option(label, key)] : [])),
  );
  select.value = by;
  if (select.value !== by) select.value = by = "progress";
  select.addEventListener("change", () => {
    by = select.value;
    localStorage.setItem("auxilium-lanes", by);
    draw();
  });
  const board = element("div", { class: "lanes-board" });
  // A lane added by hand starts empty, and stays once a card is in it.
  /** @type {Set<string>} */ const opened = new Set();
  const fresh = textField(
    "New lane",
    "",
    (label) => {
      if (label !== "") opened.add(label.slice(0, 40));
      const input = /** @type {HTMLInputElement} */ (fresh.querySelector("input"));
      input.value = "";
      delete input.dataset.sent;
      draw();
    },
    { hint: "its name" },
  );
  fresh.classList.add("lanes-new");
  frame.append(element("div", { class: "lanes-head" }, element("label", {}, "Lanes by ", select), fresh), board);
  store.subscribe(draw);
  draw();

  board.addEventListener("click", (event) => {
    const card = rowAt(event.target);
    if (card) open(card.id);
    const more = /** @type {HTMLElement} */ (event.target).closest("[data-more]");
    if (more) {
      whole.add(more.getAttribute("data-more") ?? "");
      draw();
    }
  });
  board.addEventListener("keydown", onKey);
  listenToHold(board, {
    grab(event) {
      const row = rowAt(event.target);
      return row
        ? { row, ghost: /** @type {HTMLElement | null} */ (null), lane: /** @type {string | null} */ (null) }
        : null;
    },
    follow(held, event, by) {
      lifted ??= held.row;
      held.ghost ??= lift(held.row);
      if (held.ghost) held.ghost.style.transform = `translate(${by.x}px, ${by.y}px) rotate(1deg)`;
      const lane = laneAt(event.clientX, event.clientY);
      if ((lane?.key ?? null) === held.lane) return;
      held.lane = lane?.key ?? null;
      for (const section of board.children)
        section.classList.toggle("is-target", section.getAttribute("data-lane") === held.lane);
      preview.ask(lane && !lane.holds(held.row) ? lane.edit(held.row) : null, held.row.id);
    },
    end({ ghost }) {
      lifted = null;
      ghost?.remove();
      for (const marked of board.querySelectorAll(".is-lifted, .is-target"))
        marked.classList.remove("is-lifted", "is-target");
      preview.end();
    },
    drop({ row, lane: key }) {
      const lane = lanes().find((l) => l.key === key);
      if (lane) move(row, lane);
    },
  });

  /** The card goes along with the pointer. @param {Row} row */
  function lift(row) {
    const card = board.querySelector(`[data-row="${row.id}"]`);
    if (!card) return null;
    const box = card.getBoundingClientRect();
    const ghost = /** @type {HTMLElement} */ (card.cloneNode(true));
    ghost.classList.add("lane-ghost");
    Object.assign(ghost.style, { left: `${box.left}px`, top: `${box.top}px`, width: `${box.width}px` });
    ghost.setAttribute("aria-hidden", "true");
    document.body.append(ghost);
    card.classList.add("is-lifted");
    return ghost;
  }

  /** Arrows go from card to card; with Ctrl they take the card along to the next lane. @param {KeyboardEvent} event */
  function onKey(event) {
    const row = rowAt(event.target);
    if (!row) return;
    const step = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    const all = lanes();
    const at = all.findIndex((lane) => lane.holds(row));
    if (step !== 0 && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      const to = all[at + step];
      if (to) move(row, to);
    } else if (step !== 0) {
      event.preventDefault();
      const place = placeIn(row);
      for (let i = at + step; all[i]; i += step) {
        const cards = cardsOf(all[i].key);
        if (cards.length > 0) {
          cards[Math.min(place, cards.length - 1)].focus();
          break;
        }
      }
    } else if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      cardsOf(all[at]?.key ?? "")[placeIn(row) + (event.key === "ArrowDown" ? 1 : -1)]?.focus();
    }
  }

  /** @param {Row} row */
  function placeIn(row) {
    const card = board.querySelector(`[data-row="${row.id}"]`);
    return card
      ? cardsOf(card.closest("[data-lane]")?.getAttribute("data-lane") ?? "").indexOf(/** @type {HTMLElement} */ (card))
      : 0;
  }

  /** @param {string} lane @returns {HTMLElement[]} */
  function cardsOf(lane) {
    return [...board.querySelectorAll(`[data-lane="${CSS.escape(lane)}"] [data-row]`)].map(
      (card) => /** @type {HTMLElement} */ (card),
    );
  }

  /** @param {Row} row @param {Lane} lane */
  function move(row, lane) {
    const edit = lane.holds(row) ? null : lane.edit(row);
    if (edit) actions.send(edit, row.id, { onDone: () => requestAnimationFrame(() => focus(row.id)) });
  }

  /** @param {string} id */
  function focus(id) {
    /** @type {HTMLElement | null} */ (board.querySelector(`[data-row="${id}"]`))?.focus();
  }

  /** @param {EventTarget | null} target */
  function rowAt(target) {
    return store.row(/** @type {Element} */ (target).closest("[data-row]")?.getAttribute("data-row"));
  }

  /** @param {number} x @param {number} y */
  function laneAt(x, y) {
    const key = [...board.children]
      .find((section) => {
        const box = section.getBoundingClientRect();
        return x >= box.left && x <= box.right && y >= box.top && y <= box.bottom;
      })
      ?.getAttribute("data-lane");
    return lanes().find((lane) => lane.key === key);
  }

  /** @returns {Lane[]} */
  function lanes() {
    if (by === "owner") return ownerLanes(store);
    if (by === "phase") return phaseLanes(store);
    return by === "progress" ? PROGRESS : factLanes(store, by, opened);
  }

  function draw() {
    fresh.hidden = by === "phase" || by === "progress" || !fieldOf(by).lanes;
    const rows = store.passing((row) => row.kind !== "phase" && !row.unsaved);
    const columns = lanes().map((lane) => ({ lane, rows: rows.filter(lane.holds) }));
    const now = JSON.stringify([
      by,
      [...opened],
      [...whole],
      columns.map(({ lane, rows: held }) => [lane.key, lane.title, held.map((row) => [row, ownerOf(store, row)])]),
    ]);
    if (now === drawn || lifted) return;
    drawn = now;
    const focused = /** @type {HTMLElement | null} */ (document.activeElement)?.dataset.row;
    board.replaceChildren(...columns.map(({ lane, rows: held }) => column(lane, held)));
    if (focused) focus(focused);
  }

  /** @param {Lane} lane @param {Row[]} rows */
  function column(lane, rows) {
    const all = whole.has(lane.key) ? rows : rows.slice(0, MOST);
    const list = element("ul", {}, ...all.map((row) => element("li", {}, card(row))));
    const rest = rows.length - all.length;
    if (rest > 0)
      list.append(
        element(
          "li",
          {},
          element("button", { type: "button", class: "button", "data-more": lane.key }, `Show ${rest} more`),
        ),
      );
    if (rows.length === 0) list.append(element("li", { class: "hint" }, "Nothing here."));
    const title = element("h2", {}, lane.title, " ", element("span", { class: "mute" }, String(rows.length)));
    return element(
      "section",
      { class: "lane", "data-lane": lane.key, "aria-label": `${lane.title}, ${rows.length}` },
      title,
      list,
    );
  }

  /** @param {Row} row */
  function card(row) {
    const owner = ownerOf(store, row);
    const state = element(
      "span",
      { class: `state state-${row.state ?? "waiting"}` },
      element("span", { class: "state-mark", "aria-hidden": "true" }),
      STATE_WORDS[row.state ?? ""] ?? (row.off ? "No part" : ""),
    );
    const when =
      row.start === null
        ? ""
        : row.kind === "milestone"
          ? short(lastDayOf(row))
          : span(dayOf(row.start), lastDayOf(row));
    const mark = owner
      ? element("span", { class: "initials", "data-hue": String(owner.hue), title: owner.name }, owner.initials)
      : element("span", { class: "owner-none", title: "No owner" }, "?");
    const out = element(
      "button",
      {
        type: "button",
        class: `lane-card${row.critical ? " sets-finish" : ""}`,
        "data-row": row.id,
        "data-kind": row.kind,
        title: rowSentence(store, row),
      },
      element(
        "span",
        { class: "lane-name" },
        element("span", { class: "mute" }, row.no),
        " ",
        row.name,
        ...outsideMark(row),
      ),
      element("span", { class: "lane-facts" }, state, element("span", { class: "mute" }, when), mark),
    );
    return out;
  }
}

/** @type {Lane[]} */
const PROGRESS = [
  {
    key: "todo",
    title: "To do",
    holds: (row) => !row.started && row.state !== "done",
    edit: (row) => ({ type: "reportProgress", task: row.id, progress: 0 }),
  },
  {
    key: "doing",
    title: "Under way",
    holds: (row) => row.started && row.state !== "done",
    edit: (row) => ({ type: "startTask", task: row.id }),
  },
  {
    key: "done",
    title: "Done",
    holds: (row) => row.state === "done",
    edit: (row) => ({ type: "finishTask", task: row.id }),
  },
];

/** @param {Store} store @returns {Lane[]} */
const ownerLanes = (store) => [
  {
    key: "-",
    title: "Nobody",
    holds: (row) => !ownerOf(store, row),
    edit: (row) => ({ type: "setOwner", task: row.id, owner: "" }),
  },
  ...store.people.map((person) => ({
    key: person.id,
    title: person.name,
    holds: (/** @type {Row} */ row) => row.owner === person.id,
    edit: (/** @type {Row} */ row) => ({ type: "setOwner", task: row.id, owner: person.id }),
  })),
];

/**
 * A lane for each value of a field that there is, and for those that were just opened.
 * @param {Store} store
 * @param {string} by
 * @param {Set<string>} opened
 * @returns {Lane[]}
 */
function factLanes(store, by, opened) {
  const { group, edit, lanes } = fieldOf(by);
  const values = ["", ...new Set([...(lanes?.(store) ?? []), ...opened])];
  return values.map((value) => ({
    key: value === "" ? "-" : `${by} ${value}`,
    title: group?.title(value, store) ?? value,
    holds: (/** @type {Row} */ row) => group?.of(row, store) === value,
    edit: (/** @type {Row} */ row) => {
      const made = edit?.(store, row, value);
      return made && "edit" in made ? made.edit : null;
    },
  }));
}

/** A lane for each phase at the top, with all inside it. @param {Store} store @returns {Lane[]} */
function phaseLanes(store) {
  const top = (/** @type {Row} */ row) => {
    let at = row;
    for (let up = store.row(row.parent); up; up = store.row(up.parent)) at = up;
    return at;
  };
  const lanes = store.rows
    .filter((row) => row.kind === "phase" && row.level === 0)
    .map((phase) => ({
      key: phase.id,
      title: `${phase.no} ${phase.name}`,
      holds: (/** @type {Row} */ row) => top(row).id === phase.id,
      edit: (/** @type {Row} */ row) => {
        const children = store.rows.filter((child) => child.parent === phase.id && !child.unsaved);
        return { type: "moveTask", task: row.id, parent: phase.id, after: children.at(-1)?.id ?? null };
      },
    }));
  const alone = {
    key: "-",
    title: "In no phase",
    holds: (/** @type {Row} */ row) => row.level === 0,
    edit: (/** @type {Row} */ row) => ({
      type: "moveTask",
      task: row.id,
      parent: null,
      after: store.rows.findLast((other) => other.level === 0 && other.id !== row.id)?.id ?? null,
    }),
  };
  return [...lanes, alone];
}
