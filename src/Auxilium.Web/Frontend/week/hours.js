// @ts-check
// The week sheet: cells are typed, moved through and pasted as in a spreadsheet. Each is saved as it is left.

const main = /** @type {HTMLElement} */ (document.getElementById("main"));
const sheet = /** @type {HTMLTableElement | null} */ (document.getElementById("hours"));
const said = /** @type {HTMLElement} */ (document.getElementById("hours-said"));

if (sheet) {
  const body = sheet.tBodies[0];
  const rows = () =>
    /** @type {HTMLTableRowElement[]} */ ([...body.rows].filter((row) => row.dataset.task && !row.hidden));
  const cellsOf = (/** @type {HTMLTableRowElement} */ row) =>
    /** @type {HTMLInputElement[]} */ ([...row.querySelectorAll(".hours-cell")]);
  offer();
  sum();

  sheet.addEventListener("change", (event) => {
    if (event.target instanceof HTMLInputElement) void save(event.target);
  });
  sheet.addEventListener("keydown", (event) => {
    const cell = event.target;
    if (!(cell instanceof HTMLInputElement) || event.altKey || event.ctrlKey || event.metaKey) return;
    const row = /** @type {HTMLTableRowElement} */ (cell.closest("tr"));
    const [line, col] = [rows().indexOf(row), cellsOf(row).indexOf(cell)];
    const isAll = cell.selectionStart === 0 && cell.selectionEnd === cell.value.length;
    const at = cell.selectionStart === cell.selectionEnd ? cell.selectionStart : null;
    const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], Enter: [1, 0] }[event.key];
    if (step) move(line + step[0], col);
    else if (event.key === "ArrowLeft" && (isAll || at === 0)) move(line, col - 1);
    else if (event.key === "ArrowRight" && (isAll || at === cell.value.length)) move(line, col + 1);
    else if (event.key === "Escape") {
      cell.value = cell.defaultValue;
      tell(cell, "");
      return;
    } else return;
    event.preventDefault();
  });
  sheet.addEventListener("focusin", ({ target }) => {
    if (target instanceof HTMLInputElement) target.select();
  });
  sheet.addEventListener("paste", (event) => {
    const cell = event.target;
    const text = event.clipboardData?.getData("text/plain") ?? "";
    if (!(cell instanceof HTMLInputElement) || !/[\t\n]/.test(text.trimEnd())) return;
    event.preventDefault();
    const row = /** @type {HTMLTableRowElement} */ (cell.closest("tr"));
    const [line, col] = [rows().indexOf(row), cellsOf(row).indexOf(cell)];
    const pasted = text.replace(/\r/g, "").replace(/\n+$/, "").split("\n");
    pasted.forEach((values, down) => {
      const to = rows()[line + down];
      values.split("\t").forEach((value, right) => {
        const into = to && cellsOf(to)[col + right];
        if (!into) return;
        into.value = value.trim();
        void save(into);
      });
    });
    const lost = line + pasted.length - rows().length;
    if (lost > 0) say(`${lost} ${lost === 1 ? "line" : "lines"} of what was pasted had no row: add the tasks first.`);
  });

  /** @param {number} line @param {number} col */
  function move(line, col) {
    const row = rows()[line];
    if (row) cellsOf(row)[col]?.focus();
  }

  /** Saved one after another, so that the sum of a day is known to each. */
  let queue = Promise.resolve();

  /** @param {HTMLInputElement} cell */
  function save(cell) {
    if (cell.value.trim() === cell.defaultValue.trim()) {
      tell(cell, "");
      return queue;
    }
    queue = queue.then(() => send(cell));
    return queue;
  }

  /** @param {HTMLInputElement} cell */
  async function send(cell) {
    const row = /** @type {HTMLTableRowElement} */ (cell.closest("tr"));
    const typed = cell.value.trim();
    const hours = typed === "" ? "0" : typed;
    const person = main.dataset.own === "true" ? {} : { person: main.dataset.person };
    const answer = await fetch(`/api/v1/projects/${row.dataset.project}/tasks/${row.dataset.task}/hours`, {
      method: "PUT",
      headers: { "Content-Type": "application/json", "X-Auxilium-Token": main.dataset.token ?? "" },
      body: JSON.stringify({ day: cell.dataset.day, hours, ...person }),
    }).catch(() => null);
    const content = await answer?.json().catch(() => ({}));
    if (!answer?.ok) {
      tell(
        cell,
        content?.detail ??
          content?.errors?.[0]?.message ??
          "The server does not answer: what you typed is still here. Try again.",
      );
      return;
    }
    tell(cell, "");
    cell.dataset.minutes = String(content.minutes);
    const text = content.minutes === 0 ? "" : String(Math.round(content.minutes / 0.6) / 100);
    cell.defaultValue = text;
    // What is typed on meanwhile is not overwritten.
    if (cell.value.trim() === typed) cell.value = text;
    sum();
    say(`${cell.getAttribute("aria-label")}: ${content.minutes === 0 ? "no hours" : content.text}, saved.`);
  }

  /** What is wrong with a cell, in a line below its row. @param {HTMLInputElement} cell @param {string} problem */
  function tell(cell, problem) {
    const row = /** @type {HTMLTableRowElement} */ (cell.closest("tr"));
    const id = `problem-${row.dataset.task}-${cell.dataset.day}`;
    document.getElementById(id)?.closest("tr")?.remove();
    cell.removeAttribute("aria-invalid");
    cell.removeAttribute("aria-describedby");
    if (problem === "") return;
    cell.setAttribute("aria-invalid", "true");
    cell.setAttribute("aria-describedby", id);
    const line = body.insertRow(row.sectionRowIndex + 1);
    const place = line.insertCell();
    place.colSpan = 9;
    const words = document.createElement("p");
    words.className = "problem";
    words.id = id;
    words.setAttribute("role", "alert");
    words.textContent = `${cell.getAttribute("aria-label")}: ${problem}`;
    place.append(words);
  }

  function sum() {
    const days = new Array(8).fill(0);
    for (const row of rows()) {
      const minutes = cellsOf(row).map((cell) => Number(cell.dataset.minutes));
      const all = minutes.reduce((a, b) => a + b, 0);
      minutes.forEach((one, i) => (days[i] += one));
      days[7] += all;
      /** @type {HTMLElement} */ (row.querySelector(".hours-sum")).textContent = hoursText(all);
    }
    [.../** @type {HTMLTableSectionElement} */ (sheet?.tFoot).querySelectorAll(".hours-sum")].forEach(
      (cell, i) => (cell.textContent = hoursText(days[i])),
    );
    /** @type {HTMLElement} */ (document.getElementById("hours-none")).hidden = rows().length > 0;
  }

  /** Tasks that are not shown can be added, and those of last week all at once. */
  function offer() {
    const add = /** @type {HTMLSelectElement} */ (document.getElementById("hours-add"));
    const copy = /** @type {HTMLButtonElement} */ (document.getElementById("hours-copy"));
    const hidden = () => /** @type {HTMLTableRowElement[]} */ ([...body.rows].filter((row) => row.hidden));
    const draw = () => {
      const words = (/** @type {HTMLTableRowElement} */ row) =>
        `${row.dataset.name} · ${row.querySelector("th .mute")?.textContent ?? ""}`;
      const key = (/** @type {HTMLTableRowElement} */ row) => `${row.dataset.project} ${row.dataset.task}`;
      add.replaceChildren(new Option("Choose…", ""), ...hidden().map((row) => new Option(words(row), key(row))));
      /** @type {HTMLElement} */ (add.closest("label")).hidden = hidden().length === 0;
      copy.hidden = hidden().every((row) => row.dataset.last !== "true");
    };
    add.addEventListener("change", () => {
      const row = hidden().find(({ dataset }) => `${dataset.project} ${dataset.task}` === add.value);
      if (row) show([row]);
    });
    copy.addEventListener("click", () => show(hidden().filter((row) => row.dataset.last === "true")));
    draw();

    /** @param {HTMLTableRowElement[]} added */
    function show(added) {
      for (const row of added) row.hidden = false;
      draw();
      sum();
      cellsOf(added[0])[0]?.focus();
    }
  }
}

/** @param {number} minutes */
function hoursText(minutes) {
  return minutes === 0 ? "" : `${Math.round(minutes / 0.6) / 100} h`;
}

/** @param {string} text */
function say(text) {
  said.textContent = text;
}

document.documentElement.dataset.ready = "true";
