import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { Knex } from "knex";
import type { Client } from "pg";
import { from as copyFrom } from "pg-copy-streams";
import type { Month } from "#core/calendar/month.ts";
import type { Fact } from "#core/cube/fact.ts";
import { getOrCreate } from "#core/collections/keyed.ts";
import { memberDepth, type Dimension } from "#core/dimensions/dimension.ts";
import { noteFactChange, type FactSlice } from "#server/db/data-version.ts";
import type { KeyIds } from "#server/db/structure.ts";
import { allotSlots, SLOT_COLUMNS, SLOT_COUNT, type Slots } from "#server/facts/slots.ts";

/** A fact with the line of the file it came from. */
export interface NumberedFact {
  readonly fact: Fact;
  readonly line: number;
}

/** A load's place: its row, and how its dataset is dated. */
export interface OpenLoad {
  readonly id: number;
  readonly datasetId: number;
  readonly grain: string;
  readonly fileName: string;
  /** Where the members of its facts are kept. */
  readonly slots: Slots;
  /** Whether amounts of other currencies may be among its facts. */
  readonly converts: boolean;
}

/** What facts need to be stored: dimensions, and the numbers of what they name. */
export interface PostingStructure {
  readonly ids: Pick<KeyIds, "accounts" | "scenarios" | "members">;
  readonly dimensions: readonly Dimension[];
}

const COLUMNS = [
  "dataset_id",
  "scenario_id",
  "account_id",
  "month",
  "day",
  "amount",
  "load_id",
  "line",
  ...SLOT_COLUMNS,
  "reference",
];
/** What facts were before they were converted; sent only where a load converts any. */
const ORIGINAL_COLUMNS = ["original_amount", "original_currency"];

/**
 * Opens a load in the given transaction, with room for the members of the dataset's dimensions and of those that its
 * facts have besides. Throws a `RangeError` when there is no such dataset.
 */
export async function openLoad(
  trx: Knex.Transaction,
  load: {
    dataset: string;
    fileName: string;
    postedBy: string;
    postedAt: Date;
    fileId?: number;
    intakeId?: number | null;
    dimensions?: Iterable<string>;
    converts?: boolean;
  },
): Promise<OpenLoad> {
  const dataset: { id: number; grain: string; name: string; dimensions: string[] } | undefined = await trx("dataset")
    .where({ key: load.dataset })
    .first("id", "grain", "name", "dimensions");
  if (!dataset) throw new RangeError(`There is no dataset "${load.dataset}".`);
  const [created]: { id: number }[] = await trx("load")
    .insert({
      dataset_id: dataset.id,
      file_name: load.fileName,
      posted_by: load.postedBy,
      posted_at: load.postedAt,
      rows: 0,
      file_id: load.fileId ?? null,
      intake_id: load.intakeId ?? null,
    })
    .returning("id");
  const slots = await allotSlots(trx, dataset, [...dataset.dimensions, ...(load.dimensions ?? [])]);
  return {
    id: created!.id,
    datasetId: dataset.id,
    grain: dataset.grain,
    fileName: load.fileName,
    slots,
    converts: load.converts ?? false,
  };
}

/**
 * Sends facts to the database by COPY as they come, with their coverage, inside the
 * transaction it is given. Returns the number of rows. Throws a `RangeError` naming
 * line, thing and value when a fact names what the structure does not have.
 */
export async function postFacts(
  trx: Knex.Transaction,
  structure: PostingStructure,
  load: OpenLoad,
  batches: AsyncIterable<readonly NumberedFact[]> | Iterable<readonly NumberedFact[]>,
): Promise<number> {
  const { client } = trx as unknown as { client: { acquireConnection(): Promise<Client> } };
  const connection = await client.acquireConnection();
  // Straight into the dataset's partition, which spares PostgreSQL finding it for each row.
  const partition = `fact_${load.datasetId}`;
  const isHere = await isPlainTable(trx, partition);
  if (!isHere) await trx.raw("create temporary table fact_to_come (like fact) on commit drop");
  const tally = await copyFacts(connection, isHere ? partition : "fact_to_come", { structure, load, batches });
  if (!isHere) {
    // Another server takes rows many at a time from a query, and one by one from a COPY.
    await moveFacts(trx, { from: "fact_to_come", to: partition, converts: load.converts });
    await trx.raw("drop table fact_to_come");
  }
  await coverLoad(trx, load, tally);
  await noteFactChange(trx, load.datasetId, tally.slices());
  return tally.rows;
}

/** Sends facts into a table by COPY as they come. Returns what they cover. */
export async function copyFacts(
  connection: Client,
  table: string,
  {
    structure,
    load,
    batches,
  }: {
    readonly structure: PostingStructure;
    readonly load: OpenLoad;
    readonly batches: AsyncIterable<readonly NumberedFact[]> | Iterable<readonly NumberedFact[]>;
  },
): Promise<CoverageTally> {
  const tally = new CoverageTally(structure, load);
  const stream = connection.query(copyFrom(`copy ${table} (${factColumns(load.converts)}) from stdin`));
  await pipeline(Readable.from(copyChunks(structure, load, batches, tally), { highWaterMark: 4 }), stream);
  return tally;
}

/** Brings the rows of one table of facts into another. */
export async function moveFacts(
  trx: Knex.Transaction,
  { from, to, converts }: { readonly from: string; readonly to: string; readonly converts: boolean },
): Promise<void> {
  const columns = factColumns(converts);
  await trx.raw(`insert into ${to} (${columns}) select ${columns} from ${from}`);
}

/** Notes what a load covers. */
export async function coverLoad(
  trx: Knex.Transaction,
  load: Pick<OpenLoad, "id">,
  tally: CoverageTally,
): Promise<void> {
  await trx("load").where({ id: load.id }).update({ rows: tally.rows });
  await trx.batchInsert("load_account", tally.accountRows(load.id));
  await trx.batchInsert("load_month", tally.monthRows(load.id));
}

function factColumns(converts: boolean): string {
  return [...COLUMNS, ...(converts ? ORIGINAL_COLUMNS : [])].join(",");
}

/** Whether a table's rows lie in it, and not in partitions of it or on another server. */
async function isPlainTable(trx: Knex.Transaction, name: string): Promise<boolean> {
  const { rows } = await trx.raw<{ rows: { kind: string }[] }>(
    "select relkind as kind from pg_class where oid = to_regclass(?)",
    [name],
  );
  return rows[0]?.kind === "r";
}

/** Facts numbered in the order in which they come, in batches, for files that were never text. */
export function* inBatches(facts: Iterable<Fact>): Generator<NumberedFact[]> {
  let batch: NumberedFact[] = [];
  let line = 0;
  for (const fact of facts) {
    line += 1;
    batch.push({ fact, line });
    if (batch.length === 1000) {
      yield batch;
      batch = [];
    }
  }
  yield batch;
}

async function* copyChunks(
  structure: PostingStructure,
  load: OpenLoad,
  batches: AsyncIterable<readonly NumberedFact[]> | Iterable<readonly NumberedFact[]>,
  tally: CoverageTally,
): AsyncGenerator<string> {
  for await (const batch of batches) {
    const chunk = copyText(structure, load, batch, tally);
    if (chunk) yield chunk;
  }
}

/** A batch as lines of COPY's text format. No closure is made per fact: millions go by. */
function copyText(
  { ids, dimensions }: PostingStructure,
  load: OpenLoad,
  batch: readonly NumberedFact[],
  tally: CoverageTally,
): string {
  // Slot by slot, the dimension that is kept there.
  const slots = SLOT_COLUMNS.map((_, i) => {
    const dimension = dimensions.find((d) => load.slots.get(d.key) === i + 1);
    return dimension ? { key: dimension.key, members: ids.members.get(dimension.key)! } : null;
  });
  let text = "";
  for (const { fact, line } of batch) {
    const scenario = ids.scenarios.get(fact.scenario);
    if (scenario === undefined) missing(load, line, "scenario", fact.scenario);
    const account = ids.accounts.get(fact.account);
    if (account === undefined) missing(load, line, "account", fact.account);
    tally.add(fact, scenario, account);
    text += `${load.datasetId}\t${scenario}\t${account}\t${fact.month}\t${fact.day ?? "\\N"}\t${fact.amount}\t${load.id}\t${line}`;
    for (const slot of slots) {
      const member = slot === null ? undefined : fact.members[slot.key];
      if (slot === null || member === undefined) text += "\t\\N";
      else {
        const id = slot.members.get(member);
        if (id === undefined) missing(load, line, slot.key, member);
        text += `\t${id}`;
      }
    }
    text += fact.reference === null ? "\t\\N" : `\t${escapeCopy(fact.reference)}`;
    if (load.converts)
      text += fact.original === undefined ? "\t\\N\t\\N" : `\t${fact.original.amount}\t${fact.original.currency}`;
    text += "\n";
  }
  return text;
}

function missing(load: OpenLoad, line: number, thing: string, value: string): never {
  throw new RangeError(`${load.fileName}, line ${line}: there is no ${thing} "${value}".`);
}

/** A text as the format of COPY has it. */
export function escapeCopy(text: string): string {
  if (!/[\\\t\n\r\0]/.test(text)) return text;
  // PostgreSQL keeps no NUL in a text.
  return text
    .replaceAll("\0", "")
    .replace(/[\\\t\n\r]/g, (c) => ({ "\\": "\\\\", "\t": "\\t", "\n": "\\n", "\r": "\\r" })[c]!);
}

interface AccountTally {
  readonly scenario: number;
  readonly account: number;
  readonly depths: number[];
  rows: number;
  total: number;
  large: bigint;
}

/** Counts what a load covers while its lines go by. */
export class CoverageTally {
  rows = 0;
  private readonly accounts = new Map<number, AccountTally>();
  private readonly months = new Map<number, { scenario: number; month: Month; dayMask: number | null }>();
  private readonly depthOf = new Map<string, Map<string, number>>();

  constructor(
    private readonly structure: PostingStructure,
    private readonly load: OpenLoad,
  ) {}

  add(fact: Fact, scenario: number, account: number): void {
    this.rows += 1;
    // Both are ids of 32 bits at most; the product stays far below 2^53 for any chart there is.
    const place = scenario * 2 ** 26 + account;
    let entry = this.accounts.get(place);
    if (!entry) {
      entry = { scenario, account, depths: Array<number>(SLOT_COUNT).fill(0), rows: 0, total: 0, large: 0n };
      this.accounts.set(place, entry);
    }
    entry.rows += 1;
    const total = entry.total + fact.amount;
    if (Number.isSafeInteger(total)) entry.total = total;
    else {
      entry.large += BigInt(entry.total) + BigInt(fact.amount);
      entry.total = 0;
    }
    for (const dimension in fact.members) {
      const slot = this.load.slots.get(dimension)! - 1;
      const depth = this.depth(dimension, fact.members[dimension]!);
      if (depth > entry.depths[slot]!) entry.depths[slot] = depth;
    }
    this.coverMonth(scenario, fact.month, fact.day);
    if (this.load.grain === "quarter") {
      this.coverMonth(scenario, fact.month + 1, null);
      this.coverMonth(scenario, fact.month + 2, null);
    }
  }

  accountRows(loadId: number): Record<string, unknown>[] {
    return [...this.accounts.values()].map((a) => ({
      load_id: loadId,
      scenario_id: a.scenario,
      account_id: a.account,
      depths: a.depths,
      rows: a.rows,
      total: (a.large + BigInt(a.total)).toString(),
    }));
  }

  /** The sum of all amounts, whatever they are of: by it what was sent is held against what arrived. */
  get sum(): bigint {
    return [...this.accounts.values()].reduce((sum, { large, total }) => sum + large + BigInt(total), 0n);
  }

  monthRows(loadId: number): Record<string, unknown>[] {
    return [...this.months.values()].map((m) => ({
      load_id: loadId,
      scenario_id: m.scenario,
      month: m.month,
      day_mask: m.dayMask,
    }));
  }

  slices(): FactSlice[] {
    return [...this.months.values()].map(({ scenario, month }) => ({ scenarioId: scenario, month }));
  }

  private coverMonth(scenario: number, month: Month, day: number | null): void {
    const place = scenario * 2 ** 26 + month;
    const known = this.months.get(place);
    const bit = day === null ? null : 1 << (day - 1);
    if (!known) this.months.set(place, { scenario, month, dayMask: bit });
    else if (bit !== null) known.dayMask = (known.dayMask ?? 0) | bit;
  }

  private depth(dimension: string, member: string): number {
    const own = getOrCreate(this.depthOf, dimension, () => new Map<string, number>());
    let depth = own.get(member);
    if (depth === undefined) {
      depth = memberDepth(
        this.structure.dimensions.find((d) => d.key === dimension)!,
        member,
      );
      own.set(member, depth);
    }
    return depth;
  }
}
