// @ts-check
// Measures the Plan screen of a running server at 1,000 tasks: node bench/plan-page.mjs [URL]
// From key press to the saved and redrawn plan, next to a bare round trip with one database query in the same run; bytes sent.
import { chromium } from "@playwright/test";
import { pageToken } from "../tests/browser/page-token.mjs";
import { signIn } from "./sign-in.mjs";

const url = process.argv[2] ?? "http://127.0.0.1:5180";
const TASKS = 1_000;
const EDITS = 60;
const DRAGS = 120;

const tasks = Array.from({ length: TASKS }, (_, i) => ({
  id: `t${i}`,
  name: `Task ${i}`,
  length: "1d",
  parent: i % 11 === 0 ? null : `t${i - (i % 11)}`,
}));
// Each task waits for one seven to twelve rows above it, so that an early one moves most of the plan.
const links = tasks.flatMap((_, i) => {
  const before = i - 7 - (i % 5);
  const from = before % 11 === 0 ? before - 1 : before;
  return from > 0 && i % 11 !== 0 ? [{ from: `t${from}`, to: `t${i}` }] : [];
});
const first = [...new Set(links.map((link) => link.from))].slice(0, 4);
const document_ = { format: "auxilium-plan/1", project: { name: "Bench", start: "2027-05-03" }, tasks, links };

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell",
  args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await signIn(page, url);
const answer = await page.request.post(`${url}/api/v1/projects`, {
  headers: await pageToken(page, url),
  data: document_,
});
if (!answer.ok()) throw new Error(await answer.text());
const { id } = await answer.json();

const client = await page.context().newCDPSession(page);
await client.send("Network.enable");
/** @type {Map<string, string>} */ const kinds = new Map();
/** @type {Record<string, number>} */ const bytes = {};
client.on("Network.responseReceived", ({ requestId, type }) => kinds.set(requestId, type));
client.on("Network.loadingFinished", ({ requestId, encodedDataLength }) => {
  const kind = kinds.get(requestId) ?? "Other";
  bytes[kind] = (bytes[kind] ?? 0) + encodedDataLength;
});
await page.goto(`${url}/projects/${id}`);
await page.locator("html[data-ready=true]").waitFor();

/** @param {number[]} times */
const summary = (times) => {
  const sorted = times.toSorted((a, b) => a - b);
  return { p50: sorted[Math.floor(sorted.length * 0.5)], p95: sorted[Math.floor(sorted.length * 0.95)] };
};

await page.evaluate(() => {
  const long = /** @type {number[]} */ (/** @type {any} */ (window).long_ = []);
  new PerformanceObserver((list) => list.getEntries().forEach((task) => long.push(task.duration))).observe({
    type: "longtask",
  });
});
/** Tasks of the page that took more than 50 ms, longest first. @returns {Promise<string>} */
const longTasks = async () => {
  const long = /** @type {number[]} */ (await page.evaluate(() => /** @type {any} */ (window).long_.splice(0)));
  const sorted = long.toSorted((a, b) => b - a);
  return sorted.length === 0 ? "none" : sorted.map((took) => `${took.toFixed(0)} ms`).join(", ");
};

await page.locator(`[data-row="${first[0]}"] [data-col="name"]`).click();
await page.keyboard.press("F2");
await page.keyboard.type(" and a good deal more that is typed behind it");
await page.keyboard.press("Escape");
const whileTyping = await longTasks();

/** @type {number[]} */ const edits = [];
/** @type {number[]} */ const moved = [];
for (let i = 0; i < EDITS; i++) {
  await page.locator(`[data-row="${first[i % first.length]}"] [data-col="length"]`).click();
  const text = `${2 + (Math.floor(i / first.length) % 3)}d`;
  await page.keyboard.press("F2");
  await page.keyboard.press("Control+A");
  await page.keyboard.type(text);
  const took = page.evaluate(
    () =>
      new Promise((resolve) => {
        addEventListener(
          "keydown",
          () => {
            const from = performance.now();
            const strip = document.getElementById("strip-text");
            const before = strip?.textContent;
            new MutationObserver((_, observer) => {
              if (strip?.textContent === before) return;
              observer.disconnect();
              requestAnimationFrame(() => setTimeout(() => resolve(performance.now() - from)));
            }).observe(/** @type {Node} */ (strip), { childList: true, subtree: true });
          },
          { capture: true, once: true },
        );
      }),
  );
  await page.evaluate(() => 0);
  await page.keyboard.press("Enter");
  edits.push(/** @type {number} */ (await took));
  moved.push(Number(/(\d+) other task/.exec((await page.locator("#strip-text").textContent()) ?? "")?.[1] ?? 0));
}

const whileEditing = await longTasks();

// A bar that moves most of the plan is dragged to and fro, while the strip and the ghosts tell what letting go would do.
await page.locator(`[data-row="${first[0]}"] [data-col="no"]`).click();
const bar = await page.locator(`[data-bar="${first[0]}"]`).boundingBox();
if (!bar) throw new Error("The bar to drag is not in sight.");
const [x, y] = [bar.x + bar.width / 2, bar.y + bar.height / 2];
await page.mouse.move(x, y);
await page.mouse.down();
await page.mouse.move(x + 16, y);
await page.locator(".ghost").nth(3).waitFor();
await page.evaluate(() => {
  const times = /** @type {number[]} */ (/** @type {any} */ (window).frames_ = []);
  let before = performance.now();
  const count = (/** @type {number} */ now) => {
    times.push(now - before);
    before = now;
    requestAnimationFrame(count);
  };
  requestAnimationFrame(count);
});
for (let i = 0; i < DRAGS; i++) await page.mouse.move(x + 16 * (1 + (i % 24)), y);
const dragged = await page.evaluate(() => /** @type {any} */ (window).frames_.slice(1));
await page.keyboard.press("Escape");
await page.mouse.up();

const trips = await page.evaluate(async () => {
  const times = [];
  for (let i = 0; i < 60; i++) {
    const from = performance.now();
    await (await fetch("/healthz")).text();
    times.push(performance.now() - from);
  }
  return times;
});
await browser.close();

const edit = summary(edits);
const trip = summary(trips);
console.log(
  `${TASKS} tasks, ${links.length} links, ${EDITS} edits that each move ${summary(moved).p50} other tasks (median)`,
);
console.log(`key press to saved and redrawn: p50 ${edit.p50.toFixed(1)} ms, p95 ${edit.p95.toFixed(1)} ms`);
console.log(`tasks of the page over 50 ms: while typing ${whileTyping}; over all edits ${whileEditing}`);
const drag = summary(dragged);
console.log(`a frame while a bar is dragged: p50 ${drag.p50.toFixed(1)} ms, p95 ${drag.p95.toFixed(1)} ms`);
console.log(
  `bare round trip with a database query: p50 ${trip.p50.toFixed(1)} ms; ratio ${(edit.p50 / trip.p50).toFixed(1)}`,
);
for (const [kind, count] of Object.entries(bytes)) console.log(`${kind}: ${(count / 1000).toFixed(1)} kB sent`);
