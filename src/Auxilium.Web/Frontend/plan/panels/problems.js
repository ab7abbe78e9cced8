// @ts-check
// What is wrong, in a sentence at the cell it was typed in; where two people differ, the choice between both.

/** @import { Store } from "../state/store.js" */
/** @import { ListView } from "../list/list.js" */
/** @import { Actions } from "../commands/actions.js" */

/** @param {Store} store @param {ListView} list @param {Actions} actions @param {HTMLElement} board */
export function drawProblems(store, list, actions, board) {
  const bubble = document.createElement("div");
  bubble.className = "bubble";
  bubble.id = "problem";
  bubble.setAttribute("role", "alert");
  bubble.hidden = true;
  board.append(bubble);
  let shown = "";
  store.subscribe(draw);
  board.addEventListener("scroll", place, { passive: true });

  /** Of the cell that has the focus, else the newest. */
  function problem() {
    const { current } = store;
    const here = current ? `${current.id}/${current.col}` : "";
    const at = store.drafts.get(here)?.problem ? here : store.problemAt;
    const draft = at === null ? undefined : store.drafts.get(at);
    return at !== null && draft?.problem ? { at, draft } : null;
  }

  function draw() {
    const found = problem();
    const now = found ? found.at + found.draft.problem : "";
    if (now !== shown) {
      bubble.replaceChildren(...(found ? content(found.at, found.draft) : []));
      bubble.hidden = !found;
      shown = now;
    }
    place();
  }

  function place() {
    const found = problem();
    if (!found) return;
    const [id, col] = found.at.split("/");
    const cell = list.cell(id, col)?.getBoundingClientRect();
    const frame = board.getBoundingClientRect();
    const left = cell ? cell.left - frame.left : 40;
    const below = cell ? cell.bottom - frame.top + 4 : 60;
    const above = cell ? cell.top - frame.top - bubble.offsetHeight - 4 : 0;
    // Somebody who moved on to the next row sees where they are.
    const gone = store.current && found.at !== `${store.current.id}/${store.current.col}`;
    const fits = below + bubble.offsetHeight < board.clientHeight;
    const top = cell && (!fits || (gone && above > 0)) ? above : below;
    bubble.style.left = `${board.scrollLeft + Math.max(4, Math.min(left, board.clientWidth - bubble.offsetWidth - 8))}px`;
    bubble.style.top = `${board.scrollTop + top}px`;
  }

  /** @param {string} at @param {import("../state/types.js").Draft} draft */
  function content(at, draft) {
    const sentence = document.createElement("p");
    sentence.textContent = draft.problem ?? "";
    const { conflict } = draft;
    if (!conflict) return [sentence];
    const choices = document.createElement("div");
    choices.className = "actions";
    choices.append(
      choice(`Keep “${conflict.theirs}”`, () => actions.keepTheirs(at)),
      choice(`Use “${conflict.yours}”`, conflict.resend),
    );
    return [sentence, choices];
  }

  /** @param {string} label @param {() => void} act */
  function choice(label, act) {
    const button = document.createElement("button");
    button.type = "button";
    button.className = "button";
    button.textContent = label;
    button.addEventListener("click", () => {
      act();
      // Go back to where the focus was, not to the top of the page.
      if (store.current) list.focus(store.current.id, store.current.col, { keepRange: true });
      else document.getElementById("new-task")?.focus();
    });
    return button;
  }
}
