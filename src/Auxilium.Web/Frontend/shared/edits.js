// @ts-check
// How pages outside the Plan screen send what was done on them.

/**
 * @param {string} token of the page
 * @returns {(method: string, path: string, content?: object) => Promise<any>} the answer, or `{ problem }` with the sentence that says
 * what is wrong
 */
export const sender = (token) => async (method, path, content) => {
  const headers = { "Content-Type": "application/json", "X-Auxilium-Token": token };
  const body = content === undefined ? {} : { body: JSON.stringify(content) };
  // What was sent arrives even if the page is left at once.
  const answer = await fetch(path, { method, headers, keepalive: true, ...body }).catch(() => null);
  if (!answer) return { problem: "The server does not answer. What you entered is still here: try again in a moment." };
  const told = answer.status === 204 ? {} : await answer.json().catch(() => ({}));
  if (!answer.ok) return { problem: told.errors?.[0]?.message ?? told.detail ?? told.title ?? "That did not work." };
  return told;
};
