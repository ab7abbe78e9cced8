// @ts-check
// Measures how soon the Plan screen of a running server can be used over a slow line, with nothing kept: node bench/plan-cold.mjs [URL]
// At 150 ms and 1.6 Mbit/s, next to a bare round trip with one database query over the same line.
import { chromium } from "@playwright/test";
import { signIn } from "./sign-in.mjs";

const url = process.argv[2] ?? "http://127.0.0.1:5180";
const RUNS = 10;
const LINE = { offline: false, latency: 150, downloadThroughput: 200_000, uploadThroughput: 100_000 };

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell",
  args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"],
});
const first = await browser.newPage();
await signIn(first, url);
await first.goto(url);
const project = await first.getByRole("link", { name: "Lantern Regatta" }).getAttribute("href");
const storageState = await first.context().storageState();

/** @type {number[]} */ const ready = [];
/** @type {number[]} */ const trips = [];
for (let i = 0; i < RUNS; i++) {
  // A context of its own keeps nothing of the one before.
  const context = await browser.newContext({ storageState, viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  const client = await context.newCDPSession(page);
  await client.send("Network.enable");
  await client.send("Network.emulateNetworkConditions", LINE);
  const from = performance.now();
  await page.goto(`${url}${project}`, { waitUntil: "commit" });
  await page.locator("html[data-ready=true]").waitFor();
  ready.push(performance.now() - from);
  trips.push(
    await page.evaluate(async () => {
      const began = performance.now();
      await (await fetch("/healthz")).text();
      return performance.now() - began;
    }),
  );
  await context.close();
}
await browser.close();

/** @param {number[]} times @param {number} share */
const at = (times, share) => times.toSorted((a, b) => a - b)[Math.floor(times.length * share)];
console.log(
  `ready, cold, at 150 ms and 1.6 Mbit/s: p50 ${at(ready, 0.5).toFixed(0)} ms, p90 ${at(ready, 0.9).toFixed(0)} ms`,
);
console.log(
  `bare round trip: p50 ${at(trips, 0.5).toFixed(0)} ms; ratio ${(at(ready, 0.5) / at(trips, 0.5)).toFixed(1)}`,
);
