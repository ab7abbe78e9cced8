// @ts-check
// Typing in a cell: one field at a time, over the cell it belongs to.

/** @import { Store } from "../state/store.js" */
/** @import { ListView } from "./list.js" */
/** @import { Actions } from "../commands/actions.js" */
import { fieldOf } from "../fields/fields.js";
import { columnsOf, editorText } from "./columns.js";
import { rescue } from "../panels/rescue.js";

export class CellEditor {
  #store;
  #list;
  #actions;
  /** @type {{ id: string, name: string, col: string, cell: HTMLElement, input: HTMLInputElement } | null} */ #open =
    null;

  /** @param {Store} store @param {ListView} list @param {Actions} actions */
  constructor(store, list, actions) {
    this.#store = store;
    this.#list = list;
    this.#actions = actions;
    store.subscribe(() => {
      if (this.#open && !store.row(this.#open.id)) this.#rescue();
    });
  }

  /** Somebody removed the row: what was typed for it is kept, and offered as a new one. */
  #rescue() {
    if (!this.#open) return;
    const { col, input, name } = this.#open;
    const text = input.value.trim();
    this.#open = null;
    this.#store.typing = null;
    if (text === "") return;
    rescue(this.#store, name, col, text);
  }

  get isOpen() {
    return this.#open !== null;
  }

  /** @param {string} id @param {string} col @param {string} [typed] replaces what the cell holds */
  open(id, col, typed) {
    this.close(true);
    const column = col === "no" ? "name" : col;
    const row = this.#store.row(id);
    const field = fieldOf(column);
    if (!row || !field.edit) return;
    if (this.#store.whyNot !== null) {
      this.#store.tell(this.#store.whyNot);
      return;
    }
    this.#list.focus(id, column, { keepRange: this.#store.selection.has(id) });
    this.#store.beginTyping();
    const cell = this.#list.cell(id, column);
    if (!cell) return;
    const input = document.createElement("input");
    const draft = this.#store.drafts.get(`${id}/${column}`);
    input.className = "editor";
    input.value = typed ?? draft?.text ?? editorText(this.#store, row, column);
    input.autocomplete = "off";
    input.setAttribute("aria-label", `${field.label} of ${row.name || "the new row"}`);
    if (draft?.problem) {
      input.setAttribute("aria-invalid", "true");
      input.setAttribute("aria-describedby", "problem");
    }
    field.assist?.(this.#store, input, row);
    cell.classList.add("is-editing");
    cell.replaceChildren(input);
    this.#open = { id, name: row.name, col: column, cell, input };
    input.focus({ preventScroll: true });
    if (typed === undefined) input.select();
    // Typed over a cell, as in a sheet, the arrows keep it and go on; to mend a text they move in it.
    const leaves = typed !== undefined && !input.hasAttribute("list") ? ["ArrowUp", "ArrowDown"] : [];
    input.addEventListener("keydown", (event) => this.#onKey(event, leaves));
    input.addEventListener("blur", () => this.close(true));
  }

  /** @param {boolean} keep what was typed */
  close(keep) {
    if (!this.#open) return;
    const { id, col, cell, input } = this.#open;
    if (!this.#store.row(id)) {
      this.#rescue();
      return;
    }
    this.#open = null;
    cell.classList.remove("is-editing");
    const empty = this.#store.row(id)?.unsaved && input.value.trim() === "" && col === "name";
    if (keep && !empty) this.#actions.type(id, col, input.value);
    else this.#actions.abandon(id, col);
    this.#store.typing = null;
    // The list fills the cell again, even if nothing changed.
    this.#list.refill(id);
    this.#store.changed();
  }

  /** @param {KeyboardEvent} event @param {string[]} leaves arrows that leave the cell */
  #onKey(event, leaves) {
    event.stopPropagation();
    if (!this.#open || event.isComposing) return;
    const { id, col } = this.#open;
    if (leaves.includes(event.key)) {
      event.preventDefault();
      this.close(true);
      this.#below(id, col, event.key === "ArrowUp" ? -1 : 1);
    } else if (event.key === "Enter" || event.key === "Tab") {
      event.preventDefault();
      this.close(true);
      // What was typed for all picked rows leaves them picked.
      if (this.#store.selection.size > 1 && this.#store.selection.has(id))
        this.#list.focus(id, col, { keepRange: true });
      else if (event.key === "Tab") this.#beside(id, col, event.shiftKey ? -1 : 1);
      else this.#below(id, col, event.shiftKey ? -1 : 1);
    } else if (event.key === "Escape") {
      event.preventDefault();
      this.close(false);
      if (this.#store.row(id)) this.#list.focus(id, col);
    }
  }

  /** @param {string} id @param {string} col @param {number} step */
  #below(id, col, step) {
    const next = this.#store.shown[(this.#store.line.get(id) ?? 0) + step];
    if (next) this.#list.focus(next.id, col);
    else if (step > 0) document.getElementById("new-task")?.focus();
  }

  /** @param {string} id @param {string} col @param {number} step */
  #beside(id, col, step) {
    const columns = columnsOf(this.#store);
    const at = columns.findIndex((c) => c.key === col) + step;
    if (at >= 0 && at < columns.length) this.#list.focus(id, columns[at].key);
    else this.#below(id, step > 0 ? columns[1].key : columns[columns.length - 1].key, step);
  }
}
