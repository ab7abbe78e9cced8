// @ts-check
// Starts the Plan screen: puts its parts together and draws whenever the plan changed.

import { Actions } from "./commands/actions.js";
import { TaskCard } from "./card/card.js";
import { TaskTalk } from "./card/talk.js";
import { listenToClipboard } from "./list/clipboard.js";
import { drawBaselines } from "./panels/baselines.js";
import { drawChoice } from "./panels/choice.js";
import { CellEditor } from "./list/editor.js";
import { runCommand } from "./commands/commands.js";
import { drawGauge } from "./panels/gauge.js";
import { listenToKeys } from "./commands/keyboard.js";
import { columnsOf } from "./list/columns.js";
import { ListView } from "./list/list.js";
import { listenToNewTask } from "./list/new-task.js";
import { unsavedEdits } from "../shared/own-storage.js";
import { followFields } from "./server/new-fields.js";
import { Outbox } from "./server/outbox.js";
import { drawView } from "./panels/view-panel.js";
import { makePalette } from "./panels/palette.js";
import { followLive } from "./server/live.js";
import { Preview } from "./server/preview.js";
import { drawProblems } from "./panels/problems.js";
import { listenToRowDrags } from "./list/row-drag.js";
import { Remembered } from "./state/remembered.js";
import { followHours } from "./server/hours.js";
import { showOthers } from "./server/others.js";
import { Sight } from "./state/sight.js";
import { Store } from "./state/store.js";
import { useWeekStart } from "./state/view.js";
import { drawStrip, openMoves } from "./panels/strip.js";
import { dayOf } from "./state/time.js";
import { drawTray } from "./panels/tray.js";
import { listenToGestures } from "./timeline/gestures.js";
import { listenToLinks } from "./timeline/link-panel.js";
import { Timeline } from "./timeline/timeline.js";
import { printPlan } from "./panels/print.js";
import { makeToolbar } from "./panels/toolbar.js";
import { part } from "../shared/part.js";
import { runsOn, startTimer, stopTimer } from "../shared/timer.js";

const element = (/** @type {string} */ id) => /** @type {HTMLElement} */ (document.getElementById(id));
const main = element("main");
const board = element("board");
const data = JSON.parse(element("plan-data").textContent ?? "");

const isPlan = main.dataset.screen === "plan";

useWeekStart(main.dataset.week);
const store = new Store(data.changes);
store.teams = new Map(Object.entries(data.teams));
store.hasMoney = main.dataset.money === "yes";
let isFollowing = false;
const outbox = new Outbox(store, main.dataset.project ?? "", main.dataset.token ?? "", main.dataset.me ?? "");
const actions = new Actions(store, outbox);
const preview = new Preview(store, outbox);
const sight = new Sight(board, element("list"), follow, () => store.changed());
const list = new ListView(store, sight, element("list"));
const editor = new CellEditor(store, list, actions);
const timeline = new Timeline(store, sight, element("timeline"), list, remembered("scale", "weeks"));
const talk = new TaskTalk(store, main.dataset.project ?? "", main.dataset.token ?? "");
/** Parts that are fetched when they are wanted: most who open a plan paste no list and set up no series. */
const later = (/** @type {() => Promise<any>} */ fetch) => part(fetch, (said) => store.tell(said));
const repeating = later(async () => (await import("./panels/repeat.js")).makeRepeat(store, outbox, actions));
/** @param {import("./state/types.js").Row} row @param {import("./state/types.js").CardRepeat | null} [known] */
const openRepeat = (row, known) => void repeating((open) => open(row, known));
const prices = later(() => import("./panels/prices.js"));
const pricing = later(() => import("./panels/costs.js"));
const spending = later(async () => {
  const { makeCosts } = await import("./panels/costs.js");
  return makeCosts(
    store,
    main.dataset.project ?? "",
    main.dataset.token ?? "",
    (take) =>
      void prices(({ choosePrices, AS_ITEMS }) =>
        choosePrices(outbox, (/** @type {any} */ picked, /** @type {any} */ many) => take(picked, many), AS_ITEMS),
      ),
  );
});
const card = new TaskCard(
  store,
  outbox,
  element("card"),
  (id) =>
    isPlan
      ? list.focus(id, store.current?.col ?? "name")
      : /** @type {HTMLElement | null} */ (
          document.querySelector(`.stage [data-row="${id}"], .stage [data-box="${id}"]`)
        )?.focus(),
  ({ id, repeats }) => {
    const row = store.row(id);
    if (row) openRepeat(row, repeats);
  },
  talk,
  !store.hasMoney ? null : (host, task) => void spending((fill) => fill(host, task)),
);
for (const { task, comments, files } of data.talk) store.talked(task, comments, files);
const keys = later(() => import("./panels/keys.js"));
/** The button at the end gets the focus, but reading starts at the top. */
const openKeys = () =>
  keys(({ listKeys }) => {
    listKeys(element("keys-list"));
    const dialog = /** @type {HTMLDialogElement} */ (element("keys"));
    dialog.showModal();
    dialog.scrollTop = 0;
  });
/** @type {import("./commands/command.js").Screen} */
const screen = {
  store,
  list,
  actions,
  editor,
  card,
  isPlan,
  openRepeat,
  openMoves: () => void openMoves(store, outbox, (id) => show(id)),
  openPalette: () => openPalette(),
  openPaste: () => openPaste(),
  openPrices: () => openPrices(),
  openKeys: () => void openKeys(),
  openExport: () => openExport(),
  openBaseline: () => openBaseline(),
  turnTimer: (task) => {
    const project = main.dataset.project ?? "";
    // What was done is said by whatever follows the timer; only why it was not is told here.
    const before = runsOn(project, task);
    void (before ? stopTimer() : startTimer(project, task)).then((said) => {
      if (runsOn(project, task) === before) store.tell(said);
    });
  },
  openView,
  turnTray: () => turnTray(),
  turnLoad: () => void loads((turn) => turn()),
  fit,
  zoom,
  showToday: () => timeline.show(dayOf(store.project.today), 0.3),
};
const run = (/** @type {string} */ name) => runCommand(screen, name);

/** Brings a task into sight: its row, or on the other screens its card. @param {string} id */
const show = (id) => (isPlan ? list.focus(id, "name") : void card.open(id));
const pasting = later(async () => (await import("./panels/paste.js")).makePaste(store, outbox, actions, show, run));
const openPaste = (text = "", /** @type {any[]} */ ...more) => void pasting((open) => open(text, ...more));
const openPrices = () =>
  void prices(({ choosePrices, asList }) =>
    choosePrices(outbox, (/** @type {any} */ picked, /** @type {any} */ many) =>
      openPaste(asList(picked, many), undefined, (/** @type {any} */ edit) => costsOf(edit, picked, many)),
    ),
  );
/** @param {any[]} made the edit that made tasks of the price list, and what was chosen of that */
const costsOf = (...made) => {
  const { project = "", token = "" } = main.dataset;
  if (store.hasMoney) void pricing(({ addCosts }) => addCosts(store, project, token, ...made));
};
const remembering = later(async () => (await import("./panels/baseline.js")).makeBaseline(store, outbox));
const openBaseline = () =>
  void remembering((open) => open(store.selection.size > 1 ? store.selection.tops.map(({ id }) => id) : []));
const exporting = later(async () => {
  const { makeExport } = await import("./panels/export.js");
  const { exports = "", me = "", screen = "", token = "" } = main.dataset;
  return makeExport(store, exports, me, screen, token);
});
const openExport = () => void exporting((open) => open());
const loads = later(async () =>
  (await import("./server/load.js")).followLoad(store, timeline, board, main.dataset.project ?? ""),
);
followFields(
  store,
  () => store.unsaved.size + store.drafts.size + unsavedEdits(main.dataset.me ?? "") === 0 && store.typing === null,
);
const openPalette = makePalette(store, run, show);

if (isPlan) {
  store.subscribe(() => list.draw());
  store.subscribe(() => timeline.draw());
}
/** The row that the card went along with last: one that is opened otherwise stays open. */
let followed = store.current?.id;
store.subscribe(() => {
  if (store.current?.id === followed) return;
  followed = store.current?.id;
  if (followed) card.follow(followed);
});
store.subscribe(offerPeople);
store.rights = /** @type {typeof store.rights} */ (main.dataset.rights ?? "edit");
store.proposals = data.proposals;
// A file that is dropped on the page is read as a list.
if (store.rights === "edit" || store.rights === "report") {
  main.addEventListener("dragover", (event) => {
    if (event.dataTransfer?.types.includes("Files")) event.preventDefault();
  });
  main.addEventListener("drop", (event) => {
    const file = event.dataTransfer?.files[0];
    if (!file) return;
    event.preventDefault();
    openPaste("", file);
  });
}
// A project that was made for a list that exists begins with it.
if (location.hash === "#paste" && store.rights === "edit") openPaste();
listenToKeys(store, list, actions, editor, run, element("list"));
listenToNewTask(store, list, actions);
listenToClipboard(store, actions, main.dataset.project ?? "", (text) => openPaste(text));
listenToGestures(
  store,
  preview,
  actions,
  timeline,
  (id) => list.focus(id, store.current?.col ?? "name", { keepRange: true }),
  (id) => editor.open(id, "name"),
);
listenToLinks(store, outbox, actions, timeline.body);
listenToRowDrags(store, actions, element("list"));
drawChoice(store, actions, data.calendars);
drawView(store, new Remembered(main.dataset.project ?? "", main.dataset.token ?? "", main.dataset.me ?? "", data.view));
const turnTray = drawTray(store, preview, actions, timeline, show);
if (store.rights !== "shared") {
  showOthers(store, main.dataset.project ?? "");
  // Drawn behind what is looked at first, and fetched after it.
  const behind = part(async () => (await import("./server/behind.js")).showBehind(store, main.dataset.project ?? ""));
  setTimeout(() => void behind(() => {}), 700);
  drawBaselines(store, element("view-baselines"));
}
const past = document.getElementById("past");
if (past) {
  const { showPast } = await import("./panels/past.js");
  showPast(past, main.dataset.project ?? "", main.dataset.token ?? "");
}
const openCard = (/** @type {string} */ id) => void card.open(id);
// The other screens are fetched when they are opened.
if (main.dataset.screen === "lanes") {
  const { drawLanes } = await import("./screens/lanes.js");
  drawLanes(store, preview, actions, element("lanes"), openCard);
}
if (main.dataset.screen === "month") {
  const { drawMonth } = await import("./screens/month.js");
  drawMonth(store, preview, actions, element("month"), openCard);
}
if (main.dataset.screen === "chains") {
  const { drawChains } = await import("./screens/chains.js");
  const picture = drawChains(store, preview, actions, element("chains"), openCard);
  listenToLinks(store, outbox, actions, picture);
}
if (main.dataset.screen === "outline") {
  const { drawOutline } = await import("./screens/outline.js");
  drawOutline(store, element("outline"), openCard);
}
drawStrip(store);
drawGauge(store);
drawProblems(store, list, actions, board);

for (const button of /** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll("[data-command]"))) {
  // The cell keeps the focus, so that the next key goes on from there.
  button.addEventListener("mousedown", (event) => event.preventDefault());
  button.addEventListener("click", () => {
    editor.close(true);
    run(button.dataset.command ?? "");
  });
}
const pressScale = chooseOne("scale", timeline.scale.name, (name) => timeline.zoom(name));
timeline.listenToWheel((name) => pressScale(name, false));
chooseOne("pane", remembered("pane", "both"), (name) => {
  board.dataset.pane = name;
  sight.measure();
  store.changed();
});

element("list").addEventListener("mousedown", (event) => {
  const cell = /** @type {Element} */ (event.target).closest(".cell");
  const fold = /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest("[data-fold]"));
  if (fold?.dataset.fold) {
    event.preventDefault();
    editor.close(true);
    list.focus(fold.dataset.fold, "name", { keepRange: true });
    run(store.view.folded.includes(fold.dataset.fold) ? "unfold" : "fold");
    return;
  }
  const id = cell?.closest("[data-row]")?.getAttribute("data-row");
  const col = cell?.getAttribute("data-col");
  if (!id || !col || cell?.classList.contains("is-editing")) return;
  event.preventDefault();
  const again = store.current !== placed && store.current?.id === id && store.current.col === col;
  editor.close(true);
  if (event.shiftKey) store.selection.extendTo(id);
  else if (event.ctrlKey || event.metaKey) {
    // The current row is picked along with the first other one, as in other lists.
    if (store.selection.size === 0 && store.current && store.current.id !== id)
      store.selection.toggle(store.current.id);
    store.selection.toggle(id);
  } else if (!again && store.selection.size > 0 && !store.selection.has(id)) store.selection.clear();
  if (event.shiftKey || event.ctrlKey || event.metaKey) {
    list.focus(id, col, { keepRange: true });
    return;
  }
  // A second press on the same cell edits it.
  if (again && col !== "no") editor.open(id, col);
  // A picked row may be about to be dragged, with the others.
  else list.focus(id, col, { keepRange: store.selection.has(id) });
});
element("list").addEventListener("focusin", (event) => {
  const cell = /** @type {Element} */ (event.target).closest(".cell");
  const id = cell?.closest("[data-row]")?.getAttribute("data-row");
  const col = cell?.getAttribute("data-col");
  if (!id || !col || (store.current?.id === id && store.current.col === col)) return;
  store.current = { id, col };
  store.changed();
});

if (isPlan) {
  timeline.showBeginning();
  list.draw();
}
store.changed();
if (store.rights !== "shared" && store.rights !== "past") {
  followHours(store, main.dataset.project ?? "", data.used);
  // Fetched when any of it is shown.
  const following = part(async () =>
    (await import("./server/spending.js")).followSpending(store, main.dataset.project ?? "", showsMoney),
  );
  const showsMoney = () =>
    isPlan ? columnsOf(store).some(({ money }) => money) : main.dataset.screen === "outline" && store.view.treeCosts;
  const followMoney = () => void (store.hasMoney && showsMoney() && following(() => {}));
  store.subscribe(followMoney);
  followMoney();
  // Marks that can wait for what is looked at first, and for the server to be there.
  const mark = () =>
    void (
      navigator.onLine &&
      loads(
        () => {},
        () => {},
      )
    );
  setTimeout(mark, 2000);
  addEventListener("online", mark);
  outbox.resume();
  followLive(store, main.dataset.project ?? "", main.dataset.me ?? "", outbox, (task) => talk.heard(task));
  // Fetched when there are any.
  const listing = part(async () =>
    (await import("./panels/proposals.js")).listProposals(
      store,
      main.dataset.project ?? "",
      main.dataset.token ?? "",
      show,
    ),
  );
  store.subscribe(() => void (store.proposals > 0 && listing(() => {})));
}
if (isPlan)
  printPlan(
    store,
    sight,
    board,
    () => {
      list.draw();
      timeline.draw();
    },
    () => fit(store.rows),
    () => {
      const [day, left, top] = [timeline.scale.day, sight.left, sight.top];
      return () => {
        timeline.zoom(day);
        sight.scroll({ left, top });
      };
    },
  );
makeToolbar(/** @type {HTMLElement} */ (document.querySelector(".tools")));
const asked = store.row(location.hash.slice(1));
if (asked) show(asked.id);
// The focus starts in the list: the next key is about a task.
if (isPlan && store.rows.length === 0) element("new-task").focus();
else if (isPlan && !asked && document.activeElement === document.body) list.focus(store.shown[0].id, "name");
/** Where the page put the focus: the first press there only confirms it. */
const placed = store.current;
document.documentElement.dataset.ready = "true";

function offerPeople() {
  const names = [...new Set([...store.people.map((person) => person.name), ...data.directory])];
  const options = element("people");
  if (options.childElementCount === names.length) return;
  options.replaceChildren(
    ...names.map((name) => {
      const option = document.createElement("option");
      option.value = name;
      return option;
    }),
  );
}

/** Buttons of which one is pressed. @param {string} name @param {string} first @param {(value: string) => void} act */
function chooseOne(name, first, act) {
  const buttons = /** @type {HTMLElement[]} */ ([...document.querySelectorAll(`.tool[data-${name}]`)]);
  const press = (/** @type {string} */ value, acts = true) => {
    for (const button of buttons) button.setAttribute("aria-pressed", String(button.dataset[name] === value));
    localStorage.setItem(`auxilium-${name}`, value);
    if (acts) act(value);
  };
  for (const button of buttons) button.addEventListener("click", () => press(button.dataset[name] ?? first));
  press(first);
  return press;
}

/** Scrolling draws what comes into sight, a block at a time; most frames only take along what stays in place. */
function follow() {
  if (isFollowing) return;
  isFollowing = true;
  requestAnimationFrame(() => {
    isFollowing = false;
    if (store.problemAt !== null) store.changed();
    const isDrawn = list.isDrawn && timeline.isDrawn;
    if (!list.isDrawn) list.draw();
    if (isDrawn) timeline.follow();
    else timeline.draw();
  });
}

/** @param {"columns"} [part] */
function openView(part) {
  element("view").showPopover();
  const columns = /** @type {HTMLDetailsElement} */ (element("view-columns-part"));
  if (part === "columns") columns.open = true;
  (part === "columns" ? columns.querySelector("summary") : element("view").querySelector("input"))?.focus();
}

/** @param {number} by */
function zoom(by) {
  timeline.zoom(timeline.scale.day * by);
  pressScale(timeline.scale.name, false);
}

/** @param {import("./state/types.js").Row[]} rows */
function fit(rows) {
  const dated = rows.filter((row) => row.start !== null);
  if (dated.length === 0) return;
  const starts = dated.map((row) => /** @type {number} */ (row.start));
  timeline.fit(Math.min(...starts), Math.max(...dated.map((row) => row.finish)));
  pressScale(timeline.scale.name, false);
}

/** @param {string} name @param {string} otherwise */
function remembered(name, otherwise) {
  const value = localStorage.getItem(`auxilium-${name}`);
  return document.querySelector(`.tool[data-${name}="${CSS.escape(value ?? "")}"]`) ? (value ?? otherwise) : otherwise;
}
