// @ts-check
// One line to find a task, a person or an action by typing.

/** @import { Store } from "../state/store.js" */
import { COMMANDS, printed } from "../commands/commands.js";
import { ownerOf } from "../fields/owner.js";

const MOST = 12;

/** @typedef {{ kind: string, words: string, hint: string, act: () => void }} Choice */

/** @param {Store} store @param {(command: string) => void} run @param {(id: string) => void} show brings a row into sight */
export function makePalette(store, run, show) {
  const dialog = /** @type {HTMLDialogElement} */ (document.getElementById("palette"));
  const input = /** @type {HTMLInputElement} */ (document.getElementById("palette-text"));
  const list = /** @type {HTMLElement} */ (document.getElementById("palette-list"));
  /** @type {Choice[]} */ let choices = [];
  let at = 0;

  input.addEventListener("input", () => {
    at = 0;
    draw();
  });
  input.addEventListener("keydown", (event) => {
    if (event.isComposing) return;
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      at = (at + (event.key === "ArrowDown" ? 1 : -1) + choices.length) % Math.max(1, choices.length);
      draw();
    } else if (event.key === "Enter") {
      event.preventDefault();
      choose(at);
    }
  });
  list.addEventListener("click", (event) => {
    const item = /** @type {HTMLElement} */ (event.target).closest("[data-at]");
    if (item) choose(Number(item.getAttribute("data-at")));
  });

  return () => {
    input.value = "";
    at = 0;
    draw();
    dialog.showModal();
  };

  /** @param {number} index */
  function choose(index) {
    const choice = choices[index];
    dialog.close();
    choice?.act();
  }

  function draw() {
    choices = found(input.value.trim().toLocaleLowerCase());
    list.replaceChildren(...choices.map(option));
    input.setAttribute("aria-activedescendant", choices.length > 0 ? `palette-${at}` : "");
    list.children[at]?.scrollIntoView({ block: "nearest" });
    const none = /** @type {HTMLElement} */ (document.getElementById("palette-none"));
    none.hidden = choices.length > 0;
  }

  /** @param {Choice} choice @param {number} i */
  function option(choice, i) {
    const item = document.createElement("div");
    item.id = `palette-${i}`;
    item.className = "palette-item";
    item.dataset.at = String(i);
    item.setAttribute("role", "option");
    item.setAttribute("aria-selected", String(i === at));
    const kind = document.createElement("span");
    kind.className = "palette-kind";
    kind.textContent = choice.kind;
    const words = document.createElement("span");
    words.className = "palette-words";
    words.textContent = choice.words;
    const hint = document.createElement("span");
    hint.className = "palette-hint";
    hint.textContent = choice.hint;
    item.append(kind, words, hint);
    return item;
  }

  /** What begins with the text before what has it somewhere. @param {string} text @returns {Choice[]} */
  function found(text) {
    const all = [...actionsFor(), ...pages(), ...(text === "" ? [] : [...tasks(), ...people()])];
    const rank = (/** @type {Choice} */ { words, hint }) => {
      const low = words.toLocaleLowerCase();
      if (low.startsWith(text) || hint === text) return 0;
      if (low.includes(` ${text}`)) return 1;
      return low.includes(text) ? 2 : 3;
    };
    return all
      .map((choice) => ({ choice, by: rank(choice) }))
      .filter(({ by }) => by < 3)
      .sort((a, b) => a.by - b.by)
      .slice(0, text === "" ? all.length : MOST)
      .map(({ choice }) => choice);
  }

  /** @returns {Choice[]} */
  function actionsFor() {
    return COMMANDS.flatMap(({ commands }) => commands)
      .filter(({ unlisted }) => !unlisted)
      .map(({ name, title, keys, letter }) => ({
        kind: "Action",
        words: title,
        hint: keys ? printed(keys.split(" ")[0]).join(" ") : letter ? `${letter.toUpperCase()} on the number` : "",
        act: () => run(name),
      }));
  }

  /** The other pages of the project, as the head of this one names them. @returns {Choice[]} */
  function pages() {
    const links = /** @type {NodeListOf<HTMLAnchorElement>} */ (
      document.querySelectorAll("nav.pages a:not([aria-current])")
    );
    return [...links].map(({ textContent, href }) => ({
      kind: "Page",
      words: `Go to ${textContent}`,
      hint: "",
      act: () => location.assign(href),
    }));
  }

  /** @returns {Choice[]} */
  function tasks() {
    return store.rows
      .filter((row) => !row.unsaved)
      .map((row) => ({ kind: "Task", words: row.name, hint: row.no, act: () => show(row.id) }));
  }

  /** @returns {Choice[]} */
  function people() {
    return store.people.map((person) => {
      const count = store.rows.filter((row) => ownerOf(store, row)?.id === person.id).length;
      return {
        kind: "Person",
        words: person.name,
        hint: `show ${count === 1 ? "their task" : `their ${count} tasks`}`,
        act: () => store.show({ only: { ...store.view.only, owner: person.id } }),
      };
    });
  }
}
