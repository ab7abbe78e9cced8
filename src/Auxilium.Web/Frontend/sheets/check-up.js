// @ts-check
// Check-up: what may be wrong with the plan, why it matters, and one click that mends it.

import { element, quietButton } from "../plan/card/fields.js";
import { PlanClient } from "./client.js";

/** @typedef {{ id: string, outline: string, name: string }} FoundTask */
/** @typedef {{ kind: string, tasks: FoundTask[], sentence: string, why: string, fix: { label: string, edit: object } | null }} Finding */

const MOST_TASKS = 12;

/** What stops the plan from holding comes first. */
const PRESSING = new Set([
  "finishTooLate",
  "negativeFloat",
  "dateMissed",
  "fixedDateBreaksLink",
  "leadTooLong",
  "progressInFuture",
  "budgetPassed",
]);

const content = /** @type {HTMLElement} */ (document.getElementById("content"));
const client = new PlanClient(draw);
await draw();
document.documentElement.dataset.ready = "true";

async function draw() {
  const findings = await /** @type {Promise<Finding[]>} */ (client.ask("/check-up"));
  const pressing = findings.filter((finding) => PRESSING.has(finding.kind));
  const others = findings.filter((finding) => !PRESSING.has(finding.kind));
  const parts = [element("p", { class: "lead" }, summary(findings.length, pressing.length))];
  if (pressing.length > 0) parts.push(group("Must fix", pressing));
  if (others.length > 0) parts.push(group("Could improve", others));
  content.replaceChildren(...parts);
}

/** @param {number} all @param {number} pressing */
function summary(all, pressing) {
  if (all === 0) return "Nothing to fix or improve: this plan is sound.";
  const fixes = pressing === 1 ? "1 thing to fix" : `${pressing} things to fix`;
  const others = all - pressing;
  const suggestions = others === 1 ? "1 suggestion" : `${others} suggestions`;
  if (pressing === 0) return `${suggestions}, nothing that breaks the plan.`;
  return others === 0 ? `${fixes}.` : `${fixes}, and ${suggestions}.`;
}

/** @param {string} title @param {Finding[]} findings */
function group(title, findings) {
  return element(
    "section",
    {},
    element("h2", {}, title),
    element("div", { class: "findings" }, ...findings.map(drawFinding)),
  );
}

/**
 * Says what a fix would do, and does it only then.
 * @param {{ label: string, edit: object }} fix
 * @param {HTMLElement} asked
 * @param {HTMLElement} problem
 */
async function ask(fix, asked, problem) {
  problem.textContent = "";
  try {
    const { ripple } = await client.post("/edits?preview=true", {
      id: crypto.randomUUID(),
      baseVersion: client.version,
      edit: fix.edit,
    });
    const sentence = ripple.sentence.map((/** @type {{ text: string }} */ run) => run.text).join("");
    const go = quietButton("Apply", () => void client.edit(fix.edit, (text) => (problem.textContent = text)));
    const close = quietButton("Cancel", () => asked.replaceChildren());
    asked.replaceChildren(element("p", {}, sentence), element("div", { class: "actions" }, go, close));
    go.focus();
  } catch (error) {
    problem.textContent = /** @type {Error} */ (error).message;
  }
}

/** @param {Finding} finding */
function drawFinding(finding) {
  const problem = element("p", { class: "problem", role: "alert" });
  const tasks = element("ul", { class: "found" });
  for (const { id, outline, name } of finding.tasks.slice(0, MOST_TASKS))
    tasks.append(element("li", {}, element("a", { href: `${client.plan}#${id}` }, `${outline} ${name}`)));
  if (finding.tasks.length > MOST_TASKS)
    tasks.append(element("li", { class: "mute" }, `and ${finding.tasks.length - MOST_TASKS} more`));
  const parts = [element("h3", {}, finding.sentence), element("p", { class: "mute" }, finding.why), tasks];
  const { fix } = finding;
  if (fix) {
    const asked = element("div", { class: "fix", role: "status" });
    const button = quietButton(fix.label, () => void ask(fix, asked, problem), `${fix.label}: ${finding.sentence}`);
    parts.push(element("div", { class: "actions" }, button), asked);
  }
  return element(
    "article",
    { class: `finding${PRESSING.has(finding.kind) ? " is-pressing" : ""}`, "data-kind": finding.kind },
    ...parts,
    problem,
  );
}
