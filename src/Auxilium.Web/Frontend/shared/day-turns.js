// @ts-check
// When another day begins, a page that says what is late is shown anew; not while somebody types in it.

const OFTEN = 30_000; // milliseconds; a computer that slept through midnight notices within these

/** @param {number} seconds until the day ends @param {() => boolean} isBusy @param {() => void} turn */
export function turnWithTheDay(seconds, isBusy, turn) {
  const end = Date.now() + seconds * 1000;
  const look = () => {
    if (Date.now() < end || isBusy()) setTimeout(look, OFTEN);
    else turn();
  };
  setTimeout(look, OFTEN);
}

/** Something is open or half typed. */
function isBusy() {
  const at = /** @type {HTMLInputElement | null} */ (document.activeElement);
  return document.querySelector("main details[open]") !== null || (at?.value ?? "") !== (at?.defaultValue ?? "");
}

if (globalThis.document) turnWithTheDay(Number(document.body.dataset.dayEnds), isBusy, () => location.reload());
