// @ts-check
// A toolbar is one stop of the Tab key; within it the arrows go from tool to tool.

/** @param {HTMLElement} bar */
export function makeToolbar(bar) {
  const tools = () =>
    /** @type {HTMLElement[]} */ ([...bar.querySelectorAll(".tool")]).filter((tool) => tool.checkVisibility());
  let current = tools()[0];
  mark();
  bar.addEventListener("focusin", (event) => {
    const tool = /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest(".tool"));
    if (tool) current = tool;
    mark();
  });
  bar.addEventListener("keydown", (event) => {
    const all = tools();
    const at = all.indexOf(/** @type {HTMLElement} */ (event.target));
    /** @type {Record<string, number>} */
    const to = { ArrowLeft: at - 1, ArrowRight: at + 1, Home: 0, End: all.length - 1 };
    const next = to[event.key];
    if (at < 0 || next === undefined || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    all[(next + all.length) % all.length].focus();
  });

  function mark() {
    for (const tool of bar.querySelectorAll(".tool"))
      /** @type {HTMLElement} */ (tool).tabIndex = tool === current ? 0 : -1;
  }
}
