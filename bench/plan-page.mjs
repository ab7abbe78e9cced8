// @ts-check
// Measures the Plan screen of a running server at 1,000 tasks: node bench/plan-page.mjs [URL]
// From key press to the saved and redrawn plan, next to a bare round trip with one database query in the same run; bytes sent.
import { chromium } from "@playwright/test";

const url = process.argv[2] ?? "http://127.0.0.1:5180";
const TASKS = 1_000;
const EDITS = 60;

const tasks = Array.from({ length: TASKS }, (_, i) => ({
  id: `t${i}`,
  name: `Task ${i}`,
  length: "1d",
  parent: i % 11 === 0 ? null : `t${i - (i % 11)}`,
}));
const links = tasks
  .map((_, i) => ({ from: `t${Math.max(1, i - 7 - (i % 5))}`, to: `t${i}` }))
  .filter(({ from, to }, i) => i > 20 && i % 11 !== 0 && Number(from.slice(1)) % 11 !== 0 && from !== to);
const document_ = { format: "auxilium-plan/1", project: { name: "Bench", start: "2027-05-03" }, tasks, links };

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const answer = await page.request.post(`${url}/api/v1/projects`, { data: document_ });
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

/** @type {number[]} */ const edits = [];
for (let i = 0; i < EDITS; i++) {
  // Early rows of a chain, so that hundreds of others move with them.
  await page.locator(`[data-row="t${1 + (i % 9)}"] [data-col="length"]`).click();
  const text = `${2 + (Math.floor(i / 9) % 3)}d`;
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
}

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
console.log(`${TASKS} tasks, ${links.length} links, ${EDITS} edits`);
console.log(`key press to saved and redrawn: p50 ${edit.p50.toFixed(1)} ms, p95 ${edit.p95.toFixed(1)} ms`);
console.log(
  `bare round trip with a database query: p50 ${trip.p50.toFixed(1)} ms; ratio ${(edit.p50 / trip.p50).toFixed(1)}`,
);
for (const [kind, count] of Object.entries(bytes)) console.log(`${kind}: ${(count / 1000).toFixed(1)} kB sent`);
