import { setTimeout as wait } from "node:timers/promises";
import type { Knex } from "knex";
import { SlotCodes } from "#core/cube/memory/gather-blocks.ts";
import { blockKey, type MemoryDataset } from "#core/cube/memory/memory-cells.ts";
import type { ReadDatabase } from "#server/db/read-database.ts";
import { readDataVersion, type FactSlice } from "#server/db/data-version.ts";
import type { MemoryBudget, MemoryOwner } from "./memory-budget.ts";
import { readBlocks, type ReadDataset } from "./read-blocks.ts";

/** A dataset in memory, with the slots of facts that its codes stand for. */
export interface KeptDataset extends MemoryDataset {
  readonly slots: readonly number[];
}

/** All facts in memory as of one state of them. */
export interface KeptFacts {
  readonly facts: string;
  readonly datasets: readonly KeptDataset[];
  readonly rows: number;
  readonly bytes: number;
}

/** What can be told of memory, on the health page and in the log. */
export type MemoryState =
  | { readonly is: "off" | "building" | "failed" }
  | { readonly is: "beyond"; readonly bytes: number; readonly budget: number }
  | { readonly is: "ready"; readonly rows: number; readonly bytes: number };

/** A guess at what a fact takes before it is read: an amount, a few members, its share of roll-ups. */
const BYTES_A_FACT = 24;

/** Memory that is being moved is waited for so long; after that, answers come from the database until it is there. */
const PATIENCE_MS = 1000;

/** After a reading that failed, the next one is not tried sooner. */
const PAUSE_MS = 5000;

/** For others to make room is waited so long before it is tried again. */
const ROOM_MS = 60_000;

/** Keeps the facts in memory and moves them forward: only the slices that changed are read anew. */
export class CellKeeper implements MemoryOwner {
  /** When its facts were last asked for. */
  usedAt = performance.now();
  private kept: KeptFacts | undefined;
  private running: Promise<void> | undefined;
  private movingSince = 0;
  private isAskedAgain = false;
  private said: MemoryState = { is: "building" };
  /** The state of the facts that is being read, or was last. */
  private reading: string | undefined;
  /** A state that is too large, or that could not be read just now: not every request is to try it again. */
  private leftOut: { readonly facts: string; readonly until: number } | undefined;

  /** What takes more than the budget gives stays in the database. */
  constructor(
    private readonly database: Pick<ReadDatabase, "now">,
    private readonly budget: MemoryBudget,
    private readonly onState: (state: MemoryState, error?: unknown) => void = () => {},
  ) {}

  get state(): MemoryState {
    return this.said;
  }

  /** The facts in this state of them; where memory is at another one it is moved, and there are none for now. */
  at(facts: string): KeptFacts | undefined {
    this.usedAt = performance.now();
    if (this.kept?.facts === facts) return this.kept;
    if (this.leftOut?.facts !== facts || Date.now() > this.leftOut.until) void this.refresh();
    return undefined;
  }

  /** The facts in this state of them, waiting for a move that ends soon: none where it takes longer, or cannot be had. */
  async reach(facts: string): Promise<KeptFacts | undefined> {
    const kept = this.at(facts);
    const patience = this.movingSince + PATIENCE_MS - performance.now();
    if (kept || !this.running || patience <= 0) return kept;
    const tooLong = new AbortController();
    await Promise.race([this.settled(), wait(patience, undefined, { signal: tooLong.signal }).catch(() => undefined)]);
    tooLong.abort();
    return this.kept?.facts === facts ? this.kept : undefined;
  }

  /** Moves memory to the present state of the facts. What is asked while it moves is done after it, once. */
  refresh(): Promise<void> {
    if (this.running) this.isAskedAgain = true;
    else {
      this.movingSince = performance.now();
      this.running = this.move().finally(() => {
        this.running = undefined;
        if (this.isAskedAgain) {
          this.isAskedAgain = false;
          void this.refresh();
        }
      });
    }
    return this.running;
  }

  /** Once nothing is being read any more. */
  async settled(): Promise<void> {
    while (this.running) await this.running;
  }

  /** Lets go of all facts; whoever asks for them next has them read again. */
  letGo(): void {
    this.kept = undefined;
    this.leftOut = undefined;
    this.say({ is: "building" });
  }

  /** Lets go of all facts for good. */
  close(): void {
    this.letGo();
    this.budget.giveBack(this);
  }

  private async move(): Promise<void> {
    try {
      const options = { isolationLevel: "repeatable read", readOnly: true } as const;
      await (await this.database.now()).transaction((trx) => this.read(trx), options);
    } catch (error) {
      if (this.reading !== undefined) this.leftOut = { facts: this.reading, until: Date.now() + PAUSE_MS };
      this.say({ is: "failed" }, error);
    }
  }

  private async read(trx: Knex.Transaction): Promise<void> {
    const at = await readDataVersion(trx);
    this.reading = at.facts;
    const before = this.kept && BigInt(this.kept.facts) >= BigInt(at.factsSince) ? this.kept : undefined;
    if (before?.facts === at.facts) return;
    if (!before) {
      const bytes = (await countFacts(trx)) * BYTES_A_FACT;
      if (!this.budget.take(this, bytes)) return this.leaveOut(at.facts, bytes);
    }
    const changed = before && (await readChangedSlices(trx, before.facts));
    const datasets: KeptDataset[] = [];
    for (const dataset of await readDatasets(trx))
      datasets.push(
        await readDataset(
          trx,
          dataset,
          before?.datasets.find((d) => d.id === dataset.id),
          changed?.get(dataset.id) ?? [],
        ),
      );
    const blocks = datasets.flatMap((d) => [...d.blocks.values()]);
    const bytes = blocks.reduce((sum, block) => sum + block.bytes, 0);
    if (!this.budget.take(this, bytes)) return this.leaveOut(at.facts, bytes);
    const rows = blocks.reduce((sum, block) => sum + block.rows, 0);
    this.kept = { facts: at.facts, datasets, rows, bytes };
    this.say({ is: "ready", rows, bytes });
  }

  private leaveOut(facts: string, bytes: number): void {
    this.kept = undefined;
    this.budget.giveBack(this);
    // Others may have made room by then; what is more than all there is stays where it is.
    this.leftOut = { facts, until: bytes > this.budget.bytes ? Infinity : Date.now() + ROOM_MS };
    this.say({ is: "beyond", bytes, budget: this.budget.bytes });
  }

  private say(state: MemoryState, error?: unknown): void {
    const isNews = state.is !== this.said.is;
    this.said = state;
    if (isNews || error !== undefined) this.onState(state, error);
  }
}

/** A dataset with the slices that changed read anew; the whole of it where it was not kept, or in other slots. */
async function readDataset(
  trx: Knex.Transaction,
  dataset: ReadDataset,
  before: KeptDataset | undefined,
  changed: readonly FactSlice[],
): Promise<KeptDataset> {
  const isKept = before !== undefined && before.slots.join() === dataset.slots.join();
  if (isKept && changed.length === 0) return before;
  const codes = dataset.slots.map((_, s) => new SlotCodes(isKept ? before.codes[s] : undefined));
  const read = await readBlocks(trx, dataset, codes, isKept ? changed : null);
  const { id, slots } = dataset;
  const kept = { id, slots, codes: codes.map((slot) => slot.toMap()) };
  if (!isKept) return { ...kept, blocks: read };
  const blocks = new Map(before.blocks);
  for (const { scenarioId, month } of changed) blocks.delete(blockKey(scenarioId, month));
  for (const [key, block] of read) blocks.set(key, block);
  return { ...kept, blocks };
}

async function readDatasets(trx: Knex.Transaction): Promise<ReadDataset[]> {
  const { rows } = await trx.raw<{ rows: { id: number; grain: string; slots: number[] }[] }>(
    `select dataset.id, dataset.grain, coalesce(array_agg(distinct place.slot order by place.slot)
       filter (where place.depth > 0), '{}')::int[] as slots
     from dataset
       left join load on load.dataset_id = dataset.id
       left join load_account on load_account.load_id = load.id
       left join lateral unnest(load_account.depths) with ordinality as place(depth, slot) on true
     where to_regclass('fact_' || dataset.id) is not null
     group by dataset.id order by dataset.id`,
  );
  return rows.map(({ id, grain, slots }) => ({ id, slots, isDaily: grain === "day" }));
}

async function readChangedSlices(trx: Knex.Transaction, since: string): Promise<Map<number, FactSlice[]>> {
  const rows: { dataset_id: number; scenario_id: number; month: number }[] = await trx("fact_slice")
    .where("facts", ">", since)
    .select("dataset_id", "scenario_id", "month");
  const changed = new Map<number, FactSlice[]>();
  for (const { dataset_id, scenario_id, month } of rows)
    changed.set(dataset_id, [...(changed.get(dataset_id) ?? []), { scenarioId: scenario_id, month }]);
  return changed;
}

/** Facts in force and out of it: an upper bound that costs nothing. */
async function countFacts(trx: Knex.Transaction): Promise<number> {
  const counted = await trx("load").whereNull("undone_at").sum<{ rows: string | null }[]>("rows as rows");
  return Number(counted[0]?.rows ?? 0);
}
