// @ts-check
// Measures the Plan screen of a running server at 10,000 tasks: node bench/plan-scroll.mjs [URL]
// Until the first rows are drawn, how long frames take while scrolling and zooming, and how much of it is in the page; next to it
// the frames of the same scrolling over a page with as tall a box and nothing else, in the same run.
import { chromium } from "@playwright/test";
import { pageToken } from "../tests/browser/page-token.mjs";
import { signIn } from "./sign-in.mjs";

const url = process.argv[2] ?? "http://127.0.0.1:5180";
const TASKS = 10_000;
const FRAMES = 120;

const tasks = Array.from({ length: TASKS }, (_, i) => ({
  id: `t${i}`,
  name: `Task ${i}`,
  length: `${(i % 4) + 1}d`,
  parent: i % 11 === 0 ? null : `t${i - (i % 11)}`,
}));
const links = tasks.flatMap((_, i) => {
  const from = i - 1 - (i % 5);
  return i % 11 !== 0 && from % 11 !== 0 && from > 0 && Math.floor(i / 400) === Math.floor(from / 400)
    ? [{ from: `t${from}`, to: `t${i}` }]
    : [];
});
const document_ = { format: "auxilium-plan/1", project: { name: "Bench", start: "2027-05-03" }, tasks, links };

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell",
  args: [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    // A frame comes when the one before it is done, and not sixty times a second: so that one sees what it takes.
    "--disable-frame-rate-limit",
    "--disable-gpu-vsync",
  ],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await signIn(page, url);
await page.addInitScript(() => {
  const observer = new MutationObserver(() => {
    if (!document.querySelector(".list-row[data-row]")) return;
    observer.disconnect();
    // The frame after the rows arrive, they are on the screen.
    const bench = /** @type {any} */ (window);
    requestAnimationFrame(() => setTimeout(() => (bench.rowsDrawn_ = performance.now())));
  });
  observer.observe(document, { childList: true, subtree: true });
});
const answer = await page.request.post(`${url}/api/v1/projects`, {
  headers: await pageToken(page, url),
  data: document_,
  timeout: 120_000,
});
if (!answer.ok()) throw new Error(await answer.text());
const { id } = await answer.json();

// The server has the plan in memory after the first look, as it has for everybody who works on it.
await page.goto(`${url}/projects/${id}`);
await page.locator("html[data-ready=true]").waitFor();
await page.goto(`${url}/projects/${id}`);
await page.locator("html[data-ready=true]").waitFor();
await page.waitForFunction(() => "rowsDrawn_" in window);
const opened = await page.evaluate(
  () => performance.getEntriesByType("paint").find((entry) => entry.name === "first-contentful-paint")?.startTime ?? 0,
);
const ready = await page.evaluate(() => /** @type {any} */ (window).rowsDrawn_);

/** How long each frame takes in which something is done. @param {string} what */
const frames = (what) =>
  page.evaluate(
    async ({ doing, count }) => {
      const board = /** @type {HTMLElement} */ (document.getElementById("board") ?? document.scrollingElement);
      /** @type {number[]} */ const times = [];
      let before = await new Promise(requestAnimationFrame);
      for (let i = 0; i < count; i++) {
        if (doing === "down") board.scrollTop += 90;
        if (doing === "right") board.scrollLeft += 40;
        if (doing === "zoom") {
          const sign = i % 40 < 20 ? -1 : 1;
          const at = { deltaY: sign * 30, ctrlKey: true, clientX: 900, clientY: 400, bubbles: true, cancelable: true };
          document.getElementById("timeline")?.dispatchEvent(new WheelEvent("wheel", at));
        }
        const now = await new Promise(requestAnimationFrame);
        times.push(now - before);
        before = now;
      }
      return times.toSorted((a, b) => a - b);
    },
    { doing: what, count: FRAMES },
  );
/** @param {number[]} sorted */
const summary = (sorted) =>
  [0.5, 0.95, 1].map((part) => `${(sorted[Math.ceil(sorted.length * part) - 1] ?? 0).toFixed(1)} ms`).join(" / ");

console.log(`${TASKS} tasks, ${links.length} links`);
console.log(`first paint ${opened.toFixed(0)} ms, rows drawn ${ready.toFixed(0)} ms after asking for the page`);
for (const what of ["down", "right", "zoom"])
  console.log(`frames ${what}: p50 / p95 / longest ${summary(await frames(what))}`);
console.log(`elements in the page: ${await page.evaluate(() => document.querySelectorAll("*").length)}`);
await page.setContent('<div style="height:300000px;width:9000px;background:linear-gradient(red,blue)"></div>');
console.log(`frames down on a bare page: p50 / p95 / longest ${summary(await frames("down"))}`);
await browser.close();
