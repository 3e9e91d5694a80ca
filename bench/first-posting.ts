import { statSync } from "node:fs";
import { join } from "node:path";
import { SLOT_COLUMNS } from "#server/facts/slots.ts";
import { writeSalesList } from "./sales-list.ts";
import { timed } from "./timing.ts";
import { psql, watchTree } from "./loading.ts";
import { withEmptyCompany, type EmptyCompany } from "../launch/empty-company.ts";
import type { Cluster } from "../launch/postgres/cluster.ts";
import { count } from "../launch/prepare.ts";

const ROWS = (process.env["HACKLE_BENCH_LISTS"] ?? "100000,1000000").split(",").map(Number);
const CUSTOMERS = 5000;

/**
 * Posts a stranger's list of sales into an empty company, through a server of its own: how long check and posting take
 * beside `psql \copy` of the same rows into an empty table, what follows after them, what memory all processes of the server
 * grew by, and whether progress was told without going back.
 */
export async function benchFirstPosting(cluster: Cluster): Promise<void> {
  for (const rows of ROWS) await withEmptyCompany(cluster, "bench_first_posting", (company) => postList(company, rows));
}

async function postList(company: EmptyCompany, rows: number): Promise<void> {
  const file = join(company.folder, "sales.csv");
  await writeSalesList(file, rows, { customers: CUSTOMERS });
  const memory = watchTree(company.server.child.pid!);
  const { checkMs, postMs, followMs, told } = await company.post(file);
  const grown = memory.stop();
  const bareMs = await bareCopy(company);
  const isSteady = told.every((share, i) => i === 0 || share >= told[i - 1]!);
  const line = (what: string, ms: number) =>
    console.log(`  ${what.padEnd(24)} ${(ms / 1000).toFixed(2)} s, ${(ms / bareMs).toFixed(2)} ×`);
  console.log(
    `\nfirst posting of ${count(rows)} rows × 6 columns (${(statSync(file).size / 1e6).toFixed(0)} MB, ${count(CUSTOMERS)} customers) into an empty company; psql \\copy of its facts: ${(bareMs / 1000).toFixed(2)} s`,
  );
  line("check", checkMs);
  line("post", postMs);
  line("check and post", checkMs + postMs);
  line("what follows", followMs);
  console.log(
    `  at most 4 ×: ${(checkMs + postMs) / bareMs <= 4 ? "yes" : "NO"}; progress ${isSteady ? "never went back" : "WENT BACK"} in ${told.length} looks; all processes grew by ${grown.toFixed(0)} MiB at most`,
  );
}

/** Milliseconds of a bare `\copy` of the company's facts into an equal, empty table. */
async function bareCopy({ url, knex, schema, folder }: EmptyCompany): Promise<number> {
  const { rows: parts } = await knex.raw<{ rows: { name: string }[] }>(
    `select relname as name from pg_class join pg_namespace on pg_namespace.oid = relnamespace
     where nspname = ? and relname ~ '^fact_[0-9]+$'`,
    [schema],
  );
  const table = `${schema}.${parts[0]!.name}`;
  const columns = `dataset_id,scenario_id,account_id,month,day,amount,load_id,line,${SLOT_COLUMNS.join(",")},reference`;
  const rowsFile = join(folder, "rows.tsv");
  psql(url, `\\copy (select ${columns} from ${table} order by line) to '${rowsFile}'`);
  psql(url, `create table ${schema}.bare (like ${table} including indexes)`);
  const { ms } = await timed(() => Promise.resolve(psql(url, `\\copy ${schema}.bare (${columns}) from '${rowsFile}'`)));
  return ms;
}
