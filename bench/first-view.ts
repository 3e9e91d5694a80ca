import type { Browser, BrowserContext, CDPSession, Page } from "@playwright/test";
import { median } from "./timing.ts";

const ROUNDS = 9;
/** A slow reader's browser and line: a quarter of this processor, 10 Mbit/s, 20 ms away. */
const SLOW = { processor: 4, bytesPerSecond: 10e6 / 8, latency: 20 };

/**
 * How long until a page can be read in a browser that has nothing of it, on this machine and on a slow one; how long with
 * everything cached; and how long a further page takes the first time it is opened. The browser runs beside the server.
 */
export async function measureFirstView(browser: Browser, baseURL: string, state: StorageState): Promise<void> {
  const views = { first: [] as number[], again: [] as number[], further: [] as number[], slow: [] as number[] };
  let seen = { requests: 0, bytes: 0 };
  for (let round = 0; round < ROUNDS; round += 1) {
    const context = await freshContext(browser, { baseURL, storageState: state });
    const page = await context.newPage();
    views.first.push(await opened(page));
    seen = await sent(page);
    views.again.push(await opened(page));
    // What other views need is fetched once the first one stands.
    await page.waitForTimeout(3500);
    views.further.push(await furtherPage(page));
    await context.close();
    const far = await freshContext(browser, { baseURL, storageState: state });
    const slow = await far.newPage();
    await slowDown(await far.newCDPSession(slow));
    views.slow.push(await opened(slow));
    await far.close();
  }
  const said = (name: keyof typeof views) =>
    `${median(views[name]).toFixed(0)} ms (${Math.min(...views[name]).toFixed(0)} to ${Math.max(...views[name]).toFixed(0)})`;
  console.log(
    `  the cover readable, nothing cached: ${said("first")}, ${seen.requests} requests, ${(seen.bytes / 1000).toFixed(0)} kB; ` +
      `${(median(views.first) / median(views.again)).toFixed(1)} × everything cached (${said("again")})`,
  );
  console.log(
    `  with a quarter of the processor at 10 Mbit/s: ${said("slow")}\n  a further page, the first time: ${said("further")}`,
  );
}

type StorageState = Awaited<ReturnType<BrowserContext["storageState"]>>;

/** The loader of these programs names inner functions by a helper, which functions sent into a page miss there. */
export async function nameFunctions(context: BrowserContext): Promise<void> {
  await context.addInitScript("globalThis.__name ??= (named) => named");
}

async function freshContext(browser: Browser, options: { baseURL: string; storageState: StorageState }) {
  const context = await browser.newContext({ ...options, viewport: { width: 1280, height: 800 } });
  await nameFunctions(context);
  return context;
}

/** Milliseconds from asking for the cover until its panels are drawn, by the page's own clock. */
async function opened(page: Page): Promise<number> {
  await page.goto("/packs/monthly-review/cover", { waitUntil: "commit" });
  return page.evaluate(
    () =>
      new Promise<number>((resolve) => {
        const look = () => {
          const isDrawn =
            document.querySelector("section[aria-busy=false]") &&
            !document.querySelector("section[aria-busy=true], .waiting");
          if (isDrawn) requestAnimationFrame(() => resolve(performance.now()));
          else requestAnimationFrame(look);
        };
        look();
      }),
  );
}

async function sent(page: Page): Promise<{ requests: number; bytes: number }> {
  return page.evaluate(() => {
    const entries = performance.getEntriesByType("resource") as PerformanceResourceTiming[];
    return { requests: entries.length + 1, bytes: entries.reduce((sum, entry) => sum + entry.encodedBodySize, 0) };
  });
}

/** Milliseconds from a click on another page's name until its panels are drawn. */
async function furtherPage(page: Page): Promise<number> {
  await page.evaluate(() => {
    const state = window as unknown as { furtherMs?: number };
    window.addEventListener(
      "click",
      () => {
        const start = performance.now();
        for (const section of document.querySelectorAll<HTMLElement>("section[aria-busy]"))
          section.dataset["former"] = "";
        const look = () => {
          const isThere =
            document.querySelector("section[aria-busy=false]:not([data-former])") &&
            !document.querySelector("section[data-former]") &&
            !document.querySelector("section[aria-busy=true], .waiting");
          if (isThere) requestAnimationFrame(() => (state.furtherMs = performance.now() - start));
          else requestAnimationFrame(look);
        };
        requestAnimationFrame(look);
      },
      { once: true, capture: true },
    );
  });
  await page.getByRole("link", { name: "At a glance" }).click();
  await page.waitForFunction(() => (window as unknown as { furtherMs?: number }).furtherMs !== undefined);
  return page.evaluate(() => (window as unknown as { furtherMs: number }).furtherMs);
}

async function slowDown(session: CDPSession): Promise<void> {
  await session.send("Network.enable");
  await session.send("Network.emulateNetworkConditions", {
    offline: false,
    latency: SLOW.latency,
    downloadThroughput: SLOW.bytesPerSecond,
    uploadThroughput: SLOW.bytesPerSecond,
  });
  await session.send("Emulation.setCPUThrottlingRate", { rate: SLOW.processor });
}
