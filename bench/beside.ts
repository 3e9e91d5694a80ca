import { join } from "node:path";
import { getOrCreate } from "#core/collections/keyed.ts";
import type { LibraryKpi } from "#contract/kpis.ts";
import type { Pack } from "#contract/pack.ts";
import { diffRecords } from "#core/history/records-diff.ts";
import { Latencies } from "./latencies.ts";
import { writeSalesList } from "./sales-list.ts";
import { startCompanyOn, withEmptyCompany, type CompanyClient } from "../launch/empty-company.ts";
import type { Cluster } from "../launch/postgres/cluster.ts";
import { count } from "../launch/prepare.ts";

const ROWS = Number(process.env["HACKLE_BENCH_BESIDE"] ?? 400_000);
const FIRST = 20_000;
const MADE_OF = { customers: 5000 };
const PEOPLE = 10;
const PAUSE_MS = 1000;
const GOAL_MS = 500;

/**
 * Posts a list into a company while ten people of it, and ten of another one, read pages and arrange their own: how long they
 * wait beside the same without a posting, and whether anything fails.
 */
export async function benchBeside(cluster: Cluster): Promise<void> {
  await withEmptyCompany(cluster, "bench_beside", async (company) => {
    const other = await startCompanyOn(company.origin, "Otherwater");
    const [first, file] = [join(company.folder, "first.csv"), join(company.folder, "sales.csv")];
    await writeSalesList(first, FIRST, MADE_OF);
    // Other months than those that are posted already.
    await writeSalesList(file, ROWS, { ...MADE_OF, firstYear: 2023 });
    const both = [company, other];
    for (const own of both) await own.post(first);
    const pages = await Promise.all(both.map(pageAndKpi));
    console.log(`\n${count(ROWS)} lines posted beside ${2 * PEOPLE} people of two companies, a second apart`);
    const among = async (what: string, work: () => Promise<unknown>) => {
      const [waits, byKind] = [new Latencies(), new Map<string, Latencies>()];
      const failed = new Map<string, number>();
      let isOver = false;
      const people = both.flatMap((own, c) =>
        Array.from({ length: PEOPLE }, (_, p) =>
          liveAs(own, pages[c]!, p, {
            heard: (what, ms, status) => {
              waits.add(ms);
              getOrCreate(byKind, `${what} of the ${c === 0 ? "posting" : "other"} company`, () => new Latencies()).add(
                ms,
              );
              if (status >= 400) failed.set(`${what} ${status}`, (failed.get(`${what} ${status}`) ?? 0) + 1);
            },
            isOver: () => isOver,
          }),
        ),
      );
      const start = performance.now();
      try {
        await work();
      } finally {
        isOver = true;
        await Promise.all(people);
      }
      console.log(
        `  ${what.padEnd(24)} ${((performance.now() - start) / 1000).toFixed(1)} s, ${waits.count} answers, median ${waits.at(0.5).toFixed(0)} ms, p95 ${waits.at(0.95).toFixed(0)} ms, slowest ${waits.at(1).toFixed(0)} ms; ` +
          (failed.size === 0 ? "no error" : `errors: ${[...failed].map(([why, n]) => `${n} × ${why}`).join(", ")}`),
      );
      for (const [what, own] of byKind)
        console.log(`    ${what.padEnd(36)} ${String(own.count).padStart(4)}   p95 ${own.at(0.95).toFixed(0)} ms`);
      return waits.at(0.95);
    };
    await among("nothing is posted", () => new Promise((resolve) => setTimeout(resolve, 15_000)));
    const p95 = await among("checked and posted", () => company.post(file));
    console.log(`  p95 under ${GOAL_MS} ms while it is posted: ${p95 < GOAL_MS ? "yes" : "NO"}`);
  });
}

interface Place {
  readonly page: string;
  readonly kpi: string;
}

/** The first page that a company's first file made, and one of its KPIs. */
async function pageAndKpi(own: CompanyClient): Promise<Place> {
  const [pack] = await own.get<Pack[]>("/api/packs");
  const [kpi] = await own.get<LibraryKpi[]>("/api/kpis");
  return { page: `/api/packs/${pack!.key}/pages/${pack!.pages[0]!.key}/answers`, kpi: kpi!.definition.key };
}

/** What somebody does until it is over: reads a page in some frame, looks around, adds a page. */
async function liveAs(
  client: CompanyClient,
  { page, kpi }: Place,
  person: number,
  { heard, isOver }: { heard: (what: string, ms: number, status: number) => void; isOver: () => boolean },
): Promise<void> {
  let hasPack = (await client.get<Pack[]>("/api/packs")).some(({ key }) => key === `notes-${person}`);
  const spans = ["month", "quarter", "year-to-date", "trailing-12"];
  const doings: ((turn: number) => Promise<[what: string, status: number]>)[] = [
    async (turn) => {
      const asOf = `2026-${String(((turn + person) % 12) + 1).padStart(2, "0")}`;
      return ["page", await client.status("GET", `${page}?asOf=${asOf}&span=${spans[turn % 4]}`)];
    },
    async () => ["loads", await client.status("GET", "/api/loads")],
    async () => ["KPI's history", await client.status("GET", `/api/kpis/${kpi}/history`)],
    async () => ["structure", await client.status("GET", "/api/structure")],
    async (turn) => {
      const pack = `notes-${person}`;
      const page = { name: `Page ${turn}`, scope: {}, look: {}, position: turn };
      const made = hasPack ? {} : { [`pack/${pack}`]: { name: `Notes ${person}`, position: 90 + person } };
      hasPack = true;
      const diff = diffRecords({}, { ...made, [`page/${pack}/page-${turn}-${Date.now()}`]: page });
      return [
        "arranging",
        await client.status("POST", `/api/packs/${pack}/edits`, { edit: crypto.randomUUID(), diff }),
      ];
    },
  ];
  for (let turn = person; !isOver(); turn += 1) {
    const start = performance.now();
    const [what, status] = await doings[turn % doings.length]!(turn);
    heard(what, performance.now() - start, status);
    await new Promise((resolve) => setTimeout(resolve, 2 * PAUSE_MS * Math.random()));
  }
}
