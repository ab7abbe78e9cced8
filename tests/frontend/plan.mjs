// @ts-check
// Rows and stores for tests of the page's modules.

/** @import { Row, Link } from "../../src/Auxilium.Web/Frontend/plan/state/types.js" */
import { emptyRow } from "../../src/Auxilium.Web/Frontend/plan/state/view.js";
import { Store } from "../../src/Auxilium.Web/Frontend/plan/state/store.js";
import { minutesOf } from "../../src/Auxilium.Web/Frontend/plan/state/time.js";

globalThis.requestAnimationFrame ??= (draw) => (queueMicrotask(() => draw(0)), 0);

export const at = minutesOf;

/** @param {string} id @param {Partial<Row>} [more] @returns {Row} */
export const aRow = (id, more = {}) => ({
  ...emptyRow(id, `Task ${id}`),
  no: id,
  length: "1d",
  start: at("2027-05-03T09:00"),
  finish: at("2027-05-03T18:00"),
  state: "ready",
  ...more,
});

/** @param {Row[]} rows @param {Link[]} [links] */
export const changes = (rows, links = []) => ({
  project: {
    name: "Test",
    version: 1,
    edit: null,
    start: at("2027-05-03T09:00"),
    finish: at("2027-05-07T18:00"),
    finishBy: null,
    fromFinish: false,
    spare: null,
    isLate: false,
    today: at("2027-05-05T00:00"),
    periods: [],
    stops: [],
    baselines: [],
    measure: null,
    progress: 0,
    dayStart: 540,
    dayEnd: 1080,
  },
  rows,
  from: null,
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
