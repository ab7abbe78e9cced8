// @ts-check
// What the browser keeps for one person: nobody else who signs in there gets any of it.

/** What the keys of edits begin with that were not saved yet. @param {string} me id of the person */
export const unsentOf = (me) => `auxilium-unsent:${me}:`;

/** What the keys of views begin with that were not saved yet. @param {string} me id of the person */
export const viewsOf = (me) => `auxilium-view:${me}:`;

/** The key of how somebody exported last. @param {string} me id of the person */
export const exportOf = (me) => `auxilium-export:${me}`;

/** How many edits of somebody were not saved yet, in all projects. @param {string} me */
export function unsavedEdits(me) {
  return keysOf(unsentOf(me)).reduce((count, key) => {
    try {
      return count + JSON.parse(localStorage.getItem(key) ?? "[]").length;
    } catch {
      return count;
    }
  }, 0);
}

/** Forgets all that is kept for somebody. @param {string} me */
export function forget(me) {
  for (const key of [...keysOf(unsentOf(me)), ...keysOf(viewsOf(me)), exportOf(me)]) localStorage.removeItem(key);
}

/** @param {string} prefix */
const keysOf = (prefix) => Object.keys(localStorage).filter((key) => key.startsWith(prefix));
