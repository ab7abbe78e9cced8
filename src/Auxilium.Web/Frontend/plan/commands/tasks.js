// @ts-check
// Commands about what the rows are: tasks that start, finish, matter and repeat.

/** @import { Command, Screen } from "./command.js" */
/** @import { Row } from "../state/types.js" */
import { offerOf } from "../panels/series-offer.js";
import { aRow, aSavedRow, rowOf } from "./command.js";

/** @type {Command[]} */
export const TASKS = [
  {
    name: "card",
    title: "Card: everything about the task",
    keys: "Alt+Enter",
    letter: "c",
    can: aRow,
    run: (screen) => void screen.card.open(rowOf(screen).id),
  },
  {
    name: "milestone",
    title: "Milestone on or off",
    letter: "m",
    can: aSavedRow,
    run: (screen) => {
      const rows = workOf(screen);
      const on = rows.some((row) => row.kind !== "milestone");
      const others = rows.filter((row) => (row.kind === "milestone") !== on);
      send(
        screen,
        others.map(({ id }) => ({ type: "setMilestone", task: id, on })),
      );
    },
  },
  {
    name: "start",
    title: "Started",
    letter: "s",
    can: aSavedRow,
    run: (screen) =>
      send(
        screen,
        workOf(screen).map(({ id }) => ({ type: "startTask", task: id })),
      ),
  },
  {
    name: "done",
    title: "Done on or off",
    letter: "d",
    can: aSavedRow,
    run: (screen) => {
      const rows = workOf(screen);
      const open = rows.filter((row) => row.state !== "done");
      const type = open.length > 0 ? "finishTask" : "reopenTask";
      send(
        screen,
        (open.length > 0 ? open : rows).map(({ id }) => ({ type, task: id })),
      );
    },
  },
  {
    name: "key",
    title: "Key task on or off",
    letter: "k",
    can: aSavedRow,
    run: (screen) => {
      const rows = pickedOf(screen);
      const on = rows.some((row) => !row.key);
      const others = rows.filter((row) => row.key !== on);
      send(
        screen,
        others.map(({ id }) => ({ type: "setKey", task: id, on })),
      );
    },
  },
  {
    name: "repeat",
    title: "Repeat the task",
    letter: "r",
    can: aSavedRow,
    run: (screen) => {
      const { store, card, openRepeat } = screen;
      const row = rowOf(screen);
      const series = row.repeats ? row : store.row(row.parent);
      if (series?.repeats) void card.open(series.id);
      else if (row.kind === "phase") store.tell("A phase does not repeat: choose a task inside it.");
      else openRepeat(row);
    },
  },
  {
    name: "extend",
    title: "Extend the repeating task",
    unlisted: true,
    run: ({ store, actions }) => {
      const offer = offerOf(store);
      if (offer) actions.send(offer.edit, offer.task);
    },
  },
  {
    name: "timer",
    title: "Start or stop the timer on the task",
    letter: "t",
    can: (screen) => screen.store.whyNot ?? aSavedRow(screen),
    run: (screen) => screen.turnTimer(rowOf(screen).id),
  },
  {
    name: "aside",
    title: "Put aside without a date, or take up again",
    letter: "u",
    can: aSavedRow,
    run: (screen) => {
      const rows = pickedOf(screen);
      const on = rows.every((row) => row.off);
      const others = rows.filter((row) => row.off === on);
      send(
        screen,
        others.map(({ id }) => ({ type: "setActive", task: id, on })),
      );
    },
  },
];

/** The picked rows, or the row that has the focus. @param {Screen} screen @returns {Row[]} */
const pickedOf = ({ store }) => store.selection.ids.flatMap((id) => store.row(id) ?? []).filter((row) => !row.unsaved);

/** Of several those that are no phases: what is done to a phase follows from the rows inside it. @param {Screen} screen */
function workOf(screen) {
  const rows = pickedOf(screen);
  return rows.length > 1 ? rows.filter((row) => row.kind !== "phase") : rows;
}

/** @param {Screen} screen @param {object[]} edits */
const send = (screen, edits) => screen.actions.sendAll(edits, rowOf(screen).id);
