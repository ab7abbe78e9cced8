// @ts-check
// Which baselines are drawn behind the bars, in View.

/** @import { Store } from "../state/store.js" */
import { element } from "../card/fields.js";
import { svgElement } from "../timeline/svg.js";
import { dayFrom, short } from "../state/time.js";

/** The line of a baseline, as the timeline draws it. @param {number} style */
function sample(style) {
  const svg = svgElement("svg");
  const line = svgElement("path");
  for (const [name, value] of Object.entries({ width: 34, height: 8, "aria-hidden": "true" }))
    svg.setAttribute(name, String(value));
  line.setAttribute("d", "M1 1V6H33V1");
  line.setAttribute("class", `planned style-${style}`);
  svg.append(line);
  return svg;
}

/** @param {Store} store @param {HTMLElement} list */
export function drawBaselines(store, list) {
  let drawn = "";
  store.subscribe(() => {
    const { project, view } = store;
    const shown = view.baselines ?? (project.measure === null ? [] : [project.measure]);
    const now = JSON.stringify([project.baselines, project.measure, shown]);
    if (now === drawn) return;
    drawn = now;
    const focused = /** @type {HTMLInputElement | null} */ (document.activeElement)?.value;
    const lines = project.baselines.map(({ id, name, taken, whole, rows }, at) => {
      const box = /** @type {HTMLInputElement} */ (element("input", { type: "checkbox", value: id }));
      box.checked = shown.includes(id);
      box.addEventListener("change", () =>
        store.show({
          baselines: box.checked ? [...shown, id] : shown.filter((other) => other !== id),
        }),
      );
      const of = whole ? "" : `, ${rows} ${rows === 1 ? "task" : "tasks"}`;
      const words = `${name} · ${short(dayFrom(taken))}${of}${id === project.measure ? " · drift is measured against it" : ""}`;
      return element("label", { class: "check view-baseline" }, box, sample(at % 4), words);
    });
    list.replaceChildren(
      ...(lines.length > 0
        ? lines
        : [
            element(
              "p",
              { class: "hint" },
              "None yet. A baseline remembers the plan as it is now, so that drift shows.",
            ),
          ]),
    );
    if (focused)
      /** @type {HTMLElement | null} */ (list.querySelector(`input[value="${CSS.escape(focused)}"]`))?.focus();
  });
}
