import { spawnSync } from "node:child_process";
import { once } from "node:events";
import { createReadStream, mkdtempSync, readFileSync, rmSync, statSync } from "node:fs";
import { request, type IncomingMessage } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { json } from "node:stream/consumers";
import { pipeline } from "node:stream/promises";
import { hasEnded } from "#core/checks/job-state.ts";
import type { Draft, Job } from "#contract/intake.ts";
import { SLOT_COLUMNS } from "#server/facts/slots.ts";
import { connect } from "#server/db/connect.ts";
import { migrate } from "#server/db/migrate.ts";
import { writeLedger } from "./ledger-file.ts";
import { timed } from "./timing.ts";
import { createDatabase } from "../launch/database.ts";
import { findBinaries } from "../launch/postgres/binaries.ts";
import { freePort, type Cluster } from "../launch/postgres/cluster.ts";
import { count } from "../launch/prepare.ts";
import { loadSample } from "../launch/sample.ts";
import { startServer } from "../launch/server-process.ts";
import { ANALYST } from "#testing/api.ts";

/**
 * Loads a large ledger through a server of its own, as a person would, and prints how long
 * preview, check and posting take beside `psql \copy` of the same rows into the same table,
 * what the server's memory grew by, and how long other requests waited meanwhile.
 */
export async function benchLoading(
  cluster: Cluster,
  rows = Number(process.env["HACKLE_BENCH_ROWS"] ?? 1_000_000),
): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "hackle-bench-"));
  const file = join(folder, "large-ledger.csv");
  await writeLedger(file, rows);
  const name = "bench_loading";
  const admin = connect(cluster.url, { poolSize: 1 });
  await admin.raw("drop database if exists ?? with (force)", [name]);
  await createDatabase(cluster, name);
  const url = cluster.urlOf(name);
  const knex = connect(url);
  await migrate(knex);
  await loadSample(knex);
  const port = await freePort();
  const server = await startServer({
    databaseUrl: url,
    port,
    webFolder: folder,
    filesFolder: join(folder, "files"),
    quiet: true,
  });
  try {
    const origin = `http://127.0.0.1:${port}`;
    const signedIn = await fetch(`${origin}/api/session/sample`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ email: ANALYST }),
    });
    const headers = { cookie: signedIn.headers.get("set-cookie")!.split(";")[0]! };
    const get = async <T>(path: string) => (await (await fetch(origin + path, { headers })).json()) as T;
    const send = async <T>(path: string, body: unknown) =>
      (await (
        await fetch(origin + path, {
          method: "POST",
          headers: { ...headers, "content-type": "application/json" },
          body: JSON.stringify(body),
        })
      ).json()) as T;
    // A few small files first: a server that runs for a while has its code warm.
    for (let i = 0; i < 3; i += 1) {
      const body = "Period,Account,Route,Amount\n2026-11,Repairs,Tarn Point–Osk,1\n";
      const small = (await (
        await fetch(`${origin}/api/drafts?name=small.csv`, { method: "POST", headers, body })
      ).json()) as Draft;
      await new Promise((resolve) => setTimeout(resolve, 1000));
      await fetch(`${origin}/api/drafts/${small.id}`, { method: "DELETE", headers });
    }
    await new Promise((resolve) => setTimeout(resolve, 3000));
    const memory = watchTree(server.child.pid!);
    const waits: number[] = [];
    const pulse = setInterval(() => void timed(() => get("/api/health")).then(({ ms }) => waits.push(ms)), 250);

    const preview = await timed(() => uploadFile(`${origin}/api/drafts?name=large-ledger.csv`, file, headers));
    const finished = async (job: Job) => {
      while (!hasEnded(job)) {
        await new Promise((resolve) => setTimeout(resolve, 200));
        job = await get<Job>(`/api/jobs/${job.id}`);
      }
      if (job.state !== "done") throw new Error(job.message ?? job.state);
      return job;
    };
    const check = await timed(() => finished(preview.value.job!));
    const draft = await get<Draft>(`/api/drafts/${preview.value.id}`);
    const post = await timed(async () =>
      finished(await send<Job>(`/api/drafts/${draft.id}/post`, { version: draft.version })),
    );
    clearInterval(pulse);
    const grown = memory.stop();
    const loadId = post.value.loadId!;

    const columns = `dataset_id,scenario_id,account_id,month,day,amount,load_id,line,${SLOT_COLUMNS.join(",")},reference`;
    const rowsFile = join(folder, "rows.tsv");
    psql(url, `\\copy (select ${columns} from fact where load_id = ${loadId} order by line) to '${rowsFile}'`);
    await send(`/api/loads/${loadId}/undo`, {});
    psql(url, "vacuum fact_1");
    const bare = await timed(() => Promise.resolve(psql(url, `\\copy fact (${columns}) from '${rowsFile}'`)));
    const both = check.ms + post.ms;
    waits.sort((a, b) => a - b);
    const seconds = (ms: number) => `${(ms / 1000).toFixed(2)} s`;
    console.log(`\nloading ${count(rows)} rows × 8 columns, ${(statSync(file).size / 1e6).toFixed(0)} MB`);
    console.log(
      `  upload to preview      ${seconds(preview.ms)}, ${(preview.ms / bare.ms).toFixed(2)} × psql \\copy of the rows (${seconds(bare.ms)})`,
    );
    console.log(`  check                  ${seconds(check.ms)}, ${(check.ms / bare.ms).toFixed(2)} ×`);
    console.log(`  post                   ${seconds(post.ms)}, ${(post.ms / bare.ms).toFixed(2)} ×`);
    console.log(`  check and post         ${seconds(both)}, ${(both / bare.ms).toFixed(2)} × psql \\copy`);
    console.log(`  server's memory grew   ${grown.toFixed(0)} MiB at most`);
    console.log(
      `  other requests waited  ${waits[Math.floor(waits.length / 2)]?.toFixed(0)} ms in the middle, ${waits[Math.floor(waits.length * 0.99)]?.toFixed(0)} ms at worst (99 of 100)`,
    );
  } finally {
    await server.stop();
    await knex.destroy();
    await admin.raw("drop database ?? with (force)", [name]);
    await admin.destroy();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Uploads a file as a browser does. */
export async function uploadFile(url: string, file: string, headers: Record<string, string>): Promise<Draft> {
  const sent = request(url, { method: "POST", headers });
  const [[response]] = (await Promise.all([
    once(sent, "response"),
    pipeline(createReadStream(file, { highWaterMark: 1_048_576 }), sent),
  ])) as unknown as [[IncomingMessage]];
  return json(response) as Promise<Draft>;
}

/** Runs a command of `psql`. */
export function psql(url: string, command: string): void {
  const result = spawnSync(join(findBinaries()!, "psql"), [url, "-q", "-v", "ON_ERROR_STOP=1", "-c", command], {
    encoding: "utf8",
  });
  if (result.status !== 0) throw new Error(result.stderr);
}

/** Watches the resident memory of a process and all that it started; `stop` gives by how many MiB it grew at most. */
export function watchTree(root: number): { stop(): number } {
  const own = (pid: number) => {
    try {
      return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1] ?? 0) / 1024;
    } catch {
      return 0;
    }
  };
  const read = () => [root, ...childrenOf(root)].reduce((sum, pid) => sum + own(pid), 0);
  const start = read();
  let most = start;
  const timer = setInterval(() => (most = Math.max(most, read())), 50);
  return {
    stop: () => {
      clearInterval(timer);
      return most - start;
    },
  };
}

function childrenOf(pid: number): number[] {
  try {
    return readFileSync(`/proc/${pid}/task/${pid}/children`, "utf8").trim().split(" ").filter(Boolean).map(Number);
  } catch {
    return [];
  }
}
