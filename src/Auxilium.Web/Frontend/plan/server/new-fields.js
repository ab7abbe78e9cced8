// @ts-check
// What the page is made of goes by the fields that the project had when it was loaded.

/** @import { Store } from "../state/store.js" */

/**
 * Loads the page anew once fields were added or changed, and nothing typed would be lost.
 * @param {Store} store
 * @param {() => boolean} isQuiet
 */
export function followFields(store, isQuiet) {
  const loaded = JSON.stringify(store.project.fields ?? []);
  store.subscribe(() => {
    if (JSON.stringify(store.project.fields ?? []) === loaded || !isQuiet()) return;
    const open = document.querySelector("dialog[open]");
    if (!open) location.reload();
  });
}
