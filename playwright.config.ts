import { defineConfig } from "@playwright/test";
import { CHROMIUM } from "./e2e/chromium.ts";

export default defineConfig({
  testDir: "e2e",
  testMatch: "*.e2e.ts",
  // One browser at a time: a journey stops and starts the database that all share.
  workers: 1,
  // A journey that passes the second time is reported as flaky, and is to be looked into.
  retries: 1,
  timeout: 240_000,
  expect: { timeout: 30_000 },
  reporter: [["list"], ["json", { outputFile: process.env["HACKLE_E2E_REPORT"] ?? ".hackle/e2e.json" }]],
  outputDir: ".hackle/e2e-results",
  use: {
    baseURL: process.env["HACKLE_ORIGIN"] ?? "http://127.0.0.1:4180",
    viewport: { width: 1280, height: 800 },
    // What is not there is not waited for as long as a whole journey may take.
    actionTimeout: 40_000,
    launchOptions: CHROMIUM,
    // Nothing is waited for that only moves.
    contextOptions: { reducedMotion: "reduce" },
  },
});
