// @ts-check
// What a pointer can do on the timeline. While it is held, the strip says what letting go would do.

/** @import { Store } from "../state/store.js" */
/** @import { Preview } from "../server/preview.js" */
/** @import { Actions } from "../commands/actions.js" */
/** @import { Timeline } from "./timeline.js" */
/** @import { Row, LinkKind } from "../state/types.js" */
import { DAY, dayOf, iso, lastDayOf } from "../state/time.js";
import { draggedWith, movesTo, placeAt } from "../state/place.js";
import { dayAt } from "./scale.js";

const SLIP = 4; // pixels a pointer may move in a click
const EDGE = 6; // pixels at either end of a bar by which it is stretched

/** @typedef {{ x: number, y: number, clientX: number, clientY: number, day: number, pin: boolean, over: Element | null }} Pointer */

/**
 * @typedef {object} Gesture
 * @property {string | null} task whose row is chosen afterwards
 * @property {(at: Pointer) => void} follow
 * @property {() => object | null} edit what letting go does; null for nothing
 * @property {boolean} quiet whether the server is not asked what it would do
 * @property {(() => void) | null} done after the edit
 */

/**
 * @param {Store} store
 * @param {Preview} preview
 * @param {Actions} actions
 * @param {Timeline} timeline
 * @param {(id: string) => void} choose
 * @param {(id: string) => void} name lets a new row be named
 */
export function listenToGestures(store, preview, actions, timeline, choose, name) {
  const { body } = timeline;
  const board = /** @type {HTMLElement} */ (document.getElementById("board"));
  const hint = drawHint(/** @type {HTMLElement} */ (board.parentElement));
  /** @type {{ gesture: Gesture, x: number, y: number, moving: boolean } | null} */ let held = null;

  body.addEventListener("pointerdown", (event) => {
    if (event.button !== 0) return;
    const gesture = grabbed(event);
    if (!gesture) return;
    held = { gesture, x: event.clientX, y: event.clientY, moving: false };
    body.setPointerCapture(event.pointerId);
  });
  body.addEventListener("pointermove", (event) => {
    if (!held) {
      hover(event);
      return;
    }
    if (!held.moving && Math.hypot(event.clientX - held.x, event.clientY - held.y) < SLIP) return;
    held.moving = true;
    body.classList.add("is-dragging");
    held.gesture.follow(pointer(event));
    store.changed();
    if (!held.gesture.quiet) preview.ask(held.gesture.edit(), held.gesture.task);
  });
  body.addEventListener("pointerleave", () => {
    hint.hidden = true;
    light(null);
  });
  body.addEventListener("pointerup", () => {
    if (!held) return;
    const { gesture, moving } = held;
    const edit = moving ? gesture.edit() : null;
    end();
    if (gesture.task) choose(gesture.task);
    if (edit) actions.send(edit, gesture.task, gesture.done ? { onDone: gesture.done } : {});
  });
  body.addEventListener("pointercancel", end);
  document.addEventListener("keydown", (event) => {
    if (event.key !== "Escape" || !held) return;
    event.preventDefault();
    end();
  });

  /** @param {PointerEvent} event @returns {Pointer} */
  function pointer(event) {
    const x = timeline.xOf(event);
    const y = event.clientY - body.getBoundingClientRect().top;
    const over = document.elementFromPoint(event.clientX, event.clientY);
    const { clientX, clientY } = event;
    return { x, y, clientX, clientY, day: dayAt(timeline.scale, x), pin: event.altKey || event.shiftKey, over };
  }

  /** The bar under the pointer shows what it can be grabbed by, and what it is linked to. @param {PointerEvent} event */
  function hover(event) {
    const over = /** @type {Element} */ (event.target);
    const bar = over.closest("[data-bar]") ?? over.closest("[data-knob]");
    light(bar?.getAttribute("data-bar") ?? bar?.getAttribute("data-knob-of") ?? null);
    const row = store.row(bar?.getAttribute("data-bar"));
    const isEmpty = !bar && !over.closest("[data-link], [data-phase]") && event.pointerType !== "touch";
    hint.hidden = !isEmpty || store.isFlat || store.whyNot !== null;
    body.dataset.empty = isEmpty ? (event.shiftKey && !store.isFlat ? "draw" : "pan") : "";
    body.dataset.grip = row && row.kind === "task" ? edgeAt(row, timeline.xOf(event)) : "";
  }

  /** @param {string | null} id */
  function light(id) {
    if (store.lit === id || held) return;
    store.lit = id;
    store.changed();
  }

  /** @param {Row} row @param {number} x @returns {"start" | "finish" | ""} */
  function edgeAt(row, x) {
    const [from, to] = [timeline.scale.x(row.start ?? 0), timeline.scale.x(row.finish)];
    const edge = Math.min(EDGE, (to - from) / 3);
    if (x > to - edge) return "finish";
    return x < from + edge ? "start" : "";
  }

  /** @param {PointerEvent} event @returns {Gesture | null} */
  function grabbed(event) {
    const over = /** @type {Element} */ (event.target);
    const knob = over.closest("[data-knob]");
    const row = store.row(knob?.getAttribute("data-knob-of") ?? over.closest("[data-bar]")?.getAttribute("data-bar"));
    if (over.closest("[data-link]")) return null;
    const phase = store.row(over.closest("[data-phase]")?.getAttribute("data-phase"));
    if (phase && !row) return phase.start === null || phase.unsaved ? null : moving(phase, pointer(event));
    if (!row) {
      if (event.pointerType === "touch") return null;
      return event.shiftKey && !store.isFlat ? creating(pointer(event)) : panning(event);
    }
    if (row.unsaved || row.start === null) return null;
    store.lit = row.id;
    const kind = knob?.getAttribute("data-knob");
    if (kind === "progress") return progressing(row);
    if (kind) return linking(row, kind === "finish", pointer(event));
    const edge = row.kind === "task" ? edgeAt(row, timeline.xOf(event)) : "";
    return edge ? stretching(row, edge) : moving(row, pointer(event));
  }

  /** To another day, or, going up or down, to another place among the rows. @param {Row} row @param {Pointer} from @returns {Gesture} */
  function moving(row, from) {
    let days = 0;
    let pin = false;
    return {
      task: row.id,
      quiet: false,
      done: null,
      follow(at) {
        days = at.day - from.day;
        pin = at.pin;
        const away = Math.abs(at.y - from.y);
        const upright = away > store.rowHeight * 0.8 && away > Math.abs(at.x - from.x) && !store.isFlat;
        store.drop = upright ? placeAt(store, at.y / store.rowHeight) : null;
        if (store.drop) store.ghosts = [];
        else drag(row.id, (row.start ?? 0) + days * DAY, row.finish + days * DAY);
      },
      edit() {
        if (store.drop) return together(movesTo(store, draggedWith(store, row), store.drop));
        if (days === 0) return null;
        return { type: "placeTask", task: row.id, start: iso(dayOf(row.start ?? 0) + days), pin };
      },
    };
  }

  /** @param {Row} row @param {"start" | "finish"} edge @returns {Gesture} */
  function stretching(row, edge) {
    const was = edge === "start" ? dayOf(row.start ?? 0) : lastDayOf(row);
    let day = was;
    return {
      task: row.id,
      quiet: false,
      done: null,
      follow(at) {
        const [first, last] = [dayOf(row.start ?? 0), lastDayOf(row)];
        day = edge === "start" ? Math.min(at.day, last) : Math.max(at.day, first);
        const { dayStart, dayEnd } = store.project;
        if (edge === "start") drag(row.id, day * DAY + dayStart, row.finish);
        else drag(row.id, row.start ?? 0, day * DAY + dayEnd);
      },
      edit() {
        if (day === was) return null;
        return edge === "start"
          ? { type: "stretchTask", task: row.id, start: iso(day) }
          : { type: "setFinish", task: row.id, finish: iso(day) };
      },
    };
  }

  /** In steps of five percent. @param {Row} row @returns {Gesture} */
  function progressing(row) {
    const [from, to] = [timeline.scale.x(row.start ?? 0), timeline.scale.x(row.finish)];
    let percent = row.progress;
    return {
      task: row.id,
      quiet: true,
      done: null,
      follow(at) {
        percent = Math.round(Math.max(0, Math.min(1, (at.x - from) / Math.max(1, to - from))) * 20) * 5;
        const until = (row.start ?? 0) + ((row.finish - (row.start ?? 0)) * percent) / 100;
        drag(row.id, row.start ?? 0, until);
        store.notice = { tone: "preview", text: `Letting go: ${row.name} is ${percent}% done.` };
      },
      edit: () => (percent === row.progress ? null : { type: "reportProgress", task: row.id, progress: percent / 100 }),
    };
  }

  /**
   * From either end of a bar to either end of another: the ends say which kind of link it is.
   * @param {Row} row
   * @param {boolean} fromFinish
   * @param {Pointer} from
   * @returns {Gesture}
   */
  function linking(row, fromFinish, from) {
    /** @type {{ to: Row, toFinish: boolean } | null} */ let target = null;
    return {
      task: row.id,
      quiet: false,
      done: null,
      follow(at) {
        const to = store.row(at.over?.closest("[data-bar]")?.getAttribute("data-bar"));
        const middle = to && to.start !== null ? (timeline.scale.x(to.start) + timeline.scale.x(to.finish)) / 2 : 0;
        target = to && to.id !== row.id && !to.unsaved ? { to, toFinish: to.kind === "task" && at.x > middle } : null;
        store.thread = { x1: from.x, y1: from.y, x2: at.x, y2: at.y, lands: target !== null };
      },
      edit() {
        if (!target) return null;
        /** @type {LinkKind} */
        const kind = target.toFinish
          ? fromFinish
            ? "finishToFinish"
            : "startToFinish"
          : fromFinish
            ? "finishToStart"
            : "startToStart";
        return { type: "linkTasks", from: row.id, to: target.to.id, kind };
      },
    };
  }

  /** Empty space is taken along. @param {PointerEvent} from @returns {Gesture} */
  function panning(from) {
    const [left, top] = [board.scrollLeft, board.scrollTop];
    return {
      task: null,
      quiet: true,
      done: null,
      follow: ({ clientX, clientY }) => board.scrollTo(left - (clientX - from.clientX), top - (clientY - from.clientY)),
      edit: () => null,
    };
  }

  /** A new task, drawn where there is none yet: after the row it is drawn on. @param {Pointer} from @returns {Gesture} */
  function creating(from) {
    const at = Math.floor(from.y / store.rowHeight);
    const row = store.shown[Math.min(at, store.shown.length - 1)];
    const inside = row?.kind === "phase" && !store.view.folded.includes(row.id);
    const id = "t" + crypto.randomUUID().replaceAll("-", "").slice(0, 16);
    let [first, last] = [from.day, from.day];
    let drawn = false;
    return {
      task: null,
      quiet: false,
      done: () => name(id),
      follow(to) {
        drawn = Math.abs(to.x - from.x) > 8 && !(row?.unsaved ?? false);
        [first, last] = [Math.min(from.day, to.day), Math.max(from.day, to.day)];
        const { dayStart, dayEnd } = store.project;
        store.ghosts = drawn
          ? [
              {
                id: "",
                line: Math.min(at, store.shown.length),
                start: first * DAY + dayStart,
                finish: last * DAY + dayEnd,
                dragged: true,
              },
            ]
          : [];
      },
      edit: () =>
        drawn
          ? together([
              {
                type: "addTask",
                id,
                name: "New task",
                parent: row ? (inside ? row.id : row.parent) : null,
                after: row && !inside ? row.id : null,
              },
              { type: "placeTask", task: id, start: iso(first) },
              { type: "setFinish", task: id, finish: iso(last) },
            ])
          : null,
    };
  }

  /** @param {string} id @param {number} start @param {number} finish */
  function drag(id, start, finish) {
    store.ghosts = [...store.ghosts.filter((ghost) => !ghost.dragged), { id, start, finish, dragged: true }];
  }

  function end() {
    held = null;
    body.classList.remove("is-dragging");
    store.thread = null;
    store.drop = null;
    preview.end();
  }
}

/** Says what can be done where there is nothing. @param {HTMLElement} stage */
function drawHint(stage) {
  const hint = document.createElement("p");
  hint.className = "draw-hint";
  hint.textContent = "Drag to look around · Shift + drag to draw a task";
  hint.setAttribute("aria-hidden", "true");
  hint.hidden = true;
  stage.append(hint);
  return hint;
}

/** @param {object[]} edits */
const together = (edits) => (edits.length === 0 ? null : edits.length === 1 ? edits[0] : { type: "together", edits });
