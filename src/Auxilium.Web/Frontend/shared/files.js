// @ts-check
// Files that people add: how large they may be, and how that is said.

const MOST_BYTES = 10 * 1024 * 1024;

/** What stands in the way of sending a file; empty when nothing does. @param {File} file */
export const whyTooLarge = (file) =>
  file.size > MOST_BYTES ? `“${file.name}” has ${Math.ceil(file.size / 1e6)} MB: a file has at most 10 MB.` : "";

/** @param {number} bytes */
export const sizeOf = (bytes) =>
  bytes < 1000 ? `${bytes} B` : bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;

/**
 * Asks for files, which a button does that says what for.
 * @param {boolean} many whether several can be chosen
 * @returns {Promise<File[]>} none where nothing was chosen
 */
export function chooseFiles(many) {
  const input = document.createElement("input");
  input.type = "file";
  input.multiple = many;
  return new Promise((resolve) => {
    input.addEventListener("change", () => resolve([...(input.files ?? [])]));
    input.addEventListener("cancel", () => resolve([]));
    input.click();
  });
}
