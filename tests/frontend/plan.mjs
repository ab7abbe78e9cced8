// @ts-check
// Rows and stores for tests of the page's modules.

/** @import { Row, Link } from "../../src/Auxilium.Web/Frontend/plan/types.js" */
import { Store } from "../../src/Auxilium.Web/Frontend/plan/store.js";
import { minutesOf } from "../../src/Auxilium.Web/Frontend/plan/time.js";

globalThis.requestAnimationFrame ??= (draw) => (queueMicrotask(() => draw(0)), 0);

export const at = minutesOf;

/** @param {string} id @param {Partial<Row>} [more] @returns {Row} */
export const aRow = (id, more = {}) => ({
  id,
  no: id,
  name: `Task ${id}`,
  level: 0,
  parent: null,
  kind: "task",
  length: "1d",
  owner: null,
  helpers: 0,
  after: "",
  start: at("2027-05-03T09:00"),
  finish: at("2027-05-03T18:00"),
  doneTo: null,
  lateFinish: null,
  spare: null,
  progress: 0,
  critical: false,
  state: "ready",
  started: false,
  waitsFor: null,
  fixed: null,
  pinned: false,
  fixedSides: null,
  warning: null,
  stretches: null,
  deadline: null,
  off: false,
  note: false,
  ...more,
});

/** @param {Row[]} rows @param {Link[]} [links] */
export const changes = (rows, links = []) => ({
  project: {
    name: "Test",
    version: 1,
    start: at("2027-05-03T09:00"),
    finish: at("2027-05-07T18:00"),
    finishBy: null,
    fromFinish: false,
    spare: null,
    isLate: false,
    today: at("2027-05-05T00:00"),
    progress: 0,
    dayStart: 540,
    dayEnd: 1080,
  },
  rows,
  order: rows.map((row) => row.id),
  links,
  finishLinks: links.flatMap((link, i) => (link.setsFinish ? [i] : [])),
  people: [{ id: "imke", name: "Imke Varga", initials: "IV", hue: 0 }],
  closed: [],
  canUndo: false,
  canRedo: false,
  sentence: [],
  moved: 0,
});

/** @param {Row[]} rows @param {Link[]} [links] */
export const aStore = (rows, links = []) => new Store(changes(rows, links));
