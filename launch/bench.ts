import { createReadStream, createWriteStream, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pipeline } from "node:stream/promises";
import type { Client } from "pg";
import { from as copyFrom, to as copyTo } from "pg-copy-streams";
import type { Knex } from "knex";
import { connect } from "#server/db/connect.ts";
import { migrate } from "#server/db/migrate.ts";
import { timed } from "../bench/timing.ts";
import { benchBeside } from "../bench/beside.ts";
import { benchCharts } from "../bench/charts.ts";
import { benchFigures } from "../bench/figures.ts";
import { benchFiles } from "../bench/files.ts";
import { benchFirstPosting } from "../bench/first-posting.ts";
import { benchForecasts } from "../bench/forecasts.ts";
import { benchMemory } from "../bench/memory.ts";
import { benchPages } from "../bench/pages.ts";
import { benchReaders } from "../bench/readers.ts";
import { benchSales } from "../bench/sales.ts";
import { benchLoading } from "../bench/loading.ts";
import { createDatabase } from "./database.ts";
import { openHome, PROJECT } from "./home.ts";
import { startCluster } from "./postgres/cluster.ts";
import { count } from "./prepare.ts";
import { runProgram } from "./progress.ts";
import { loadSample } from "./sample.ts";

/** Speed as ratios against plain SQL and a bare COPY in the same run; milliseconds are this machine's, today. */
runProgram(async () => {
  if (process.argv.includes("--forecasts")) return benchForecasts();
  if (process.argv.includes("--files")) return benchFiles();
  const cluster = await startCluster(openHome(join(PROJECT, ".hackle/bench")));
  try {
    const only = process.argv.find((argument) => argument.startsWith("--"));
    if (only === undefined || only === "--memory") await benchMemory(cluster);
    if (only === undefined || only === "--readers") await benchReaders(cluster);
    if (only === undefined || only === "--pages") await benchPages(cluster);
    if (only === undefined || only === "--charts") await benchCharts(cluster);
    if (only === undefined) await benchForecasts();
    if (only === undefined || only === "--sales") await benchSales(cluster);
    if (only === undefined || only === "--beside") await benchBeside(cluster);
    if (only !== undefined && ["--memory", "--readers", "--pages", "--charts", "--sales", "--beside"].includes(only))
      return;
    if (only === undefined || only === "--first-posting") await benchFirstPosting(cluster);
    if (only === "--first-posting") return;
    if (only !== "--figures") await benchLoading(cluster);
    if (only === "--loading") return;
    for (const scale of [1, Number(process.env["HACKLE_BENCH_SCALE"] ?? 12)]) {
      const name = `bench_${scale}`;
      await createDatabase(cluster, name);
      const knex = connect(cluster.urlOf(name));
      await migrate(knex);
      const { value: loaded, ms } = await timed(() => loadSample(knex, { scale }));
      console.log(`\nscale ${scale}: ${count(loaded.rows)} rows`);
      const copy = await bareCopy(knex);
      console.log(
        `  generate and post      ${ms.toFixed(0)} ms, ${(ms / copy).toFixed(1)} × a bare COPY of the same rows (${copy.toFixed(0)} ms)`,
      );
      await benchFigures(knex);
      console.log(`  memory of the process  ${(process.memoryUsage().rss / 2 ** 20).toFixed(0)} MiB`);
      await knex.destroy();
      const admin = connect(cluster.url, { poolSize: 1 });
      await admin.raw("drop database ?? with (force)", [name]);
      await admin.destroy();
    }
  } finally {
    cluster.stop();
  }
});

/** Milliseconds of a bare COPY of all facts into an equal table with equal indexes. */
async function bareCopy(knex: Knex): Promise<number> {
  const folder = mkdtempSync(join(tmpdir(), "hackle-bench-"));
  const file = join(folder, "facts.tsv");
  try {
    return await knex.transaction(async (trx) => {
      const { client } = trx as unknown as { client: { acquireConnection(): Promise<Client> } };
      const connection = await client.acquireConnection();
      await pipeline(connection.query(copyTo("copy (select * from fact) to stdout")), createWriteStream(file));
      await trx.raw("create table bare (like fact including all)");
      const { ms } = await timed(() =>
        pipeline(createReadStream(file), connection.query(copyFrom("copy bare from stdin"))),
      );
      await trx.raw("drop table bare");
      return ms;
    });
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
