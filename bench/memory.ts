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
import { SLOT_COLUMNS, slotColumn } from "#server/facts/slots.ts";
import { bookOf } from "#server/facts/memory/memory-book.ts";
import { addDimension } from "#server/structure/add.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import { CellKeeper } from "#server/facts/memory/cell-keeper.ts";
import { MemoryBudget } from "#server/facts/memory/memory-budget.ts";
import { askTogether, Workspaces, type Workspace } from "#server/facts/workspace.ts";
import { createPartition } from "#server/facts/partitions.ts";
import { inBatches, openLoad, postFacts } from "#server/intake/post-facts.ts";
import { readPack } from "#server/packs/packs.ts";
import { panelWork } from "#server/engine/panel-work.ts";
import { readablePanels, type Pack } from "#contract/pack.ts";
import { cellsByHand } from "./plain-sql.ts";
import { medianTime, timed } from "./timing.ts";
import { createDatabase } from "../launch/database.ts";
import type { Cluster } from "../launch/postgres/cluster.ts";
import { count } from "../launch/prepare.ts";
import { loadSample } from "../launch/sample.ts";

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
  await benchTwelve(knex);
  const sizes = [1, 3, Number(process.env["HACKLE_BENCH_MILLIONS"] ?? 10)];
  for (const million of sizes) {
    await growTo(knex, million * MILLION);
    await benchAt(knex);
  }
  await knex.destroy();
  await createDatabase(cluster, "bench_customers");
  const other = connect(cluster.urlOf("bench_customers"));
  await migrate(other);
  await loadSample(other);
  await addCustomers(other);
  for (const million of sizes) {
    await sellTo(other, million * MILLION);
    await benchCustomers(other);
  }
  await other.destroy();
}

/** A page of twelve panels, as large as people make them, on the sample as it is. */
async function benchTwelve(knex: Knex): Promise<void> {
  const plain = await medianTime(5, () => cellsByHand(knex));
  const keeper = new CellKeeper(new ReadDatabase(knex, null), new MemoryBudget(2 ** 34));
  await keeper.refresh();
  const pack = await readPack(knex, "monthly-review");
  const open = new Workspaces({ database: new ReadDatabase(knex, null), readStructure: structureReader(knex), keeper });
  const workspace = await open.open(READER);
  const panels = pack.pages.flatMap((page) => page.panels).slice(0, 12);
  const page = { ...pack.pages[0]!, key: "twelve", panels };
  const frames = anyFrames();
  const ms = await medianTime(40, () => askPage(workspace, { ...pack, pages: [page] }, "twelve", frames.next().value));
  console.log(
    `\na page of ${panels.length} panels on the sample, in a frame not asked before: ${ms.toFixed(1)} ms, ` +
      `${(ms / plain).toFixed(2)} × the sum by hand in PostgreSQL (${plain.toFixed(1)} ms)`,
  );
}

async function benchAt(knex: Knex): Promise<void> {
  const lines = await countLines(knex);
  console.log(`\n${count(lines)} lines of facts`);
  const say = (label: string, ms: number, than: number, of: string) =>
    console.log(`  ${label.padEnd(44)} ${ms.toFixed(1).padStart(9)} ms   ${(than / ms).toFixed(1)} × as fast as ${of}`);
  const plain = await medianTime(3, () => cellsByHand(knex));
  console.log(`  ${"the sum by hand, in PostgreSQL".padEnd(44)} ${plain.toFixed(1).padStart(9)} ms`);
  const keeper = await readIntoMemory(knex, lines);
  const engine = await vectorised(knex);
  const vector = await medianTime(RUNS, () => engine.sum());
  say("the sum by hand, in a vectorised engine", vector, plain, "PostgreSQL");
  const pack = await readPack(knex, "monthly-review");
  const workspace = await new Workspaces({
    database: new ReadDatabase(knex, null),
    readStructure: structureReader(knex),
    keeper,
  }).open(READER);
  const frames = anyFrames();
  const cover = await medianTime(RUNS, () => askPage(workspace, pack, "cover", {}));
  say("the cover, asked again", cover, plain, "PostgreSQL");
  const fresh = await medianTime(40, () => askPage(workspace, pack, "cover", frames.next().value));
  say("the cover, in a frame not asked before", fresh, plain, "PostgreSQL");
  console.log(
    `  ${"".padEnd(44)} ${"".padStart(12)}   ${(vector / fresh).toFixed(1)} × as fast as the vectorised engine`,
  );
  const scopes = twoMembers(workspace);
  const narrowed = await medianTime(40, () =>
    askPage(workspace, pack, "cover", { ...frames.next().value, scope: scopes.next().value }),
  );
  console.log(
    `  ${"the same, narrowed to any two members".padEnd(44)} ${narrowed.toFixed(1).padStart(9)} ms   ${(narrowed / fresh).toFixed(2)} × the time of all`,
  );
  await engine.close();
  const seen = await timeToSee(knex, keeper);
  console.log(`  ${"a load of one month, from commit to memory".padEnd(44)} ${seen.toFixed(0).padStart(9)} ms`);
}

/** Reads all facts into memory, and says what that took and takes. */
async function readIntoMemory(knex: Knex, lines: number): Promise<CellKeeper> {
  const streamed = await timed(() => streamFacts(knex));
  const keeper = new CellKeeper(new ReadDatabase(knex, null), new MemoryBudget(2 ** 34));
  const built = await timed(() => keeper.refresh());
  const { state } = keeper;
  if (state.is !== "ready") throw new Error(`memory is ${state.is}`);
  console.log(
    `  memory: ${count(state.rows)} cells in ${(state.bytes / MILLION).toFixed(1)} MB, ${(state.bytes / lines).toFixed(2)} bytes a line; ` +
      `ready in ${(built.ms / streamed.ms).toFixed(2)} × the time the facts take to stream out (${streamed.ms.toFixed(0)} ms)`,
  );
  return keeper;
}

/** Asks all panels of a page. */
async function askPage(workspace: Workspace, pack: Pack, page: string, query: Readonly<Record<string, string>>) {
  const found = pack.pages.find((p) => p.key === page)!;
  const questions = new Map(
    readablePanels(found).map(({ key, definition }) => {
      const work = panelWork(definition);
      const choice = work.readChoice({});
      return [key, { query, pageScope: found.scope, compute: work.compute.bind(work, choice) }] as const;
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

const CUSTOMERS = 20_000;
const PRODUCTS = 60;

/** A dataset of sales by customer and product, whose facts share hardly any members. */
async function addCustomers(knex: Knex): Promise<void> {
  await knex.transaction(async (trx) => {
    const [dataset]: { id: number }[] = await trx("dataset")
      .insert({ key: "sales", name: "Sales", grain: "month", dimensions: ["customer", "product"], position: 90 })
      .returning("id");
    await createPartition(trx, dataset!.id);
    for (const [key, members] of [
      ["customer", CUSTOMERS],
      ["product", PRODUCTS],
    ] as const) {
      await addDimension(trx, { key, name: key, plural: `${key}s` });
      await trx.raw(
        `insert into member (dimension_id, key, name, position)
         select dimension.id, 'm' || n, 'Member ' || n, n from dimension, generate_series(1, ?::int) n where key = ?`,
        [members, key],
      );
    }
    await trx.raw(
      `insert into account (key, name, kind, behaviour, unit, decimals, position)
       select 'sales_' || n, 'Sales ' || n, 'income', 'flow', '{"kind": "money"}', 2, 900 + n from generate_series(1, 5) n`,
    );
  });
}

/** Posts sales of two years until there are so many, each to a customer of its own choice. */
async function sellTo(knex: Knex, wanted: number): Promise<void> {
  const [dataset] = await knex<{ id: number; key: string }>("dataset").where({ key: "sales" }).select("id");
  const there = Number((await knex("fact").where({ dataset_id: dataset!.id }).count("* as n").first())!["n"]);
  await knex.transaction(async (trx) => {
    const load = await openLoad(trx, {
      dataset: "sales",
      fileName: "sales.csv",
      postedBy: "bench",
      postedAt: new Date(),
    });
    const [customer, product] = ["customer", "product"].map((key) => slotColumn(load.slots.get(key)!));
    const first = (key: string) =>
      `(select min(member.id) from member join dimension on dimension.id = dimension_id where dimension.key = '${key}')`;
    await trx.raw(
      `insert into fact (dataset_id, scenario_id, account_id, month, amount, load_id, line, ${customer}, ${product})
       select ${load.datasetId}, (select id from scenario where key = 'actual'),
         (select min(id) from account where key like 'sales@_%' escape '@') + n % 5, ${monthOf(2024, 11)} + n % 24,
         n % 9973, ${load.id}, n, ${first("customer")} + hashint4(n) % (${CUSTOMERS} / 2) + ${CUSTOMERS} / 2,
         ${first("product")} + abs(hashint4(n + 7)) % ${PRODUCTS}
       from generate_series(?::int, ?::int) n`,
      [there + 1, wanted],
    );
    await trx.raw(
      `insert into load_account (load_id, scenario_id, account_id, depths, rows, total)
       select load_id, scenario_id, account_id, '{1,1}', count(*), sum(amount) from fact where load_id = ? group by 1, 2, 3`,
      [load.id],
    );
    await trx.raw(
      `insert into load_month (load_id, scenario_id, month)
       select distinct load_id, scenario_id, month from fact where load_id = ?`,
      [load.id],
    );
    await trx("load")
      .where({ id: load.id })
      .update({ rows: wanted - there });
    await noteAllFactsChanged(trx);
  });
  await knex.raw("vacuum (analyze) fact");
}

/** Sums over two years of five accounts, whole and narrowed, where facts hardly share members. */
async function benchCustomers(knex: Knex): Promise<void> {
  const [dataset] = await knex<{ id: number; key: string }>("dataset").where({ key: "sales" }).select("id");
  const lines = Number((await knex("fact").where({ dataset_id: dataset!.id }).count("* as n").first())!["n"]);
  const plain = await medianTime(3, () =>
    knex.raw("select account_id, month, sum(amount) from fact where dataset_id = ? group by 1, 2", [dataset!.id]),
  );
  console.log(`\n${count(lines)} lines of sales by ${count(CUSTOMERS)} customers and ${PRODUCTS} products`);
  const keeper = await readIntoMemory(knex, lines);
  const structure = await structureReader(knex)();
  const months = Array.from({ length: 24 }, (_, i) => monthOf(2024, 11) + i);
  const accounts = [1, 2, 3, 4, 5].map((n) => `sales_${n}`);
  const ask = (scope: Scope): Promise<void> => {
    // A book of its own has nothing at hand that was added up before.
    const book = bookOf(structure, keeper.at(structure.facts)!);
    for (const account of accounts)
      for (const month of months)
        book.sum({ scope, days: undefined, scenario: "actual", accounts: [account], months: [month] });
    return Promise.resolve();
  };
  const all = await medianTime(RUNS, () => ask({}));
  console.log(`  120 sums by hand, in PostgreSQL: ${plain.toFixed(1)} ms`);
  const say = (label: string, ms: number) =>
    console.log(`  ${label.padEnd(44)} ${ms.toFixed(2).padStart(9)} ms   ${(plain / ms).toFixed(0)} × as fast`);
  say("all of them", all);
  say("narrowed to two customers", await medianTime(RUNS, () => ask({ customer: ["m7", "m11000"] })));
  say("narrowed to half of all products", await medianTime(RUNS, () => ask({ product: half })));
  say(
    "narrowed to two customers and a product",
    await medianTime(RUNS, () => ask({ customer: ["m7", "m11000"], product: ["m3"] })),
  );
}

const half = Array.from({ length: PRODUCTS / 2 }, (_, i) => `m${2 * i + 1}`);
