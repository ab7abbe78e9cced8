// @ts-check
// What a page fetches only when it is wanted: once, and again when it could not be had.

/**
 * @template T
 * @param {() => Promise<T>} fetch imports the part and makes it
 * @param {(sentence: string) => void} [tell] where it is said that the part cannot be had; without it nothing is said
 * @returns {(use: (part: T) => unknown, tell?: (sentence: string) => void) => Promise<void>} hands it over, or tells that it cannot be had
 */
export function part(fetch, tell = () => {}) {
  /** @type {Promise<T> | null} */ let kept = null;
  return async (use, complain = tell) => {
    kept ??= fetch();
    const asked = kept;
    const made = await asked.then(
      (it) => ({ it }),
      () => null,
    );
    if (made) use(made.it);
    else {
      if (kept === asked) kept = null;
      complain("This part of the page could not be fetched. Try again once the server can be reached.");
    }
  };
}
