// @ts-check
// All projects: folders, favourites and status are changed where they stand, and the line above says what was done.

import { sender } from "../shared/edits.js";
import { SaidLine } from "../shared/said.js";

const main = /** @type {HTMLElement} */ (document.getElementById("main"));
const line = new SaidLine("projects");
const send = sender(main.dataset.token ?? "");
/** Id of the project that is dragged. */ let dragged = "";

main.addEventListener("click", (event) => {
  const target = /** @type {HTMLElement} */ (event.target);
  for (const open of /** @type {NodeListOf<HTMLDetailsElement>} */ (main.querySelectorAll("details.menu[open]")))
    if (!open.contains(target)) open.open = false;
  const button = /** @type {HTMLElement | null} */ (target.closest("button[data-act]"));
  if (!button) return;
  switch (button.dataset.act) {
    case "favourite":
      return void favour(button, button.getAttribute("aria-pressed") !== "true");
    case "fold":
      return void fold(button);
    case "delete-folder":
      return void deleteFolder(button);
  }
});
main.addEventListener("change", (event) => {
  const input = /** @type {HTMLSelectElement} */ (event.target);
  if (input.form?.id === "projects-view") return input.form.requestSubmit();
  const project = /** @type {HTMLElement | null} */ (input.closest("[data-project]"));
  if (!project) return;
  if (input.dataset.act === "folder") void put(project, input.value, problemOf(input));
  if (input.dataset.act === "status") void setStatus(project, input);
});
main.addEventListener("submit", (event) => {
  const form = /** @type {HTMLFormElement} */ (event.target);
  if (!form.dataset.act) return;
  event.preventDefault();
  void saveFolder(form);
});
main.addEventListener("keydown", (event) => {
  const menu = /** @type {HTMLDetailsElement | null} */ (
    /** @type {HTMLElement} */ (event.target).closest("details.menu[open]")
  );
  if (event.key !== "Escape" || !menu) return;
  menu.open = false;
  menu.querySelector("summary")?.focus();
});
main.addEventListener("dragstart", (event) => {
  const project = /** @type {HTMLElement | null} */ (
    /** @type {HTMLElement} */ (event.target).closest("[data-project]")
  );
  if (!project || !event.dataTransfer) return;
  dragged = project.dataset.project ?? "";
  event.dataTransfer.effectAllowed = "move";
  event.dataTransfer.setData("text/plain", project.querySelector("a")?.textContent ?? "");
});
main.addEventListener("dragover", (event) => {
  const folder = dragged ? dropAt(event) : null;
  mark(folder);
  if (folder) event.preventDefault();
});
main.addEventListener("drop", (event) => {
  const folder = dropAt(event);
  const project = /** @type {HTMLElement | null} */ (main.querySelector(`[data-project="${dragged}"]`));
  if (!folder || !project) return;
  event.preventDefault();
  void put(project, folder.dataset.folder ?? "", (problem) => line.say(problem));
});
main.addEventListener("dragend", () => {
  dragged = "";
  mark(null);
});
document.documentElement.dataset.ready = "true";

/** @param {DragEvent} event @returns {HTMLElement | null} */
const dropAt = (event) => /** @type {HTMLElement} */ (event.target).closest('[data-drop="true"]');

/** Shows where the dragged project would go. @param {HTMLElement | null} folder */
function mark(folder) {
  for (const other of main.querySelectorAll(".is-target")) if (other !== folder) other.classList.remove("is-target");
  folder?.classList.add("is-target");
}

/** @param {HTMLElement} project @param {string} folder its id, or none @param {(problem: string) => void} tell */
async function put(project, folder, tell) {
  const name = project.querySelector("a")?.textContent ?? "";
  const { project: id = "" } = project.dataset;
  const select = /** @type {HTMLSelectElement | null} */ (project.querySelector('[data-act="folder"]'));
  const before = select ? ([...select.options].find((option) => option.defaultSelected)?.value ?? "") : "";
  if (before === folder) return;
  const move = async (/** @type {string} */ to) => {
    const answer = await send("PUT", `/api/v1/projects/${id}/folder`, { folder: to === "" ? null : to });
    if ("problem" in answer) {
      tell(answer.problem);
      return null;
    }
    await redraw();
    return answer.folder ? `${name} is in ${answer.folder}.` : `${name} is in no folder.`;
  };
  const said = await move(folder);
  if (said) line.say(said, async () => line.say((await move(before)) ?? ""));
}

/** @param {HTMLElement} project @param {HTMLSelectElement} select */
async function setStatus(project, select) {
  const edit = { type: "setProjectStatus", status: select.value };
  if (await line.edit(send, project, edit, problemOf(select), () => void redraw())) await redraw();
}

/** @param {HTMLElement} button @param {boolean} on */
async function favour(button, on) {
  const project = /** @type {HTMLElement} */ (button.closest("[data-project]"));
  const name = project.querySelector("a")?.textContent ?? "";
  const answer = await send("PUT", `/api/v1/projects/${project.dataset.project}/favourite`, { on });
  if ("problem" in answer) return line.say(answer.problem);
  await redraw();
  line.say(on ? `${name} is one of your favourites.` : `${name} is no longer one of your favourites.`);
}

/** @param {HTMLElement} button */
async function fold(button) {
  const folder = /** @type {HTMLElement} */ (button.closest("[data-folder]"));
  const on = button.getAttribute("aria-expanded") === "true";
  button.setAttribute("aria-expanded", String(!on));
  /** @type {HTMLElement} */ (folder.querySelector(".folder-body")).hidden = on;
  const answer = await send("PUT", `/api/v1/folders/${folder.dataset.folder}/folded`, { on });
  if ("problem" in answer) line.say(answer.problem);
}

/** Makes a folder, or gives one a name and a place. @param {HTMLFormElement} form */
async function saveFolder(form) {
  const fields = new FormData(form);
  const body = { name: fields.get("name"), parent: fields.get("parent") || null };
  const folder = /** @type {HTMLElement | null} */ (form.closest("[data-folder]"))?.dataset.folder;
  const answer =
    form.dataset.act === "make-folder"
      ? await send("POST", "/api/v1/folders", body)
      : await send("PUT", `/api/v1/folders/${folder}`, body);
  if ("problem" in answer) {
    problemOf(form)(answer.problem);
    /** @type {HTMLElement | null} */ (form.querySelector("input"))?.focus();
    return;
  }
  form.closest("details")?.removeAttribute("open");
  await redraw();
  line.say(
    form.dataset.act === "make-folder" ? `The folder ${answer.name} is there.` : `The folder ${answer.name} is saved.`,
  );
}

/** @param {HTMLElement} button */
async function deleteFolder(button) {
  const folder = /** @type {HTMLElement} */ (button.closest("[data-folder]"));
  const name = folder.getAttribute("aria-label");
  const answer = await send("DELETE", `/api/v1/folders/${folder.dataset.folder}`);
  if ("problem" in answer) return problemOf(button)(answer.problem);
  await redraw();
  line.say(`The folder ${name} is deleted. Its projects stay.`);
}

/** Shows everything as it is now; the focus stays where it was. */
async function redraw() {
  const page = await fetch("/projects").then(
    (answer) => (answer.ok ? answer.text() : null),
    () => null,
  );
  const now = page ? new DOMParser().parseFromString(page, "text/html").getElementById("projects") : null;
  const shown = document.getElementById("projects");
  if (!now || !shown) return;
  const active = /** @type {HTMLElement | null} */ (document.activeElement);
  const key = (active?.closest("details.menu") ?? active)?.getAttribute("data-key");
  shown.replaceWith(document.adoptNode(now));
  if (!key) return;
  const place = /** @type {HTMLElement | null} */ (main.querySelector(`[data-key="${key}"]`));
  (place?.querySelector("summary") ?? place)?.focus();
}

/** @param {HTMLElement} from @returns {(problem: string) => void} */
function problemOf(from) {
  const place = from.closest(".menu-body, form")?.querySelector(".problem");
  return (problem) => {
    if (place) place.textContent = problem;
    else line.say(problem);
  };
}
