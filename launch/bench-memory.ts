import { DuckDBInstance } from "@duckdb/node-api";
import type { Knex } from "knex";
import type { Client } from "pg";
import { to as copyTo } from "pg-copy-streams";
import { formatMonth, monthOf } from "#core/calendar/month.ts";
import type { Reader } from "#server/access/reader.ts";
import { connect } from "#server/db/connect.ts";
import { noteAllFactsChanged } from "#server/db/data-version.ts";
import { migrate } from "#server/db/migrate.ts";
import { ReadDatabase } from "#server/db/read-database.ts";
import { structureReader } from "#server/db/structure.ts";
import { SLOT_COLUMNS } from "#server/facts/slots.ts";
import { CellKeeper } from "#server/facts/memory/cell-keeper.ts";
import { askTogether, Workspaces, type Workspace } from "#server/facts/workspace.ts";
import { inBatches, openLoad, postFacts } from "#server/intake/post-facts.ts";
import { readPack } from "#server/packs/packs.ts";
import { panelWork } from "#server/engine/panel-work.ts";
import type { Pack } from "#contract/pack.ts";
import { cellsByHand } from "../bench/plain-sql.ts";
import { median, timed } from "../bench/timing.ts";
import { createDatabase } from "./database.ts";
import type { Cluster } from "./postgres/cluster.ts";
import { count } from "./prepare.ts";
import { loadSample } from "./sample.ts";

const MILLION = 1_000_000;
const READER: Reader = { email: "", name: "", role: "analyst", scope: {} } as unknown as Reader;
const RUNS = 9;

/**
 * The cover from memory while the facts grow, held against the one sum a person would write, in PostgreSQL and in a
 * vectorised SQL engine within the process. Lines are grown from the sample's own, each of another amount.
 */
export async function benchMemory(cluster: Cluster): Promise<void> {
  await createDatabase(cluster, "bench_memory");
  const knex = connect(cluster.urlOf("bench_memory"));
  await migrate(knex);
  await loadSample(knex);
  for (const million of [1, 3, Number(process.env["HACKLE_BENCH_MILLIONS"] ?? 10)]) {
    await growTo(knex, million * MILLION);
    await benchAt(knex);
  }
  await knex.destroy();
}

async function benchAt(knex: Knex): Promise<void> {
  const lines = await countLines(knex);
  console.log(`\n${count(lines)} lines of facts`);
  const say = (label: string, ms: number, than: number, of: string) =>
    console.log(`  ${label.padEnd(44)} ${ms.toFixed(1).padStart(9)} ms   ${(than / ms).toFixed(1)} × as fast as ${of}`);
  const plain = await median(3, () => cellsByHand(knex));
  console.log(`  ${"the sum by hand, in PostgreSQL".padEnd(44)} ${plain.toFixed(1).padStart(9)} ms`);
  const streamed = await timed(() => streamFacts(knex));
  const keeper = new CellKeeper(new ReadDatabase(knex, null), 2 ** 34);
  const built = await timed(() => keeper.refresh());
  const { state } = keeper;
  if (state.is !== "ready") throw new Error(`memory is ${state.is}`);
  console.log(
    `  memory: ${count(state.rows)} cells in ${(state.bytes / MILLION).toFixed(1)} MB, ${(state.bytes / lines).toFixed(2)} bytes a line; ` +
      `ready in ${(built.ms / streamed.ms).toFixed(2)} × the time the facts take to stream out (${streamed.ms.toFixed(0)} ms)`,
  );
  const engine = await vectorised(knex);
  const vector = await median(RUNS, () => engine.sum());
  say("the sum by hand, in a vectorised engine", vector, plain, "PostgreSQL");
  const pack = await readPack(knex, "monthly-review");
  const workspace = await new Workspaces({
    database: new ReadDatabase(knex, null),
    readStructure: structureReader(knex),
    keeper,
  }).open(READER);
  const frames = anyFrames();
  const cover = await median(RUNS, () => askPage(workspace, pack, "cover", {}));
  say("the cover, asked again", cover, plain, "PostgreSQL");
  const fresh = await median(40, () => askPage(workspace, pack, "cover", frames.next().value));
  say("the cover, in a frame not asked before", fresh, plain, "PostgreSQL");
  console.log(
    `  ${"".padEnd(44)} ${"".padStart(12)}   ${(vector / fresh).toFixed(1)} × as fast as the vectorised engine`,
  );
  const scopes = twoMembers(workspace);
  const narrowed = await median(40, () =>
    askPage(workspace, pack, "cover", { ...frames.next().value, scope: scopes.next().value }),
  );
  console.log(
    `  ${"the same, narrowed to any two members".padEnd(44)} ${narrowed.toFixed(1).padStart(9)} ms   ${(narrowed / fresh).toFixed(2)} × the time of all`,
  );
  await engine.close();
  const seen = await timeToSee(knex, keeper);
  console.log(`  ${"a load of one month, from commit to memory".padEnd(44)} ${seen.toFixed(0).padStart(9)} ms`);
}

/** Asks all panels of a page. */
async function askPage(workspace: Workspace, pack: Pack, page: string, query: Readonly<Record<string, string>>) {
  const { panels, scope } = pack.pages.find((p) => p.key === page)!;
  const questions = new Map(
    panels.flatMap((panel) => {
      if (panel.kind === "unreadable") return [];
      const work = panelWork(panel);
      const choice = work.readChoice({});
      return [[panel.key, { query, pageScope: scope, compute: work.compute.bind(work, choice) }] as const];
    }),
  );
  for await (const settled of askTogether(workspace, questions)) if ("error" in settled) throw settled.error;
}

function* anyFrames(): Generator<Record<string, string>, never> {
  for (let i = 0; ; i += 1)
    yield {
      asOf: formatMonth(monthOf(2026, 10) - (i % 24)),
      span: ["month", "year-to-date", "quarter", "trailing-12"][i % 4]!,
      basis: ["budget", "prior-year", "prior-period"][i % 3]!,
    };
}

function* twoMembers({ structure }: Workspace): Generator<string, never> {
  for (let i = 0; ; i += 1) {
    const { key, members } = structure.dimensions[i % structure.dimensions.length]!;
    const at = (n: number) => members[n % members.length]!.key;
    yield `${key}:${at(i)},${at(i * 7 + 1)}`;
  }
}

async function countLines(knex: Knex): Promise<number> {
  return Number((await knex("fact").count("* as n").first())!["n"]);
}

/** Adds lines of other amounts to every line there is, until there are so many. */
async function growTo(knex: Knex, wanted: number): Promise<void> {
  const lines = await countLines(knex);
  const own = Number((await knex("fact").where("line", "<", MILLION).count("* as n").first())!["n"]);
  const [from, to] = [Math.round(lines / own), Math.round(wanted / own) - 1];
  if (to < from) return;
  const columns = `dataset_id, scenario_id, account_id, month, day, load_id, reference, ${SLOT_COLUMNS.join(", ")}`;
  await knex.raw(
    `insert into fact (${columns}, line, amount) select ${columns}, line + g * ${MILLION}, amount + g
     from fact, generate_series(?::int, ?::int) g where line < ${MILLION}`,
    [from, to],
  );
  await noteAllFactsChanged(knex);
  await knex.raw("vacuum (analyze) fact");
}

/** Lets the facts stream out of the database and does nothing with them. */
async function streamFacts(knex: Knex): Promise<void> {
  await knex.transaction(async (trx) => {
    const { client } = trx as unknown as { client: { acquireConnection(): Promise<Client> } };
    const stream = (await client.acquireConnection()).query(
      copyTo("copy (select scenario_id, account_id, month, day, amount, m1, m2, m3, m4, m5, m6 from fact) to stdout"),
    );
    for await (const chunk of stream) void chunk;
  });
}

/** The same facts in a vectorised SQL engine within the process. */
async function vectorised(knex: Knex): Promise<{ sum(): Promise<unknown>; close(): Promise<void> }> {
  const instance = await DuckDBInstance.create(":memory:");
  const connection = await instance.connect();
  await connection.run("create table fact (scenario_id integer, account_id integer, month integer, amount bigint)");
  const appender = await connection.createAppender("fact");
  await knex.transaction(async (trx) => {
    const { client } = trx as unknown as { client: { acquireConnection(): Promise<Client> } };
    const stream = (await client.acquireConnection()).query(
      copyTo("copy (select scenario_id, account_id, month, amount from fact) to stdout"),
    );
    let rest = "";
    for await (const chunk of stream as AsyncIterable<Buffer>) {
      const rows = (rest + chunk.toString("latin1")).split("\n");
      rest = rows.pop()!;
      for (const row of rows) {
        const [scenario, account, month, amount] = row.split("\t");
        appender.appendInteger(Number(scenario));
        appender.appendInteger(Number(account));
        appender.appendInteger(Number(month));
        appender.appendBigInt(BigInt(amount!));
        appender.endRow();
      }
    }
  });
  appender.closeSync();
  return {
    sum: () =>
      connection.runAndReadAll(
        `select scenario_id, account_id, month, sum(amount) from fact
         where month between ${monthOf(2025, 4)} and ${monthOf(2026, 10)} group by all`,
      ),
    close: () => {
      connection.closeSync();
      instance.closeSync();
      return Promise.resolve();
    },
  };
}

/** Milliseconds from the commit of a load of one month until memory has it. */
async function timeToSee(knex: Knex, keeper: CellKeeper): Promise<number> {
  const structure = await structureReader(knex)();
  await knex.transaction(async (trx) => {
    const load = await openLoad(trx, {
      dataset: "management-accounts",
      fileName: "more.csv",
      postedBy: "bench",
      postedAt: new Date(),
    });
    const facts = [...structure.ids.accounts.keys()]
      .filter((account) => structure.accounts.leaves.get(account)?.length === 1)
      .map((account) => ({
        scenario: "actual",
        account,
        month: monthOf(2026, 11),
        day: null,
        members: {},
        amount: 1,
        reference: null,
      }));
    await postFacts(trx, structure, load, inBatches(facts));
  });
  return (await timed(() => keeper.refresh())).ms;
}
