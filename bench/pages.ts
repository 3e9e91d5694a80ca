import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, type Page } from "@playwright/test";
import { diffRecords } from "#core/history/records-diff.ts";
import { flow } from "#core/layout/put.ts";
import type { PageRecord, PanelRecord, PackRecord } from "#contract/pack-records.ts";
import { PANEL_SCHEMAS, type PanelDefinition } from "#core/panels/schemas.ts";
import { storePanel } from "#contract/stored-panel.ts";
import { KPIS } from "#demo/company/kpis.ts";
import { ANALYST } from "#testing/api.ts";
import { median } from "./timing.ts";
import { pagesReady } from "./pages-ready.ts";
import { CHROMIUM } from "../e2e/chromium.ts";
import { measureFirstView, nameFunctions } from "./first-view.ts";
import { createSampleDatabase } from "./sample-database.ts";
import { freePort, type Cluster } from "../launch/postgres/cluster.ts";
import { startServer } from "../launch/server-process.ts";
import { buildWeb } from "../launch/web-build.ts";

const ROUNDS = 15;
const SPANS = ["month", "quarter", "quarter to date", "full year", "trailing twelve months"] as const;

/**
 * Pages in a real browser: how long until a page of twelve panels is complete after a change of its frame and after a
 * click that narrows it, and how many frames a second dragging and sizing keep among twenty panels.
 */
export async function benchPages(cluster: Cluster): Promise<void> {
  await withBenchPages(cluster, benchPack(), async (page) => {
    console.log("\npages in Chromium");
    const context = page.context();
    const { origin } = new URL(page.url());
    await measureFirstView(context.browser()!, origin, await context.storageState());
    await measureFrames(page);
    await measureNarrowing(page, "monthly-review", "revenue");
    await measureNarrowing(page, "bench", "twelve");
    await measureArranging(page);
  });
}

/** Serves the sample company with a pack of the bench's own, and opens a browser on it. */
export async function withBenchPages(
  cluster: Cluster,
  pack: Record<string, PackRecord | PageRecord | PanelRecord>,
  measure: (page: Page) => Promise<void>,
): Promise<void> {
  const databaseUrl = await createSampleDatabase(cluster, "bench_pages");
  const files = mkdtempSync(join(tmpdir(), "hackle-bench-"));
  const port = await freePort();
  const server = await startServer({
    databaseUrl,
    port,
    webFolder: await buildWeb(),
    filesFolder: files,
  });
  const browser = await chromium.launch(CHROMIUM);
  try {
    const context = await browser.newContext({
      baseURL: `http://127.0.0.1:${port}`,
      viewport: { width: 1280, height: 800 },
    });
    await nameFunctions(context);
    await context.request.post("/api/session/sample", { data: { email: ANALYST } });
    const edit = { edit: crypto.randomUUID(), diff: diffRecords({}, pack) };
    const made = await context.request.post("/api/packs/bench/edits", { data: edit });
    if (!made.ok()) throw new Error(await made.text());
    await pagesReady(cluster.urlOf("bench_pages"));
    const page = await context.newPage();
    await page.goto("/sign-in");
    await measure(page);
  } finally {
    await browser.close();
    await server.stop();
    rmSync(files, { recursive: true, force: true });
  }
}

/** A page of twelve panels to be read, and one of twenty to be arranged. */
function benchPack(): Record<string, PackRecord | PageRecord | PanelRecord> {
  const records: Record<string, PackRecord | PageRecord | PanelRecord> = {
    "pack/bench": { name: "Bench", position: 99 },
  };
  for (const [page, count] of [
    ["twelve", 12],
    ["twenty", 20],
  ] as const) {
    records[`page/bench/${page}`] = { name: page, scope: {}, look: {}, position: count };
    const panels = Array.from({ length: count }, (_, i) => panelOf(i));
    const places = flow(panels.map(({ key, kind }) => ({ key, size: { w: 8, h: kind === "time-chart" ? 40 : 30 } })));
    for (const panel of panels)
      records[`panel/bench/${page}/${panel.key}`] = {
        definition: storePanel(panel),
        place: places[panel.key] ?? { x: 0, y: 0, ...PANEL_SCHEMAS[panel.kind].size },
      };
  }
  return records;
}

function panelOf(i: number): PanelDefinition {
  const kpi = ["total_revenue", "tickets", "freight", "fuel", "crew", "maintenance", "passenger_count"][i % 7]!;
  const key = `p${i}`;
  switch (i % 4) {
    case 0:
      return {
        key,
        kind: "breakdown",
        kpis: [kpi],
        by: { dimension: i === 0 ? "route" : "service", level: null },
        cluster: null,
        stacking: "clustered",
        order: "value",
        isReversed: false,
        top: null,
      };
    case 1:
      return { key, kind: "time-chart", kpi };
    case 2:
      return { key, kind: "scorecard", groups: [{ title: "KPIs", kpis: KPIS.slice(i, i + 5).map((own) => own.key) }] };
    default:
      return { key, kind: "tiles", kpis: [kpi], repeatBy: null, order: "set", isReversed: false, top: null };
  }
}

async function measureFrames(page: Page): Promise<void> {
  await page.goto("/packs/bench/twelve");
  await complete(page);
  const bare: number[] = [];
  const whole: number[] = [];
  for (let round = 0; round < ROUNDS; round += 1) {
    // A frame that was not asked before.
    const month = `2026-${String(4 + (round % 7)).padStart(2, "0")}`;
    bare.push(
      await page.evaluate(async (asOf) => {
        const start = performance.now();
        await (await fetch(`/api/packs/bench/pages/twelve/answers?asOf=${asOf}&span=trailing-7&unit=units`)).text();
        return performance.now() - start;
      }, month),
    );
    await page.goto(`/packs/bench/twelve?asOf=${month}`);
    await complete(page);
    await page.getByRole("button", { name: /^Span/ }).click();
    const choice = page
      .getByRole("menuitemradio", { name: new RegExp(`^•? ?${SPANS[round % SPANS.length]!} ?`) })
      .first();
    whole.push(await timeUntilComplete(page, () => choice.click()));
  }
  say(
    "a page of 12 panels complete after a change of the frame",
    median(whole),
    "the same answers fetched bare",
    median(bare),
  );
}

async function measureNarrowing(page: Page, pack: string, own: string): Promise<void> {
  const names = ["Northreach", "Lantern Bay", "Skerry Sound"];
  const bare: number[] = [];
  const whole: number[] = [];
  for (let round = 0; round < ROUNDS; round += 1) {
    const month = `2026-${String(4 + (round % 7)).padStart(2, "0")}`;
    await page.goto(`/packs/${pack}/${own}?asOf=${month}&span=month`);
    await complete(page);
    const bar = page.locator("svg text", { hasText: names[round % names.length]! }).first();
    const box = (await bar.boundingBox())!;
    bare.push(
      await page.evaluate(
        async ([answers, asOf]) => {
          const start = performance.now();
          const query = `asOf=${asOf}&span=trailing-5&narrow=route:northreach&unit=units`;
          await (await fetch(`${answers}?${query}`)).text();
          return performance.now() - start;
        },
        [`/api/packs/${pack}/pages/${own}/answers`, month] as const,
      ),
    );
    whole.push(await timeUntilComplete(page, () => page.mouse.click(box.x + 4, box.y + box.height / 2), "in view"));
  }
  say(
    `what is in view of ${pack}/${own} repainted after a click that narrows`,
    median(whole),
    "the same answers fetched bare",
    median(bare),
  );
}

async function measureArranging(page: Page): Promise<void> {
  await page.goto("/packs/bench/twenty?arrange=yes");
  await page.locator(".react-grid-item").nth(19).waitFor();
  await complete(page);
  const idle = await framesWhile(page, () => page.waitForTimeout(1500));
  const panel = page.locator("[data-panel=p1]");
  await panel.hover();
  const grip = (await panel.locator(".panel-grip").boundingBox())!;
  const sweep = async () => {
    for (let i = 0; i < 60; i += 1)
      await page.mouse.move(grip.x - 300 + 250 * Math.cos(i / 5), grip.y + 200 + 180 * Math.sin(i / 5), { steps: 2 });
  };
  await page.mouse.move(grip.x + 6, grip.y + 6);
  await page.mouse.down();
  const dragged = await framesWhile(page, sweep);
  await page.mouse.up();
  await complete(page);
  const corner = (await panel.locator("xpath=..").locator(".react-resizable-handle-se").boundingBox())!;
  await page.mouse.move(corner.x + 8, corner.y + 8);
  await page.mouse.down();
  const sized = await framesWhile(page, async () => {
    for (let i = 0; i < 60; i += 1)
      await page.mouse.move(corner.x + 60 * Math.sin(i / 6), corner.y + 60 * Math.cos(i / 6), { steps: 2 });
  });
  await page.mouse.up();
  console.log(
    `  20 panels: dragging ${dragged.toFixed(0)} frames a second, sizing ${sized.toFixed(0)}; doing nothing ${idle.toFixed(0)} (${((dragged / idle) * 100).toFixed(0)}% and ${((sized / idle) * 100).toFixed(0)}% of it)`,
  );
}

/** How many frames a second the page keeps while something is done. */
export async function framesWhile(page: Page, work: () => Promise<unknown>): Promise<number> {
  await page.evaluate(() => {
    const counter = { frames: 0, start: performance.now(), isOn: true };
    (window as unknown as { counter: typeof counter }).counter = counter;
    const tick = () => {
      if (!counter.isOn) return;
      counter.frames += 1;
      requestAnimationFrame(tick);
    };
    requestAnimationFrame(tick);
  });
  await work();
  return page.evaluate(() => {
    const { counter } = window as unknown as { counter: { frames: number; start: number; isOn: boolean } };
    counter.isOn = false;
    return (counter.frames * 1000) / (performance.now() - counter.start);
  });
}

/** Waits until all panels of a page are drawn. */
export async function complete(page: Page): Promise<void> {
  await page.waitForFunction(
    () => document.querySelector("section[aria-busy]") && !document.querySelector("section[aria-busy=true], .waiting"),
  );
}

/** From an input until the panels have been busy and are done, and that is painted, by the page's own clock. */
async function timeUntilComplete(
  page: Page,
  act: () => Promise<void>,
  which: "all" | "in view" = "all",
): Promise<number> {
  await page.evaluate((which) => {
    const state = window as unknown as { pressedAt?: number; took?: number };
    delete state.took;
    const isMeant = (panel: Element) => {
      const { top, bottom } = panel.getBoundingClientRect();
      return which === "all" || (top < innerHeight && bottom > 0);
    };
    const isBusy = () => [...document.querySelectorAll("section[aria-busy=true]")].some(isMeant);
    const watch = () => {
      let wasBusy = false;
      const look = () => {
        wasBusy ||= isBusy();
        if (wasBusy && !isBusy()) {
          requestAnimationFrame(() => (state.took = performance.now() - state.pressedAt!));
          return;
        }
        requestAnimationFrame(look);
      };
      look();
    };
    window.addEventListener(
      "pointerdown",
      () => {
        state.pressedAt = performance.now();
        watch();
      },
      { once: true, capture: true },
    );
  }, which);
  await act();
  await page.waitForFunction(() => (window as unknown as { took?: number }).took !== undefined);
  return page.evaluate(() => (window as unknown as { took: number }).took);
}

function say(what: string, ms: number, against: string, other: number): void {
  console.log(`  ${what}: ${ms.toFixed(0)} ms, ${(ms / other).toFixed(1)} × ${against} (${other.toFixed(0)} ms)`);
}
