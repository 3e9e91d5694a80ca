import { mkdirSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, type Page } from "@playwright/test";
import { CHROMIUM } from "../e2e/chromium.ts";
import { PROJECT } from "./home.ts";
import { freePort } from "./postgres/cluster.ts";
import { runProgram, step } from "./progress.ts";
import { registerFeeds, startService } from "./service-process.ts";
import { connect } from "#server/db/connect.ts";
import { startServer } from "./server-process.ts";
import { nextMonthLedger } from "#demo/generate/feed.ts";
import { ANALYST } from "#testing/api.ts";
import { copySample, openTestCluster } from "#testing/sample-database.ts";
import { buildWeb } from "./web-build.ts";

interface Shot {
  readonly name: string;
  readonly address: string;
  readonly person?: string;
  readonly dark?: boolean;
  readonly size?: { readonly width: number; readonly height: number };
  readonly before?: (page: Page) => Promise<unknown>;
}

const COVER = "/packs/monthly-review/cover";
const SHOTS: readonly Shot[] = [
  { name: "sign-in", address: "/sign-in", person: "" },
  { name: "cover", address: COVER },
  { name: "provenance", address: `${COVER}?span=month&over-time.kpi=maintenance&figure=maintenance.actual` },
  { name: "revenue", address: "/packs/monthly-review/revenue?narrow=route:northreach&grain.chosen=quarter" },
  { name: "costs-dusk", address: "/packs/monthly-review/costs-and-fuel", dark: true, before: lookLike("dusk") },
  {
    name: "workbench",
    address: "/workbench?kpi=fuel&split=vessel/&basis=prior-year",
    before: (page) => page.getByRole("region", { name: "Breakdown" }).getByRole("img").waitFor(),
  },
  { name: "appendix", address: "/packs/monthly-review/appendix" },
  { name: "areas", address: "/packs/monthly-review/areas" },
  { name: "operations", address: "/packs/monthly-review/operations?asOf=2026-11" },
  { name: "outlook", address: "/packs/monthly-review/outlook", size: { width: 1280, height: 1400 } },
  {
    name: "looking-ahead",
    address: "/workbench?kpi=total_revenue&kind=time-chart",
    before: async (page) => {
      await page.getByRole("button", { name: "Look ahead" }).click();
      await page.getByRole("button", { name: "Model notes" }).click();
      await page.waitForTimeout(800);
    },
  },
  { name: "narrow", address: COVER, size: { width: 390, height: 844 } },
  { name: "accounts", address: "/structure/accounts", before: (page) => page.getByText("Port overtime").click() },
  { name: "draft", address: "/loads", before: bringLedger },
  { name: "kpi", address: "/kpis/operating_margin", before: (page) => page.getByText("It gives percent").waitFor() },
  { name: "arrange", address: `${COVER}?span=month`, before: openAndArrange },
  // Last, since it posts.
  { name: "feeds", address: "/feeds", before: pullFeeds },
  { name: "load", address: "/loads", before: postLedger },
  { name: "home", address: "/home" },
];

async function openAndArrange(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Arrange", exact: true }).click();
  const chart = page.getByRole("group", { name: /^Panel chart over time/ });
  await chart.hover();
  await chart.getByRole("button", { name: "Settings of chart over time" }).click();
  await page.getByRole("heading", { name: "Arrange the chart over time" }).waitFor();
  await page.waitForLoadState("networkidle");
  // Panels grow into their places once the drawer has taken its own.
  await page.waitForTimeout(1200);
}

/** Shows the page in another of the company's palettes, for this picture alone. */
function lookLike(palette: string) {
  return (page: Page) =>
    page.evaluate((own) => {
      document.documentElement.dataset["palette"] = own;
    }, palette);
}

async function bringLedger(page: Page): Promise<void> {
  const { fileName, text } = nextMonthLedger();
  await page.setInputFiles("input[type=file]", { name: fileName, mimeType: "text/csv", buffer: Buffer.from(text) });
  await page.getByText("3 stops are open.").waitFor();
}

/** Pulls both feeds: one waits for a person the first time, as its figures tell. */
async function pullFeeds(page: Page): Promise<void> {
  for (const name of ["Operations", "Ledger"]) {
    const feed = page.getByRole("region", { name, exact: true });
    await feed.getByRole("button", { name: /^Pull / }).click();
    await feed
      .getByRole("row")
      .filter({ hasNotText: /running|pulling/ })
      .first()
      .waitFor();
  }
  await page.waitForLoadState("networkidle");
}

async function postLedger(page: Page): Promise<void> {
  await bringLedger(page);
  await page.getByRole("button", { name: "Round them" }).click();
  await page.getByRole("button", { name: "What Harbour levy is" }).click();
  await page.getByRole("menuitemradio", { name: /^Port dues/ }).click();
  await page.getByRole("button", { name: "Leave out the line" }).last().click();
  await page.getByText(/^69\d amounts of November FY27/).waitFor();
  await page.getByRole("button", { name: /^Post 69\d amounts/ }).click();
  await page.getByRole("heading", { name: "What changed" }).waitFor();
  // What it moved is worked out after it was posted.
  await page.getByText("is still being calculated").waitFor({ state: "detached" });
}

/** Takes the pictures of docs/screenshots from the sample company. */
runProgram(async () => {
  const folder = join(PROJECT, "docs/screenshots");
  mkdirSync(folder, { recursive: true });
  const cluster = await openTestCluster();
  const files = mkdtempSync(join(tmpdir(), "hackle-pictures-"));
  const port = await freePort();
  const databaseUrl = await copySample(cluster.url, "pictures");
  const service = await startService();
  const knex = connect(databaseUrl, { poolSize: 1 });
  await registerFeeds(knex, service.origin).finally(() => knex.destroy());
  const server = await startServer({
    databaseUrl,
    port,
    webFolder: await buildWeb(),
    filesFolder: files,
    quiet: true,
  });
  const browser = await chromium.launch(CHROMIUM);
  try {
    for (const shot of SHOTS) {
      await step(shot.name, async () => {
        const context = await browser.newContext({
          baseURL: `http://127.0.0.1:${port}`,
          viewport: shot.size ?? { width: 1280, height: 800 },
          colorScheme: shot.dark ? "dark" : "light",
          reducedMotion: "reduce",
        });
        if (shot.person !== "")
          await context.request.post("/api/session/sample", { data: { email: shot.person ?? ANALYST } });
        const page = await context.newPage();
        await page.goto(shot.address);
        await page.waitForLoadState("networkidle");
        await shot.before?.(page);
        await page.waitForTimeout(300);
        await page.screenshot({ path: join(folder, `${shot.name}.png`) });
        await context.close();
        return { value: undefined, said: shot.address };
      });
    }
  } finally {
    await browser.close();
    await server.stop();
    service.stop();
    cluster.stop();
    rmSync(files, { recursive: true, force: true });
  }
});
