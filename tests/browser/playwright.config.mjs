// @ts-check
import { defineConfig } from "@playwright/test";

// What takes longest begins first, so that no worker is left alone with it at the end.
const LONGEST = ["**/three-windows.spec.mjs", "**/people.spec.mjs", "**/gestures.spec.mjs"];

export default defineConfig({
  testDir: ".",
  projects: [
    { name: "longest", testMatch: LONGEST },
    { name: "others", testIgnore: LONGEST },
  ],
  outputDir: "../../.build/browser",
  workers: 2,
  fullyParallel: false,
  forbidOnly: true,
  timeout: 60_000,
  expect: { timeout: 10_000 },
  use: {
    viewport: { width: 1280, height: 800 },
    // Gliding bars would take a third of the processor, and every look at one would have to wait: one test looks at the gliding itself.
    contextOptions: { reducedMotion: "reduce" },
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
});
