import { join } from "node:path";
import { readFileSync } from "node:fs";
import { diffRecords } from "#core/history/records-diff.ts";
import { flow } from "#core/layout/put.ts";
import { PANEL_SCHEMAS, type PanelDefinition } from "#core/panels/schemas.ts";
import { storePanel } from "#contract/stored-panel.ts";
import { Latencies } from "./latencies.ts";
import { writeSalesList } from "./sales-list.ts";
import { timed } from "./timing.ts";
import { withEmptyCompany, type EmptyCompany } from "../launch/empty-company.ts";
import type { Cluster } from "../launch/postgres/cluster.ts";
import { count } from "../launch/prepare.ts";
import { pagesReady } from "./pages-ready.ts";

const ROWS = Number(process.env["HACKLE_BENCH_SALES"] ?? 3_000_000);
const MADE_OF = { customers: 20_000, products: 2000 };
const GOAL_MS = 400;
const SPANS = ["month", "quarter", "year-to-date", "trailing-12"] as const;

/**
 * Lines of sales by many customers and products, posted into an empty company as any file is, and a page of eight panels
 * over them: what each frame that was not asked before takes, beside one look-up over all of the same lines in SQL.
 */
export async function benchSales(cluster: Cluster): Promise<void> {
  await withEmptyCompany(cluster, "bench_sales", async (company) => {
    const file = join(company.folder, "sales.csv");
    await writeSalesList(file, ROWS, MADE_OF);
    const { checkMs, postMs, followMs } = await company.post(file);
    console.log(
      `\n${count(ROWS)} lines of sales, ${count(MADE_OF.customers)} customers, ${count(MADE_OF.products)} products: check ${seconds(checkMs)}, post ${seconds(postMs)}, what follows ${seconds(followMs)}`,
    );
    await putPage(company);
    await pagesReady(company.url);
    await measurePage(company);
  });
}

async function measurePage(company: EmptyCompany): Promise<void> {
  const answers = new Latencies();
  for (let back = 0; back < 12; back += 1)
    for (const span of SPANS) {
      const month = `2026-${String(12 - back).padStart(2, "0")}`;
      const { ms } = await timed(() =>
        company.text(`/api/packs/eight/pages/eight/answers?asOf=${month}&span=${span}&basis=prior-year`),
      );
      answers.add(ms);
    }
  const { rows: parts } = await company.knex.raw<{ rows: { name: string }[] }>(
    `select relname as name from pg_class join pg_namespace on pg_namespace.oid = relnamespace
     where nspname = ? and relname ~ '^fact_[0-9]+$'`,
    [company.schema],
  );
  const sql = `select account_id, month, sum(amount) from ${company.schema}.${parts[0]!.name} group by 1, 2`;
  const plain = await timed(() => company.knex.raw(sql));
  const memory = Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${company.server.child.pid!}/status`, "utf8"))?.[1]);
  console.log(
    `  a page of 8 panels, frames not asked before: median ${answers.at(0.5).toFixed(0)} ms, slowest ${answers.at(1).toFixed(0)} ms (${(answers.at(0.5) / plain.ms).toFixed(2)} × one sum by account and month over all lines in SQL, ${plain.ms.toFixed(0)} ms)\n` +
      `  under ${GOAL_MS} ms: ${answers.at(1) < GOAL_MS ? "yes" : "NO"}; memory of the server ${(memory / 1024).toFixed(0)} MiB`,
  );
}

const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`;

/** Puts a page of eight panels over the sales by customer, product and region. */
async function putPage(company: EmptyCompany): Promise<void> {
  const kpis =
    await company.get<{ definition: { key: string; unit: { kind: string } }; problem: unknown }[]>("/api/kpis");
  const sound = kpis.filter(({ problem }) => problem === null).map(({ definition }) => definition);
  const [kpi] = sound.filter(({ unit }) => unit.kind === "money");
  const all = sound.map(({ key }) => key);
  if (!kpi) throw new Error(`There is no amount among ${all.join(", ")}.`);
  const { dimensions } = await company.get<{ dimensions: { key: string }[] }>("/api/frame");
  const dimension = (like: string) => {
    const found = dimensions.find(({ key }) => key.includes(like));
    if (!found) throw new Error(`There is no ${like} among ${dimensions.map(({ key }) => key).join(", ")}.`);
    return found.key;
  };
  const [customer, product, region] = [dimension("customer"), dimension("product"), dimension("region")];
  const breakdown = (key: string, of: string): PanelDefinition => ({
    key,
    kind: "breakdown",
    kpis: [kpi.key],
    by: { dimension: of, level: null },
    cluster: null,
    stacking: "clustered",
    order: "value",
    isReversed: false,
    top: 20,
  });
  const bridge = (key: string, of: string): PanelDefinition => ({
    key,
    kind: "bridge",
    kpi: kpi.key,
    from: "basis",
    by: { kind: "member", dimension: of, level: null },
    order: "effect",
    top: 15,
    hasSubtotals: false,
  });
  const panels: PanelDefinition[] = [
    { key: "tiles", kind: "tiles", kpis: all.slice(0, 4), repeatBy: null, order: "set", isReversed: false, top: null },
    { key: "scorecard", kind: "scorecard", groups: [{ title: "KPIs", kpis: all.slice(0, 8) }] },
    { key: "over-time", kind: "time-chart", kpi: kpi.key },
    breakdown("customers", customer),
    breakdown("products", product),
    breakdown("regions", region),
    bridge("by-customer", customer),
    bridge("by-product", product),
  ];
  const places = flow(panels.map(({ key, kind }) => ({ key, size: PANEL_SCHEMAS[kind].size })));
  const records: Record<string, object> = {
    "pack/eight": { name: "Sales", position: 99 },
    "page/eight/eight": { name: "Eight", scope: {}, look: {}, position: 1 },
  };
  for (const panel of panels)
    records[`panel/eight/eight/${panel.key}`] = { definition: storePanel(panel), place: places[panel.key]! };
  const edit = { edit: crypto.randomUUID(), diff: diffRecords({}, records) };
  const made = await company.send<{ detail?: string }>("POST", "/api/packs/eight/edits", edit);
  if (made.detail !== undefined) throw new Error(made.detail);
  const first = await company.text("/api/packs/eight/pages/eight/answers");
  const failed = first.split("\n").filter((line) => line.includes('"problem":{'));
  if (failed.length > 0) throw new Error(failed.join("\n"));
}
