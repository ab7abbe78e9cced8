// @ts-check
// The Plan screen as a person uses it.

/** @import { Page, Locator } from "@playwright/test" */
import { pageToken } from "./page-token.mjs";

export class PlanScreen {
  /** @param {Page} page @param {string} url */
  constructor(page, url) {
    this.page = page;
    this.url = url;
    this.strip = page.locator("#strip").getByRole("status");
    this.newTask = page.getByRole("textbox", { name: "New task" });
    this.problem = page.getByRole("alert").filter({ visible: true });
    this.gauge = page.getByRole("img", { name: /^Starts/ });
    this.undo = page.getByRole("button", { name: "Undo" });
  }

  /** Opens a project of the demo. @param {string} name */
  async open(name) {
    await this.page.goto("/projects");
    await this.page.getByRole("link", { name }).click();
    await this.ready();
  }

  /** Makes a project and stands in its empty list. @param {string} name @param {string} [start] */
  async create(name, start = "3 May") {
    await this.page.goto("/projects");
    await this.page.getByRole("link", { name: "New project" }).first().click();
    await this.page.getByLabel("Name").fill(name);
    await this.page.getByLabel("Start date").fill(start);
    await this.page.getByRole("button", { name: "Create project" }).click();
    await this.ready();
  }

  async ready() {
    await this.page.locator("html[data-ready=true]").waitFor();
  }

  /** Makes a project from a plan document and opens it. @param {object} document */
  async bringIn(document) {
    const answer = await this.page.request.post("/api/v1/projects", {
      data: document,
      headers: await pageToken(this.page),
    });
    if (!answer.ok()) throw new Error(await answer.text());
    const { id } = await answer.json();
    await this.page.goto(`/projects/${id}`);
    await this.ready();
    return id;
  }

  /** Types names, each followed by Enter, into the empty row at the end. @param {string[]} names */
  async typeTasks(...names) {
    await this.newTask.focus();
    for (const name of names) {
      await this.page.keyboard.type(name);
      await this.page.keyboard.press("Enter");
    }
    await this.saved();
  }

  /** Types into a cell and keeps it. @param {string} row @param {string} column @param {string} text */
  async type(row, column, text) {
    await this.cell(row, column).click();
    await this.page.keyboard.press("F2");
    await this.page.keyboard.press("Control+A");
    if (text === "") await this.page.keyboard.press("Delete");
    else await this.page.keyboard.type(text);
    await this.page.keyboard.press("Enter");
  }

  /** Waits until every row has its number, which it gets when it is saved. */
  async saved() {
    await this.page.waitForFunction(
      () =>
        ![...document.querySelectorAll(".list-row.is-pending, .cell-no")].some(
          (e) => e.matches(".is-pending") || e.textContent === "",
        ),
    );
  }

  /** @param {string} name @returns {Locator} */
  row(name) {
    return this.page.getByRole("row").filter({ has: this.page.getByRole("rowheader", { name, exact: true }) });
  }

  /** @param {string} row @param {string} column @returns {Locator} */
  cell(row, column) {
    return this.row(row).locator(`[data-col="${column}"]`);
  }

  /** @param {string} name @returns {Locator} */
  bar(name) {
    return this.page.getByRole("img", { name: new RegExp(`^${name}, `) });
  }

  /** Every row as "number name". */
  async outline() {
    return this.page
      .locator(".list-row:not(.list-new)")
      .evaluateAll((rows) =>
        rows
          .toSorted((a, b) => Number(a.getAttribute("aria-rowindex")) - Number(b.getAttribute("aria-rowindex")))
          .map((row) => `${row.children[0].textContent} ${row.children[1].textContent}`),
      );
  }
}
