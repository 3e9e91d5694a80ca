import type { Knex } from "knex";
import type { Client } from "pg";
import { to as copyTo } from "pg-copy-streams";
import type { CellBlock } from "#core/cube/memory/cell-block.ts";
import { BlockGatherer, type SlotCodes } from "#core/cube/memory/gather-blocks.ts";
import type { FactSlice } from "#server/db/data-version.ts";

/** A dataset as memory reads it: which of a fact's slots its facts use. */
export interface ReadDataset {
  readonly id: number;
  readonly slots: readonly number[];
  readonly isDaily: boolean;
}

/** Scenario, month, account and day stand before the members, and the amount behind them. */
const BEFORE_MEMBERS = 4;
const [TAB, LINE_FEED, MINUS, ZERO] = [9, 10, 45, 48];

/** Of so many facts it is seen whether they agree in everything. */
const LOOKED_AT = 100_000;

/**
 * Reads a dataset's facts into blocks, all of them or those of some slices; codes grow by members that were not met
 * before. Where facts often agree in everything, PostgreSQL adds them up first.
 */
export async function readBlocks(
  trx: Knex.Transaction,
  dataset: ReadDataset,
  codes: readonly SlotCodes[],
  slices: readonly FactSlice[] | null,
): Promise<Map<number, CellBlock>> {
  const gatherer = new BlockGatherer(codes, dataset.isDaily);
  const { client } = trx as unknown as { client: { acquireConnection(): Promise<Client> } };
  const connection = await client.acquireConnection();
  const stream = connection.query(copyTo(`copy (${await selectCells(trx, dataset, slices)}) to stdout`));
  const width = BEFORE_MEMBERS + dataset.slots.length + 1;
  const members = new Uint32Array(dataset.slots.length);
  const read = numberReader(width, (fields) => {
    for (let s = 0; s < members.length; s += 1) members[s] = fields[BEFORE_MEMBERS + s]!;
    gatherer.add(fields[0]!, fields[1]!, fields[2]!, fields[3]!, members, fields[width - 1]!);
  });
  for await (const chunk of stream as AsyncIterable<Buffer>) read(chunk);
  return gatherer.finish();
}

/** Every value is a number of our own, so that COPY, which takes no parameters, can have it in its text. */
async function selectCells(
  trx: Knex.Transaction,
  { id, slots }: ReadDataset,
  slices: readonly FactSlice[] | null,
): Promise<string> {
  const keys = ["scenario_id", "month", "account_id", "coalesce(day, 0)", ...slots.map((s) => `coalesce(m${s}, 0)`)];
  // The index begins with the account: with all accounts named, a month of many is found without reading the others.
  const where =
    slices === null
      ? ""
      : `where account_id = any(array(select id from account)) and (${monthsByScenario(slices)
          .map(([scenario, months]) => `scenario_id = ${scenario} and month in (${months.join(",")})`)
          .join(" or ")})`;
  const cells = keys.join(", ");
  return slices === null && (await hardlyAgree(trx, `fact_${id}`, cells))
    ? `select ${cells}, amount from fact_${id}`
    : `select ${cells}, sum(amount) from fact_${id} ${where} group by ${keys.map((_, i) => i + 1).join(", ")}`;
}

/**
 * Whether adding up facts that agree would leave more than half of them: then it takes longer than it spares. Judged by
 * a sample: of `n` facts drawn from `c` cells about `n²/2c` meet another one (the birthday problem). Facts on other
 * servers cannot be sampled, and are added up where they lie.
 */
async function hardlyAgree(trx: Knex.Transaction, table: string, cells: string): Promise<boolean> {
  const { rows } = await trx.raw<{ rows: { kind: string; facts: number }[] }>(
    "select relkind as kind, reltuples::float8 as facts from pg_class where oid = to_regclass(?)",
    [table],
  );
  const { kind, facts } = rows[0] ?? { kind: "", facts: 0 };
  if (kind !== "r" || facts < LOOKED_AT) return false;
  const { rows: drawn } = await trx.raw<{ rows: { n: string; distinct: string }[] }>(
    `select count(*) as n, count(distinct (${cells})) as distinct
     from ${table} tablesample system (${(100 * LOOKED_AT) / facts})`,
  );
  const [n, distinct] = [Number(drawn[0]!.n), Number(drawn[0]!.distinct)];
  return n ** 2 > facts * (n - distinct);
}

function monthsByScenario(slices: readonly FactSlice[]): [scenario: number, months: number[]][] {
  const months = new Map<number, number[]>();
  for (const { scenarioId, month } of slices) months.set(scenarioId, [...(months.get(scenarioId) ?? []), month]);
  return [...months];
}

/** Reads lines of whole numbers, parted by tabs, from chunks that break anywhere. */
function numberReader(width: number, onLine: (fields: Float64Array) => void): (chunk: Buffer) => void {
  const fields = new Float64Array(width);
  let field = 0;
  let value = 0;
  let sign = 1;
  return (chunk) => {
    for (let i = 0; i < chunk.length; i += 1) {
      const byte = chunk[i]!;
      if (byte >= ZERO) value = value * 10 + (byte - ZERO);
      else if (byte === MINUS) sign = -1;
      else if (byte === TAB || byte === LINE_FEED) {
        fields[field] = sign * value;
        value = 0;
        sign = 1;
        field += 1;
        if (byte === LINE_FEED) {
          onLine(fields);
          field = 0;
        }
      }
    }
  };
}
