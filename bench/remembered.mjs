// @ts-check
// Measures remembering on a running server: a baseline of 10,000 rows, and a plan led back over 2,000 edits:
// node bench/remembered.mjs [URL]. Next to a bare round trip with one database query in the same run.
import { chromium } from "@playwright/test";
import { randomUUID } from "node:crypto";
import { pageToken } from "../tests/browser/page-token.mjs";
import { signIn } from "./sign-in.mjs";

const url = process.argv[2] ?? "http://127.0.0.1:5180";
const ROWS = 10_000;
const EDITS = 2_000;
const TIMES = 9;

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell",
  args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"],
});
const page = await browser.newPage();
await signIn(page, url);
const headers = await pageToken(page, url);

/** @param {number} count */
async function make(count) {
  const tasks = Array.from({ length: count }, (_, i) => ({
    id: `t${i}`,
    name: `Task ${i}`,
    length: `${1 + (i % 5)}d`,
  }));
  const links = tasks.flatMap((_, i) => (i % 10 === 0 ? [] : [{ from: `t${i - 1}`, to: `t${i}` }]));
  const data = { format: "auxilium-plan/1", project: { name: `Bench ${count}`, start: "2027-05-03" }, tasks, links };
  const answer = await page.request.post(`${url}/api/v1/projects`, { headers, data });
  if (!answer.ok()) throw new Error(await answer.text());
  return (await answer.json()).id;
}

/** @param {string} project @param {object} what */
async function edit(project, what) {
  const data = { id: randomUUID(), baseVersion: 1, overrule: true, ...what };
  const answer = await page.request.post(`${url}/api/v1/projects/${project}/edits`, { headers, data });
  if (!answer.ok()) throw new Error(await answer.text());
}

/** The middle of many, in milliseconds. @param {(at: number) => Promise<unknown>} act */
async function measure(act) {
  /** @type {number[]} */ const times = [];
  for (let i = 0; i < TIMES; i++) {
    const start = performance.now();
    await act(i);
    times.push(performance.now() - start);
  }
  return /** @type {number} */ (times.sort((a, b) => a - b)[Math.floor(TIMES / 2)]);
}

const bare = await measure(() => page.request.get(`${url}/healthz`));
console.log(`a bare round trip with one query: ${bare.toFixed(1)} ms`);
const tell = (/** @type {string} */ name, /** @type {number} */ time) =>
  console.log(`${name}: ${time.toFixed(0)} ms, ${(time / bare).toFixed(0)} of it`);

const large = await make(ROWS);
await edit(large, { edit: { type: "setLength", task: "t9", length: "9d" } });
tell(
  `an edit of one of ${ROWS} rows`,
  await measure((at) => edit(large, { edit: { type: "setLength", task: "t9", length: `${2 + at}d` } })),
);
tell(
  `a baseline of ${ROWS} rows`,
  await measure((at) => edit(large, { edit: { type: "takeBaseline", name: `Taken ${at}` } })),
);

const small = await make(100);
for (let i = 0; i < EDITS; i++)
  await edit(small, { edit: { type: "setLength", task: `t${i % 100}`, length: `${1 + (i % 7)}d` } });
tell(
  `a plan as it was ${EDITS} edits ago`,
  await measure(() => page.request.get(`${url}/api/v1/projects/${small}/plan?version=1`)),
);
tell(`the screen of it`, await measure(() => page.request.get(`${url}/projects/${small}?version=1`)));
await browser.close();
