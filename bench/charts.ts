import type { Page } from "@playwright/test";
import { PANEL_KINDS, type PanelKind } from "#core/panels/schemas.ts";
import type { PackRecord, PageRecord, PanelRecord } from "#contract/pack-records.ts";
import type { AnswerOf } from "#core/panels/schemas.ts";
import { storePanel } from "#contract/stored-panel.ts";
import { DIMENSIONS } from "#demo/company/dimensions.ts";
import { viewOf } from "../web/panels/index.ts";
import { complete, framesWhile, withBenchPages } from "./pages.ts";
import { median } from "./timing.ts";
import type { Cluster } from "../launch/postgres/cluster.ts";

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
    await measureScroll(page);
  });
}

function benchPack(): Record<string, PackRecord | PageRecord | PanelRecord> {
  const records: Record<string, PackRecord | PageRecord | PanelRecord> = {
    "pack/bench": { name: "Bench", position: 99 },
  };
  for (const [position, kind] of PANEL_KINDS.entries()) {
    records[`page/bench/${kind}`] = { name: kind, scope: {}, look: {}, position };
    const panel = viewOf(kind).create({ key: "panel", kpis: KPIS, otherKpis: [], dimensions: DIMENSION_CHOICES });
    records[`panel/bench/${kind}/panel`] = { definition: storePanel(panel), place: { x: 0, y: 0, w: 24, h: 50 } };
  }
  return records;
}

const ROWS = 10_000;

/** How smoothly a cross-tab of ten thousand rows scrolls: the answer's own rows, over and over. */
async function measureScroll(page: Page): Promise<void> {
  await page.route(/\/answers/, async (route) => {
    const response = await route.fetch();
    const lines = (await response.text()).split("\n").map((line) => {
      if (!line.includes('"kind":"cross-tab"')) return line;
      const told = JSON.parse(line) as { answer: AnswerOf<"cross-tab"> };
      return JSON.stringify({ ...told, answer: withManyRows(told.answer) });
    });
    // What is put in its place is not packed.
    const { "content-encoding": _, "content-length": __, ...headers } = response.headers();
    await route.fulfill({ status: response.status(), headers, body: lines.join("\n") });
  });
  await page.goto("/packs/bench/cross-tab?asOf=2026-10&span=trailing-8");
  await complete(page);
  const idle = await framesWhile(page, () => page.waitForTimeout(1500));
  const table = page.getByRole("grid");
  const rows = Number(await table.getAttribute("aria-rowcount"));
  await table.hover({ position: { x: 200, y: 150 } });
  // As fast as a wheel is turned: some seven thousand pixels a second.
  const scrolled = await framesWhile(page, async () => {
    for (let step = 0; step < 100; step += 1) {
      await page.mouse.wheel(0, 120);
      await page.waitForTimeout(16);
    }
  });
  console.log(
    `  ${rows.toLocaleString("en-GB")} rows of a cross-tab: ${scrolled.toFixed(0)} frames a second while scrolling, ${idle.toFixed(0)} while nothing is done (${((scrolled / idle) * 100).toFixed(0)}% of it)`,
  );
  await page.unroute(/\/answers/);
}

function withManyRows(answer: AnswerOf<"cross-tab">): AnswerOf<"cross-tab"> {
  const often = <T>(own: readonly T[]): T[] => Array.from({ length: ROWS }, (_, i) => own[i % own.length]!);
  return {
    ...answer,
    rows: { ...answer.rows, lines: often(answer.rows.lines) },
    cells: answer.cells.map(({ figures, tolerances }) => ({
      tolerances: tolerances.length === 0 ? [] : often(tolerances),
      figures: Object.fromEntries(
        Object.entries(figures).map(([shown, { values, why }]) => [
          shown,
          { values: often(values), why: why && often(why) },
        ]),
      ),
    })),
  };
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
