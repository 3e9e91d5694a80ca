import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { Knex } from "knex";
import type { Client } from "pg";
import { from as copyFrom } from "pg-copy-streams";
import type { Month } from "#core/calendar/month.ts";
import type { Fact } from "#core/cube/fact.ts";
import { memberDepth } from "#core/dimensions/dimension.ts";
import type { Structure } from "#server/db/structure.ts";

/** A file to post. Lines are numbered in the order in which they come. */
export interface LoadToPost {
  readonly dataset: string;
  readonly fileName: string;
  readonly postedBy: string;
  readonly postedAt: Date;
  readonly lines: Iterable<Fact>;
}

/** What facts need to be stored: keys, dimensions and how finely each dataset is dated. */
export type PostingStructure = Pick<Structure, "ids" | "dimensions">;

const SLOT_COUNT = 8;

/**
 * Posts a file in one piece by COPY, with its coverage, inside the transaction it
 * is given. Returns the number of rows. Throws a `RangeError` naming line, thing and
 * value when a line names what the structure does not have.
 */
export async function postLoad(trx: Knex.Transaction, structure: PostingStructure, load: LoadToPost): Promise<number> {
  const dataset: { id: number; grain: string } | undefined = await trx("dataset")
    .where({ key: load.dataset })
    .first("id", "grain");
  if (!dataset) throw new RangeError(`There is no dataset "${load.dataset}".`);
  const [created]: { id: number }[] = await trx("load")
    .insert({
      dataset_id: dataset.id,
      file_name: load.fileName,
      posted_by: load.postedBy,
      posted_at: load.postedAt,
      rows: 0,
    })
    .returning("id");
  const tally = new CoverageTally(structure, dataset.grain);
  const { client } = trx as unknown as { client: { acquireConnection(): Promise<Client> } };
  const connection = await client.acquireConnection();
  const columns = [
    "dataset_id",
    "scenario_id",
    "account_id",
    "month",
    "day",
    "amount",
    "load_id",
    "line",
    "m1",
    "m2",
    "m3",
    "m4",
    "m5",
    "m6",
    "m7",
    "m8",
    "reference",
  ];
  const stream = connection.query(copyFrom(`copy fact (${columns.join(",")}) from stdin`));
  await pipeline(Readable.from(copyChunks(structure, load, dataset.id, created!.id, tally)), stream);
  await trx("load").where({ id: created!.id }).update({ rows: tally.rows });
  await trx.batchInsert("load_account", tally.accountRows(created!.id));
  await trx.batchInsert("load_month", tally.monthRows(created!.id));
  await trx("data_version").increment("version", 1);
  return tally.rows;
}

/** Makes the partition that holds a dataset's facts. */
export async function createPartition(knex: Knex, datasetId: number): Promise<void> {
  await knex.raw(
    `create table if not exists fact_${Math.trunc(datasetId)} partition of fact for values in (${Math.trunc(datasetId)})`,
  );
}

function* copyChunks(
  structure: PostingStructure,
  load: LoadToPost,
  datasetId: number,
  loadId: number,
  tally: CoverageTally,
): Generator<string> {
  const dimensions = [...structure.ids.slots];
  let chunk = "";
  let line = 0;
  for (const fact of load.lines) {
    line += 1;
    const at = `${load.fileName}, line ${line}`;
    const scenario = required(structure.ids.scenarios.get(fact.scenario), at, "scenario", fact.scenario);
    const account = required(structure.ids.accounts.get(fact.account), at, "account", fact.account);
    const slots = Array<string>(SLOT_COUNT).fill("\\N");
    for (const [dimension, slot] of dimensions) {
      const member = fact.members[dimension];
      if (member !== undefined) {
        slots[slot - 1] = String(required(structure.ids.members.get(dimension)?.get(member), at, dimension, member));
      }
    }
    tally.add(fact, scenario, account);
    const reference = fact.reference === null ? "\\N" : escapeCopy(fact.reference);
    chunk += `${datasetId}\t${scenario}\t${account}\t${fact.month}\t${fact.day ?? "\\N"}\t${fact.amount}\t${loadId}\t${line}\t${slots.join("\t")}\t${reference}\n`;
    if (chunk.length > 65_536) {
      yield chunk;
      chunk = "";
    }
  }
  if (chunk) yield chunk;
}

function required(id: number | undefined, at: string, thing: string, value: string): number {
  if (id === undefined) throw new RangeError(`${at}: there is no ${thing} "${value}".`);
  return id;
}

function escapeCopy(text: string): string {
  return text.replace(/[\\\t\n\r]/g, (c) => ({ "\\": "\\\\", "\t": "\\t", "\n": "\\n", "\r": "\\r" })[c]!);
}

/** Counts what a load covers while its lines go by. */
class CoverageTally {
  rows = 0;
  private readonly accounts = new Map<
    string,
    { scenario: number; account: number; depths: number[]; rows: number; total: bigint }
  >();
  private readonly months = new Map<string, { scenario: number; month: Month; dayMask: number | null }>();
  private readonly depthOf = new Map<string, number>();

  constructor(
    private readonly structure: PostingStructure,
    private readonly grain: string,
  ) {}

  add(fact: Fact, scenario: number, account: number): void {
    this.rows += 1;
    const place = `${scenario}/${account}`;
    let entry = this.accounts.get(place);
    if (!entry)
      this.accounts.set(
        place,
        (entry = { scenario, account, depths: Array<number>(SLOT_COUNT).fill(0), rows: 0, total: 0n }),
      );
    entry.rows += 1;
    entry.total += BigInt(fact.amount);
    for (const [dimension, member] of Object.entries(fact.members)) {
      const slot = this.structure.ids.slots.get(dimension)! - 1;
      entry.depths[slot] = Math.max(entry.depths[slot]!, this.depth(dimension, member));
    }
    const months = this.grain === "quarter" ? [0, 1, 2] : [0];
    for (const offset of months) this.coverMonth(scenario, fact.month + offset, fact.day);
  }

  accountRows(loadId: number): Record<string, unknown>[] {
    return [...this.accounts.values()].map((a) => ({
      load_id: loadId,
      scenario_id: a.scenario,
      account_id: a.account,
      depths: a.depths,
      rows: a.rows,
      total: a.total.toString(),
    }));
  }

  monthRows(loadId: number): Record<string, unknown>[] {
    return [...this.months.values()].map((m) => ({
      load_id: loadId,
      scenario_id: m.scenario,
      month: m.month,
      day_mask: m.dayMask,
    }));
  }

  private coverMonth(scenario: number, month: Month, day: number | null): void {
    const place = `${scenario}/${month}`;
    const known = this.months.get(place);
    const bit = day === null ? null : 1 << (day - 1);
    if (!known) this.months.set(place, { scenario, month, dayMask: bit });
    else if (bit !== null) known.dayMask = (known.dayMask ?? 0) | bit;
  }

  private depth(dimension: string, member: string): number {
    const place = `${dimension}/${member}`;
    let depth = this.depthOf.get(place);
    if (depth === undefined) {
      depth = memberDepth(
        this.structure.dimensions.find((d) => d.key === dimension)!,
        member,
      );
      this.depthOf.set(place, depth);
    }
    return depth;
  }
}
