import type { Knex } from "knex";
import type { LibraryKpi } from "#contract/kpis.ts";
import type { DefinitionOf } from "#core/panels/schemas.ts";
import { ACCOUNTS } from "#demo/company/accounts.ts";
import { cellsByHand } from "./plain-sql.ts";
import { medianTime } from "./timing.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import type { ScorecardColumn } from "#core/panels/scorecard/schema.ts";
import type { KpiDefinition } from "#core/kpis/schema.ts";

const PAGES = "/api/packs/monthly-review/pages";
const RUNS = 15;
const WANTED_KPIS = 40;
/** Eight columns: against the basis, the year to date beside, the prior year, the outlook, and 24 months of trend. */
const COLUMNS: readonly ScorecardColumn[] = [
  "actual",
  "basis",
  "delta",
  "delta-percent",
  "status",
  "to-date",
  "outlook",
  "trend",
];

/** What a reader waits for, as ratios against the one query a person would write for the cover's sums. */
export async function benchFigures(knex: Knex): Promise<void> {
  const api = await serveApi(knex);
  await api.signIn(ANALYST);
  const byHand = await medianTime(RUNS, () => cellsByHand(knex));
  console.log(`  plain SQL for the sums ${byHand.toFixed(1)} ms: what the following are held against`);
  const say = async (label: string, ask: () => Promise<unknown>) => {
    const took = await medianTime(RUNS, ask);
    console.log(`  ${label.padEnd(38)} ${(took / byHand).toFixed(2).padStart(6)} ×  (${took.toFixed(1)} ms)`);
  };
  const kpis = await fortyKpis(api);
  const wide: DefinitionOf<"scorecard"> = {
    key: "wide",
    kind: "scorecard",
    groups: [{ title: "All", kpis }],
    columns: COLUMNS,
  };
  await api.send("POST", `${PAGES}/cover/panels`, wide);
  const attempt = (formula: string) => () => api.send("POST", "/api/formula/try", { formula, self: null });
  await say("scorecard of the cover", () => api.get(`${PAGES}/cover/panels/scorecard`));
  await say(`scorecard, ${kpis.length} KPIs × ${COLUMNS.length} columns × 24 months`, () =>
    api.get(`${PAGES}/cover/panels/wide?span=month`),
  );
  await say("tiles of eight KPIs", () => api.get(`${PAGES}/at-a-glance/panels/tiles`));
  await say("tiles by route", () => api.get(`${PAGES}/routes/panels/tiles`));
  await say("chart of revenue", () => api.get(`${PAGES}/cover/panels/over-time`));
  await say("formula preview", attempt("operating_result / total_revenue"));
  await say("formula preview, rank over all routes", attempt("rank(total_revenue, over: route)"));
  await say("provenance", () => api.get("/api/provenance?kpi=operating_result&side=actual"));
  await say("source lines", () => api.get("/api/provenance/lines?kpi=total_revenue&side=actual"));
  await api.close();
}

/** The library's KPIs, and as many single accounts as it takes to have forty. */
async function fortyKpis(api: ApiClient): Promise<string[]> {
  const library = (await api.get("/api/kpis")).body as LibraryKpi[];
  const keys = library.map((kpi) => kpi.definition.key);
  const leaves = ACCOUNTS.filter((a) => a.kind !== "statistic" && !ACCOUNTS.some((b) => b.parent === a.key));
  for (const account of leaves.slice(0, Math.max(0, WANTED_KPIS - keys.length))) {
    const definition: KpiDefinition = {
      key: `only_${account.key}`,
      name: account.name,
      formula: account.behaviour === "balance" ? `closing(${account.key})` : account.key,
      unit: account.unit,
      decimals: 0,
      direction: "neutral",
      tolerance: { kind: "percent", percent: 1 },
      owner: "",
      description: "",
      status: null,
      fallbackBasis: null,
    };
    const { status, body } = await api.send("POST", "/api/kpis", { key: null, definition });
    if (status !== 200) throw new Error(JSON.stringify(body));
    keys.push(definition.key);
  }
  return keys.slice(0, WANTED_KPIS);
}
