// @ts-check
// What an export will look like: its pages, as the server draws them, or the first lines of its text.

import { element } from "../card/fields.js";

const PAUSE = 250; // milliseconds after the last change
const SIZE = 0.7; // of the screen's size: enough to see what stands where
const LEAST_LETTERS = 5; // points: what is lower hardly anybody can read
const MOST_LINES = 40;

/** @typedef {{ key: string, drawn?: boolean, table?: boolean }} Format */

export function showPreview() {
  const canvas = /** @type {HTMLCanvasElement} */ (element("canvas", { class: "export-page", role: "img" }));
  const text = element("pre", { class: "export-text", tabindex: "0", "aria-label": "The first lines" });
  const said = element("p", { class: "mute", role: "status" });
  const back = pageButton("Previous page", "◂", -1);
  const on = pageButton("Next page", "▸", 1);
  const frame = element("div", { class: "export-frame" }, canvas, text);
  const region = element(
    "section",
    { class: "export-preview", "aria-label": "Preview" },
    frame,
    element("div", { class: "export-pages" }, back, said, on),
  );
  let [page, pages, asked] = [1, 1, 0];
  /** @type {AbortController | null} */ let running = null;
  /** @type {{ query: URLSearchParams, address: string, format: Format } | null} */ let wanted = null;
  tell("", 0);

  return {
    element: region,
    /** @param {URLSearchParams} query @param {string} address @param {Format} format */
    show(query, address, format) {
      if (wanted && String(wanted.query) === String(query)) return;
      wanted = { query, address, format };
      page = 1;
      ask();
    },
  };

  function ask() {
    const mine = ++asked;
    region.toggleAttribute("aria-busy", true);
    region.setAttribute("aria-busy", "true");
    running?.abort();
    setTimeout(() => void (mine === asked && draw(mine)), PAUSE);
  }

  /** @param {number} mine */
  async function draw(mine) {
    if (!wanted) return;
    const { query, address, format } = wanted;
    const of = new URLSearchParams(query);
    if (format.drawn) {
      of.set("format", "png");
      of.set("size", String(SIZE));
      of.set("page", String(page));
      // The pages of a PDF are those of its paper.
      if (!of.has("fit")) of.set("fit", "page");
    } else if (format.table) {
      of.set("format", "csv");
      of.delete("marked");
    }
    running = new AbortController();
    try {
      const answer = await fetch(`${address}?${of}`, { signal: running.signal });
      if (!answer.ok) {
        const problem = await answer.json().catch(() => null);
        if (mine === asked) tell(problem?.detail ?? "The preview cannot be shown: try again in a moment.", 0);
        return;
      }
      if (format.drawn) {
        const picture = await createImageBitmap(await answer.blob());
        if (mine !== asked) return;
        [canvas.width, canvas.height] = [picture.width, picture.height];
        canvas.getContext("2d")?.drawImage(picture, 0, 0);
        tellPages(Number(answer.headers.get("X-Pages")), Number(answer.headers.get("X-Letters")));
      } else {
        const lines = (await answer.text()).split(/\r?\n/);
        if (mine !== asked) return;
        text.textContent = lines.slice(0, MOST_LINES).join("\n");
        tell(
          lines.length > MOST_LINES ? `The first ${MOST_LINES} of ${lines.length} lines` : `${lines.length} lines`,
          0,
        );
      }
      [canvas.hidden, text.hidden] = [!format.drawn, format.drawn === true];
    } catch (problem) {
      if (mine === asked && !running.signal.aborted) tell("The server does not answer: try again in a moment.", 0);
    }
  }

  /** @param {number} count @param {number} letters points that they are high */
  function tellPages(count, letters) {
    pages = count;
    const which = count === 1 ? "1 page" : `Page ${page} of ${count}`;
    const small = letters < LEAST_LETTERS;
    canvas.setAttribute("aria-label", `Preview, ${which.toLowerCase()}`);
    tell(
      small
        ? `${which}. Letters are ${letters} points high, too small to read: choose larger paper, several pages or fewer rows.`
        : `${which} · letters ${letters} points high`,
      count,
      small,
    );
  }

  /** @param {string} words @param {number} count @param {boolean} [isBad] */
  function tell(words, count, isBad = false) {
    said.textContent = words;
    said.classList.toggle("late", isBad);
    region.removeAttribute("aria-busy");
    for (const [button, isThere] of /** @type {[HTMLElement, boolean][]} */ ([
      [back, page > 1],
      [on, page < count],
    ])) {
      button.hidden = count < 2;
      /** @type {HTMLButtonElement} */ (button).disabled = !isThere;
    }
  }

  /** @param {string} label @param {string} sign @param {number} by */
  function pageButton(label, sign, by) {
    const button = element("button", { class: "button", type: "button", "aria-label": label }, sign);
    button.addEventListener("click", () => {
      page = Math.min(pages, Math.max(1, page + by));
      ask();
    });
    return button;
  }
}
