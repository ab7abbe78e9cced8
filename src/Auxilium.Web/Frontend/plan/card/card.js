// @ts-check
// The card: everything about one task, beside the list and over the timeline. It saves as you type.

/** @import { Store } from "../state/store.js" */
/** @import { Outbox } from "../server/outbox.js" */
/** @import { Card } from "../state/types.js" */
/** @import { TaskTalk } from "./talk.js" */
import { FIELDS } from "../fields/fields.js";
import { STATE_WORDS } from "../fields/state.js";
import { dayOf, minutesOf } from "../state/time.js";
import { areaField, checkField, element, keepTyped, quietButton, textField } from "./fields.js";
import { rescue } from "../panels/rescue.js";
import { gatheringParts, offerLink } from "./gathering.js";
import { linkParts } from "./links.js";
import { reminderParts } from "./reminders.js";
import { checklistParts, markParts, pageParts, repeatParts } from "./marks.js";
import { peopleParts } from "./people.js";
import { dateParts, deadline, hoursParts, plannedParts, progressParts, whyParts, workParts } from "./sections.js";

export class TaskCard {
  #store;
  #outbox;
  #panel;
  #back;
  #repeat;
  #talk;
  #costs;
  /** @type {{ task: string, host: HTMLElement } | null} */ #spent = null;
  /** @type {string | null} */ #task = null;
  #version = 0;
  #asked = 0;
  /** Sections that are folded. @type {Set<string>} */ #folded = new Set();

  /**
   * @param {Store} store
   * @param {Outbox} outbox
   * @param {HTMLElement} panel
   * @param {(id: string) => void} back gives the list the focus again
   * @param {(card: Card) => void} repeat asks when a task comes again
   * @param {TaskTalk} talk
   * @param {((host: HTMLElement, task: string) => void) | null} costs fills what a task costs, for those who may have it
   */
  constructor(store, outbox, panel, back, repeat, talk, costs) {
    this.#store = store;
    this.#outbox = outbox;
    this.#panel = panel;
    this.#back = back;
    this.#repeat = repeat;
    this.#talk = talk;
    this.#costs = costs;
    panel.addEventListener("focusin", (event) => {
      if (event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement) store.beginTyping();
    });
    panel.addEventListener("focusout", () => (store.typing = null));
    panel.addEventListener("keydown", (event) => {
      event.stopPropagation();
      if (event.key === "Escape") this.close();
    });
    store.subscribe(() => {
      if (this.#task === null) return;
      if (!store.position.has(this.#task)) this.#lose();
      else if (store.project.version !== this.#version) void this.#load();
    });
  }

  get isOpen() {
    return this.#task !== null;
  }

  /** @param {string} task */
  async open(task) {
    // The focus is in the row whose card is open: whatever changes next, the card stays with it.
    const { current, line } = this.#store;
    if (line.has(task) && current?.id !== task) this.#store.current = { id: task, col: current?.col ?? "name" };
    this.#show(task);
    this.#panel.hidden = false;
    await this.#load();
    this.#panel.querySelector("h2")?.focus();
  }

  /** Shows another task, where the card is open. @param {string} task */
  follow(task) {
    const row = this.#store.row(task);
    if (this.#task === null || this.#task === task || !row || row.unsaved) return;
    this.#show(task);
    void this.#load();
  }

  /** What is typed for one task is not carried over to another. @param {string} task */
  #show(task) {
    if (this.#task !== task) this.#panel.replaceChildren();
    this.#task = task;
  }

  close() {
    const task = this.#task;
    this.#task = null;
    this.#panel.hidden = true;
    this.#panel.replaceChildren();
    if (task && this.#store.position.has(task)) this.#back(task);
  }

  /** Somebody removed the task: what was typed for it is not lost with it. */
  #lose() {
    const typed = /** @type {(HTMLInputElement | HTMLTextAreaElement)[]} */ ([
      ...this.#panel.querySelectorAll("input[data-was], textarea[data-was]"),
    ]).find((input) => input.value.trim() !== (input.dataset.was ?? "").trim());
    const name = this.#panel.querySelector("h2")?.textContent?.replace(/^[\d.]+ /, "") ?? "The task";
    this.close();
    const field = FIELDS.find(({ key, label }) => (key === "name" ? "Name" : label) === typed?.dataset.field);
    if (typed) rescue(this.#store, name, field?.key ?? typed.dataset.field ?? "", typed.value.trim());
  }

  async #load() {
    const task = this.#task;
    if (task === null) return;
    this.#version = this.#store.project.version;
    const asked = ++this.#asked;
    const card = await this.#outbox.card(task);
    // A later question has the newer answer, whichever comes first.
    if (this.#task !== task || asked !== this.#asked) return;
    if ("message" in card)
      this.#panel.replaceChildren(
        this.#head(task, ""),
        element("p", { class: "problem", role: "alert" }, card.message),
      );
    else this.#draw(card);
  }

  /** @param {Card} card */
  #draw(card) {
    const title = document.activeElement?.tagName === "H2";
    const focused = /** @type {HTMLElement | null} */ (document.activeElement);
    const { scrollTop } = this.#panel;
    const send = (/** @type {object} */ edit, /** @type {(problem: string) => void} */ tell) =>
      this.#send(card, edit, tell);
    const phase = card.kind === "phase";
    const talk = this.#talk.partsOf(card.id);
    const sections = [
      this.#section("Why is it there", [...whyParts(card), ...plannedParts(this.#store, card)]),
      this.#section("Links", [
        ...linkParts(this.#store, card, send, (id) => void this.open(id)),
        ...offerLink(this.#store, card, send),
      ]),
      this.#section("Dates", phase ? [deadline(this.#store, card, send)] : dateParts(this.#store, card, send)),
      this.#section("People", peopleParts(this.#store, card, send)),
      ...(phase ? [] : [this.#section("Work", workParts(this.#store, card, send))]),
      ...(phase ? [] : [this.#section("Progress", progressParts(this.#store, card, send))]),
      this.#section("Hours", hoursParts(this.#store, card, this.#outbox.project)),
      ...(this.#costs ? [this.#section("Costs", [this.#costsOf(card.id)])] : []),
      ...(card.kind !== "phase" || card.repeats
        ? [
            this.#section(
              "Repeat",
              repeatParts(this.#store, card, send, () => this.#repeat(card)),
            ),
          ]
        : []),
      this.#section("Checklist", checklistParts(this.#store, card, send)),
      this.#section("Pages", pageParts(this.#store, card, send)),
      this.#section("Marks", markParts(this.#store, card, send)),
      ...(card.kind === "milestone"
        ? [
            this.#section(
              "Gathers",
              gatheringParts(this.#store, card, send, (id) => void this.open(id)),
            ),
          ]
        : []),
      this.#section("Reminders", reminderParts(this.#store, card, send)),
      this.#section("Comments", talk.comments),
      this.#section("Files", talk.files),
      this.#section("Note", [
        areaField("Note", card.note, (note, tell) => send({ type: "setNote", task: card.id, note }, tell)),
      ]),
      this.#section("In the plan", [
        checkField("Takes part", card.active, (on, tell) => send({ type: "setActive", task: card.id, on }, tell)),
      ]),
    ];
    const name = textField("Name", card.name, (text, tell) =>
      send({ type: "renameTask", task: card.id, name: text }, tell),
    );
    const head = this.#head(`${card.outline} ${card.name}`, stateOf(this.#store, card));
    keepTyped(this.#panel, () => this.#panel.replaceChildren(head, name, ...sections));
    this.#panel.scrollTop = scrollTop;
    // What somebody is typing is kept, even if its field moved.
    if (focused?.isConnected && this.#panel.contains(focused)) focused.focus();
    if (title) this.#panel.querySelector("h2")?.focus();
  }

  /** What a task costs stays as it is drawn while the card is drawn anew for it. @param {string} task */
  #costsOf(task) {
    if (this.#spent?.task !== task) this.#spent = { task, host: element("div", {}) };
    this.#costs?.(this.#spent.host, task);
    return this.#spent.host;
  }

  /** @param {string} title @param {string} state */
  #head(title, state) {
    return element(
      "header",
      { class: "card-head" },
      element("h2", { tabindex: "-1", id: "card-title" }, title),
      element("p", { class: "mute" }, state),
      quietButton("Close", () => this.close(), "Close the card"),
    );
  }

  /** @param {string} title @param {HTMLElement[]} parts */
  #section(title, parts) {
    const section = /** @type {HTMLDetailsElement} */ (
      element("details", { class: "card-section" }, element("summary", {}, title), ...parts)
    );
    section.open = !this.#folded.has(title);
    section.addEventListener("toggle", () => (section.open ? this.#folded.delete(title) : this.#folded.add(title)));
    return section;
  }

  /** @param {Card} card @param {object} edit @param {(problem: string) => void} tell @param {boolean} [overrule] */
  #send(card, edit, tell, overrule = false) {
    this.#outbox.send({
      make: () => edit,
      ...this.#store.meantFor,
      near: card.start === null ? undefined : dayOf(minutesOf(card.start)),
      overrule,
      onDone: () => tell(""),
      onRefused: (refusal) => {
        if (refusal.code === "proposed") void this.#load();
        else if (refusal.theirs === undefined) tell(refusal.message);
        else this.#choose(refusal, () => this.#send(card, edit, tell, true));
      },
    });
  }

  /**
   * Somebody changed the same thing: the person is shown both.
   * @param {import("../server/outbox.js").Refusal} refusal
   * @param {() => void} again
   */
  #choose(refusal, again) {
    const bar = element("div", { class: "card-choice", role: "alert" }, element("p", {}, refusal.message));
    const choose = (/** @type {string} */ words, /** @type {() => void} */ act) =>
      quietButton(words, () => {
        bar.remove();
        this.#panel.querySelector("h2")?.focus();
        act();
      });
    bar.append(
      choose(`Keep “${refusal.theirs}”`, () => void this.#load()),
      choose(`Use “${refusal.yours}”`, again),
    );
    this.#panel.querySelector(".card-head")?.after(bar);
  }
}

/** @param {Store} store @param {Card} card */
function stateOf(store, card) {
  const row = store.row(card.id);
  if (!row || row.start === null) return card.active ? "" : card.inSeries ? "skipped" : "no date: inactive";
  const words = [STATE_WORDS[row.state ?? ""] ?? `${Math.floor(row.progress)}% done`];
  if (row.critical) words.push("sets the finish");
  return words.join(", ");
}
