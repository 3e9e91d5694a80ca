import type { Page } from "@playwright/test";
import { PANEL_KINDS, type PanelKind } from "#core/panels/kinds.ts";
import type { PackRecord, PageRecord, PanelRecord } from "#contract/pack-records.ts";
import { storePanel } from "#contract/stored-panel.ts";
import { DIMENSIONS } from "#demo/company/dimensions.ts";
import { viewOf } from "../web/panels/index.ts";
import { complete, median, withBenchPages } from "./bench-pages.ts";
import type { Cluster } from "./postgres/cluster.ts";

const ROUNDS = 7;
const KPIS = ["total_revenue", "fuel", "load_factor"];
const DIMENSION_CHOICES = DIMENSIONS.map(({ key, name, plural, levels }) => ({
  key,
  name,
  plural,
  levels: [...levels],
  members: [],
}));

/**
 * Each kind of panel alone on a page, as it is made from the rack: how long the server takes to answer a frame that was
 * not asked before, and how long the browser takes from having the answer to having painted it.
 */
export async function benchCharts(cluster: Cluster): Promise<void> {
  await withBenchPages(cluster, benchPack(), async (page) => {
    console.log("\nkinds of panels, alone on a page: medians");
    await page.goto("/packs");
    for (const kind of PANEL_KINDS) {
      const { server, drawn } = await measureKind(page, kind);
      console.log(`  ${kind.padEnd(12)} answered in ${server.toFixed(0)} ms, drawn in ${drawn.toFixed(0)} ms`);
    }
  });
}

function benchPack(): Record<string, PackRecord | PageRecord | PanelRecord> {
  const records: Record<string, PackRecord | PageRecord | PanelRecord> = {
    "pack/bench": { name: "Bench", position: 99 },
  };
  for (const [position, kind] of PANEL_KINDS.entries()) {
    records[`page/bench/${kind}`] = { name: kind, scope: {}, look: {}, position };
    const panel = viewOf(kind).create({ key: "panel", kpis: KPIS, dimensions: DIMENSION_CHOICES });
    records[`panel/bench/${kind}/panel`] = { definition: storePanel(panel), place: { x: 0, y: 0, w: 24, h: 50 } };
  }
  return records;
}

async function measureKind(page: Page, kind: PanelKind): Promise<{ server: number; drawn: number }> {
  const server: number[] = [];
  const drawn: number[] = [];
  for (let round = 0; round < ROUNDS; round += 1) {
    const month = `2026-${String(4 + (round % 7)).padStart(2, "0")}`;
    server.push(
      await page.evaluate(
        async (path) => {
          const start = performance.now();
          await (await fetch(path)).text();
          return performance.now() - start;
        },
        `/api/packs/bench/pages/${kind}/answers?asOf=${month}&span=trailing-${3 + (round % 5)}&unit=units`,
      ),
    );
    await page.goto(`/packs/bench/${kind}?asOf=${month}&span=trailing-${9 + (round % 3)}`);
    await complete(page);
    drawn.push(await timeToDraw(page));
  }
  return { server: median(server), drawn: median(drawn) };
}

/** From the answer's last byte until what it says is painted, by the page's own clock: after a change of the unit. */
async function timeToDraw(page: Page): Promise<number> {
  await page.evaluate(() => {
    const state = window as unknown as { answeredAt?: number; took?: number };
    delete state.took;
    performance.clearResourceTimings();
    new PerformanceObserver((list, observer) => {
      const answer = list.getEntries().find(({ name }) => name.includes("/answers"));
      if (!answer) return;
      observer.disconnect();
      const answered = (answer as PerformanceResourceTiming).responseEnd;
      const look = () => {
        if (document.querySelector("section[aria-busy=true]")) requestAnimationFrame(look);
        else requestAnimationFrame(() => (state.took = performance.now() - answered));
      };
      look();
    }).observe({ type: "resource" });
  });
  await page.getByRole("button", { name: /^Unit/ }).click();
  await page.getByRole("menuitemradio").last().click();
  await page.waitForFunction(() => (window as unknown as { took?: number }).took !== undefined);
  return page.evaluate(() => (window as unknown as { took: number }).took);
}
