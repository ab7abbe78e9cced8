// @ts-check
// Measures Now and the Projects page of a running server with 200 projects of 100 tasks each: node bench/projects-page.mjs [URL]
// Next to a bare round trip with one database query in the same run.
import { chromium } from "@playwright/test";
import { pageToken } from "../tests/browser/page-token.mjs";
import { signIn } from "./sign-in.mjs";

const url = process.argv[2] ?? "http://127.0.0.1:5180";
const PROJECTS = 200;
const TASKS = 100;
const TIMES = 40;

const tasks = Array.from({ length: TASKS }, (_, i) => ({ id: `t${i}`, name: `Task ${i}`, length: `${1 + (i % 5)}d` }));
const links = tasks.flatMap((_, i) => (i % 10 === 0 ? [] : [{ from: `t${i - 1}`, to: `t${i}` }]));

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell",
  args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"],
});
const page = await browser.newPage();
await signIn(page, url);
const headers = await pageToken(page, url);
for (let i = 0; i < PROJECTS; i++) {
  const project = { name: `Bench ${i}`, start: "2027-05-03", finishBy: "2027-09-30" };
  const data = { format: "auxilium-plan/1", project, tasks, links };
  const answer = await page.request.post(`${url}/api/v1/projects`, { headers, data });
  if (!answer.ok()) throw new Error(await answer.text());
}

/** Milliseconds that asking takes, the middle of many and of twenty the slowest. @param {string} path */
async function measure(path) {
  /** @type {number[]} */ const times = [];
  for (let i = 0; i < TIMES; i++) {
    const start = performance.now();
    const answer = await page.request.get(url + path);
    await answer.body();
    times.push(performance.now() - start);
  }
  times.sort((a, b) => a - b);
  const at = (/** @type {number} */ part) => /** @type {number} */ (times[Math.floor(times.length * part)]);
  return { p50: at(0.5), p95: at(0.95) };
}

/** How the projects are shown from now on. @param {string} look */
async function show(look) {
  const form = { look, statuses: "active" };
  const answer = await page.request.post(`${url}/projects?handler=View`, { headers, form });
  if (!answer.ok()) throw new Error(await answer.text());
}

const told = (/** @type {{ p50: number, p95: number }} */ { p50, p95 }) =>
  `p50 ${p50.toFixed(1)} ms, p95 ${p95.toFixed(1)} ms`;
await measure("/healthz");
const bare = await measure("/healthz");
console.log(`a bare round trip with one query: ${told(bare)}`);
/** @param {string} name @param {string} path */
async function tell(name, path) {
  await page.request.get(url + path);
  const times = await measure(path);
  console.log(`${name}: ${told(times)}, ${(times.p50 / bare.p50).toFixed(1)} of it`);
}
await tell("Now", "/");
for (const look of ["cards", "table", "timeline"]) {
  await show(look);
  await tell(`the Projects page as ${look}`, "/projects");
}
await tell("the list of projects by the API", "/api/v1/projects");
await tell("My week", "/my-week");
await browser.close();
