// @ts-check
// When people are reminded of a task.

/** @import { Card } from "../state/types.js" */
/** @import { Store } from "../state/store.js" */
/** @import { SendEdit } from "./sections.js" */
import { element, quietButton } from "./fields.js";
import { savedList } from "./marks.js";

/** @param {Store} store @param {Card} card @param {SendEdit} send */
export function reminderParts(store, card, send) {
  const list = savedList(store, card, "reminders", card.reminders, (reminders, tell) =>
    send({ type: "setReminders", task: card.id, reminders }, tell),
  );
  const nameOf = (/** @type {string} */ id) =>
    store.people.find((person) => person.id === id)?.name ?? "somebody who left";
  const rows = list.now().map((reminder, at) => {
    const words = `${wordsOf(reminder)}: ${reminder.people.length > 0 ? reminder.people.map(nameOf).join(", ") : "its people"}`;
    return element(
      "li",
      { class: "step" },
      element("span", {}, words),
      quietButton("Remove", () => list.change((all) => all.toSpliced(at, 1)), `Remove the reminder ${words}`),
    );
  });
  return [...(rows.length > 0 ? [element("ul", { class: "steps" }, ...rows)] : []), form()];

  function form() {
    const days = /** @type {HTMLInputElement} */ (
      element("input", { class: "input narrow", value: "2", inputmode: "numeric", "aria-label": "Days before" })
    );
    const before = /** @type {HTMLSelectElement} */ (element("select", { class: "input", "aria-label": "Before its" }));
    before.append(new Option("the start", "start"), new Option("the finish", "finish"));
    const whom = /** @type {HTMLSelectElement} */ (
      element("select", { class: "input", "aria-label": "Whom to remind" })
    );
    whom.append(new Option("its people", ""), ...store.people.map(({ id, name }) => new Option(name, id)));
    const problem = element("p", { class: "problem", role: "alert" });
    const add = () => {
      const count = Number(days.value.trim());
      if (days.value.trim() === "" || !Number.isInteger(count) || count < 0 || count > 365)
        return void (problem.textContent = "Type how many days before, from 0 to 365, such as 3.");
      problem.textContent = "";
      const reminder = {
        days: count,
        before: /** @type {"start" | "finish"} */ (before.value),
        people: whom.value ? [whom.value] : [],
      };
      list.change(
        (all) => [...all, reminder],
        (why) => void (problem.textContent = why),
      );
    };
    days.addEventListener("keydown", (event) => event.key === "Enter" && add());
    return element(
      "div",
      { class: "reminder-form" },
      days,
      " days before ",
      before,
      " remind ",
      whom,
      quietButton("Add", add, "Add the reminder"),
      problem,
    );
  }
}

/** @param {Card["reminders"][number]} reminder */
const wordsOf = ({ days, before }) =>
  days === 0 ? `on the day of the ${before}` : `${days === 1 ? "1 day" : `${days} days`} before the ${before}`;
