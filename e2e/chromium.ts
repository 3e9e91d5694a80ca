import type { LaunchOptions } from "@playwright/test";

/** Debian's Chromium, quiet: it looks for nothing outside. */
export const CHROMIUM: LaunchOptions = {
  executablePath: process.env["CHROMIUM"] ?? "/usr/bin/chromium",
  args: [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ],
};
