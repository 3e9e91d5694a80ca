import { mkdtempSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { hasEnded } from "#core/checks/job-state.ts";
import type { Draft, Job } from "#contract/intake.ts";
import type { LoadDetail } from "#contract/loads.ts";
import { SLOT_COLUMNS } from "#server/facts/slots.ts";
import { connect } from "#server/db/connect.ts";
import { migrate } from "#server/db/migrate.ts";
import { writeSalesList } from "../bench/sales-list.ts";
import { timed } from "../bench/timing.ts";
import { psql, uploadFile, watchTree } from "./bench-loading.ts";
import { createDatabase } from "./database.ts";
import { freePort, type Cluster } from "./postgres/cluster.ts";
import { count } from "./prepare.ts";
import { startServer } from "./server-process.ts";

const ROWS = (process.env["HACKLE_BENCH_LISTS"] ?? "100000,1000000").split(",").map(Number);
const CUSTOMERS = 5000;
const ADMINISTRATOR = { name: "Ida Moor", email: "ida@brightwater.example", password: "a long password" };

/**
 * Posts a stranger's list of sales into an empty company, through a server of its own: how long check and posting take
 * beside `psql \copy` of the same rows into an empty table, what follows after them, what memory all processes of the server
 * grew by, and whether progress was told without going back.
 */
export async function benchFirstPosting(cluster: Cluster): Promise<void> {
  for (const rows of ROWS) await postList(cluster, rows);
}

async function postList(cluster: Cluster, rows: number): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "hackle-bench-"));
  const file = join(folder, "sales.csv");
  await writeSalesList(file, rows, CUSTOMERS);
  const name = "bench_first_posting";
  const admin = connect(cluster.url, { poolSize: 1 });
  await admin.raw("drop database if exists ?? with (force)", [name]);
  await createDatabase(cluster, name);
  const url = cluster.urlOf(name);
  const knex = connect(url, { poolSize: 2 });
  await migrate(knex);
  const port = await freePort();
  const server = await startServer({
    databaseUrl: url,
    port,
    webFolder: folder,
    filesFolder: join(folder, "files"),
    quiet: true,
    environment: { HACKLE_SAMPLE: "off" },
  });
  try {
    const origin = `http://127.0.0.1:${port}`;
    const company = { name: "Brightwater", currency: "EUR", startMonth: 1, administrator: ADMINISTRATOR };
    const started = await fetch(`${origin}/api/companies`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(company),
    });
    const cookie = started.headers
      .getSetCookie()
      .map((set) => set.split(";")[0]!)
      .join("; ");
    const headers = { cookie };
    const get = async <T>(path: string) => (await (await fetch(origin + path, { headers })).json()) as T;
    const post = async <T>(path: string, body: unknown) =>
      (await (
        await fetch(origin + path, {
          method: "POST",
          headers: { ...headers, "content-type": "application/json" },
          body: JSON.stringify(body),
        })
      ).json()) as T;
    const told: number[] = [];
    const ended = async (job: Job) => {
      while (!hasEnded(job)) {
        await new Promise((resolve) => setTimeout(resolve, 100));
        job = await get<Job>(`/api/jobs/${job.id}`);
        if (job.kind === "post") told.push(job.share);
      }
      if (job.state !== "done") throw new Error(job.message ?? job.state);
      return job;
    };
    const memory = watchTree(server.child.pid!);
    const uploaded = await uploadFile(`${origin}/api/drafts?name=sales.csv`, file, headers);
    const check = await timed(() => ended(uploaded.job!));
    const draft = await get<Draft>(`/api/drafts/${uploaded.id}`);
    if (!draft.report?.mayPost) throw new Error(JSON.stringify(draft.report?.findings ?? draft.mappingProblems));
    const posted = await timed(async () =>
      ended(await post<Job>(`/api/drafts/${draft.id}/post`, { version: draft.version })),
    );
    const followed = await timed(async () => {
      while (!(await get<LoadDetail>(`/api/loads/${posted.value.loadId}`)).isFollowedUp)
        await new Promise((resolve) => setTimeout(resolve, 100));
    });
    const grown = memory.stop();

    const { rows: spaces } = await knex.raw<{ rows: { schema: string }[] }>(
      "select schema from hackle_companies.space",
    );
    const { schema } = spaces[0]!;
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
    const bare = await timed(() => Promise.resolve(psql(url, `\\copy ${schema}.bare (${columns}) from '${rowsFile}'`)));
    const both = check.ms + posted.ms;
    const isSteady = told.every((share, i) => i === 0 || share >= told[i - 1]!);
    const line = (what: string, ms: number) =>
      console.log(`  ${what.padEnd(24)} ${(ms / 1000).toFixed(2)} s, ${(ms / bare.ms).toFixed(2)} ×`);
    console.log(
      `\nfirst posting of ${count(rows)} rows × 6 columns (${(statSync(file).size / 1e6).toFixed(0)} MB, ${count(CUSTOMERS)} customers) into an empty company; psql \\copy of its facts: ${(bare.ms / 1000).toFixed(2)} s`,
    );
    line("check", check.ms);
    line("post", posted.ms);
    line("check and post", both);
    line("what follows", followed.ms);
    console.log(
      `  at most 4 ×: ${both / bare.ms <= 4 ? "yes" : "NO"}; progress ${isSteady ? "never went back" : "WENT BACK"} in ${told.length} looks; all processes grew by ${grown.toFixed(0)} MiB at most`,
    );
  } finally {
    await server.stop();
    await knex.destroy();
    await admin.raw("drop database ?? with (force)", [name]);
    await admin.destroy();
    rmSync(folder, { recursive: true, force: true });
  }
}
