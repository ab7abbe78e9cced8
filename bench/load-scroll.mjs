// @ts-check
// Measures the Load page of a running server with 500 people over two years: node bench/load-scroll.mjs [URL]
// How long frames take while scrolling, next to those of a page with as large a box and nothing else, in the same run.
import { chromium } from "@playwright/test";
import { pageToken } from "../tests/browser/page-token.mjs";
import { signIn } from "./sign-in.mjs";

const url = process.argv[2] ?? "http://127.0.0.1:5180";
const PEOPLE = 500;
const TASKS = 5_000;
const FRAMES = 120;

const people = Array.from({ length: PEOPLE }, (_, i) => ({ id: `bench-${i}`, name: `Bench Person ${i}` }));
const tasks = Array.from({ length: TASKS }, (_, i) => ({
  id: `t${i}`,
  name: `Task ${i}`,
  length: `${(i % 9) + 1}d`,
  constraint: {
    kind: "startNoEarlierThan",
    date: new Date(Date.UTC(2027, 4, 13) + ((i * 37) % 700) * 86_400_000).toISOString().slice(0, 10),
  },
  assignments: [{ person: `bench-${i % PEOPLE}` }],
}));
const document_ = { format: "auxilium-plan/1", project: { name: "Load bench", start: "2027-05-03" }, people, tasks };

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell",
  // A frame comes when the one before it is done: so that one sees what it takes.
  args: ["--no-sandbox", "--disable-gpu", "--disable-frame-rate-limit", "--disable-gpu-vsync"],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await signIn(page, url);
const headers = await pageToken(page, url);
const answer = await page.request.post(`${url}/api/v1/projects`, { headers, data: document_, timeout: 120_000 });
if (!answer.ok()) throw new Error(await answer.text());
const { id } = await answer.json();
const began = performance.now();
await page.goto(`${url}/projects/${id}/load`);
await page.locator("html[data-ready=true]").waitFor();
console.log(`${PEOPLE} people, ${TASKS} tasks: ready after ${(performance.now() - began).toFixed(0)} ms`);
const whole = performance.now();
await page.getByLabel("Period").selectOption("104");
await page.waitForFunction(() => Number(document.querySelector(".load-frame")?.getAttribute("aria-colcount")) > 700);
console.log(`two years: drawn after ${(performance.now() - whole).toFixed(0)} ms`);

/** How long each frame takes in which something is scrolled. @param {string} way */
const frames = (way) =>
  page.evaluate(
    async ({ way, count }) => {
      const frame = /** @type {HTMLElement} */ (document.querySelector(".load-frame") ?? document.scrollingElement);
      /** @type {number[]} */ const times = [];
      let before = await new Promise(requestAnimationFrame);
      for (let i = 0; i < count; i++) {
        if (way === "down") frame.scrollTop += 90;
        else frame.scrollLeft += 60;
        const now = await new Promise(requestAnimationFrame);
        times.push(now - before);
        before = now;
      }
      return times.toSorted((a, b) => a - b);
    },
    { way, count: FRAMES },
  );
/** @param {number[]} sorted */
const summary = (sorted) =>
  [0.5, 0.95, 1].map((part) => `${(sorted[Math.ceil(sorted.length * part) - 1] ?? 0).toFixed(1)} ms`).join(" / ");
for (const way of ["down", "right"]) console.log(`frames ${way}: p50 / p95 / longest ${summary(await frames(way))}`);
console.log(`elements in the page: ${await page.evaluate(() => document.querySelectorAll("*").length)}`);
await page.setContent('<div style="height:30000px;width:43000px;background:linear-gradient(red,blue)"></div>');
console.log(`frames down on a bare page: p50 / p95 / longest ${summary(await frames("down"))}`);
await browser.close();
