import type { Month } from "../../calendar/month.ts";
import type { CellBlock, Codes } from "./cell-block.ts";

/** A dataset's facts in memory: a block for each scenario and month, and what the codes of its slots stand for. */
export interface MemoryDataset {
  readonly id: number;
  /** By `blockKey`. */
  readonly blocks: ReadonlyMap<number, CellBlock>;
  /** Slot by slot: the code of each member's number. Code 0 stands for none. */
  readonly codes: readonly ReadonlyMap<number, number>[];
}

/** What is asked of memory: numbers in the place of keys. */
export interface NumberedQuery {
  readonly accounts: readonly number[];
  readonly windows: readonly { readonly scenario: number; readonly from: Month; readonly to: Month }[];
  /** Dataset by dataset what a fact's slots must hold; a dataset that is not named has nothing in the scope. */
  readonly filters: ReadonlyMap<number, readonly SlotFilter[]>;
  readonly throughDay?: number;
}

/** The members that a slot may hold, by number. */
export interface SlotFilter {
  readonly slot: number;
  readonly members: readonly number[];
}

/** The place of a scenario's month among a dataset's blocks. */
export function blockKey(scenario: number, month: Month): number {
  // Both are numbers of 32 bits at most; months stay far below 2^17.
  return scenario * 2 ** 17 + month;
}

/**
 * Sums by window, account and month, read from memory: for each window accounts by rows, months by columns,
 * 0 where there is nothing. Exact as long as sums stay below 2^53.
 */
export function readMemory(datasets: Iterable<MemoryDataset>, query: NumberedQuery): Float64Array[] {
  const grids = query.windows.map(({ from, to }) => new Float64Array(query.accounts.length * (to - from + 1)));
  for (const dataset of datasets) {
    const filters = query.filters.get(dataset.id);
    if (!filters) continue;
    const allowed = filters.map((filter) => allow(dataset, filter));
    query.windows.forEach(({ scenario, from, to }, w) => {
      const width = to - from + 1;
      for (let month = from; month <= to; month += 1) {
        const block = dataset.blocks.get(blockKey(scenario, month));
        if (!block) continue;
        const grid = grids[w]!;
        for (let row = 0; row < query.accounts.length; row += 1) {
          const account = placeOf(block.accounts, query.accounts[row]!);
          if (account >= 0) grid[row * width + month - from]! += sumOf(block, account, allowed, query.throughDay);
        }
      }
    });
  }
  return grids;
}

/** Which codes of a slot are let through: 1 at their place. */
interface Allowed {
  readonly slot: number;
  readonly codes: Uint8Array;
}

function allow({ codes }: MemoryDataset, { slot, members }: SlotFilter): Allowed {
  const known = codes[slot]!;
  const allowed = new Uint8Array(known.size + 1);
  for (const member of members) {
    const code = known.get(member);
    if (code !== undefined) allowed[code] = 1;
  }
  return { slot, codes: allowed };
}

/** What an account amounts to in a block: its total, a few sums of a roll-up, or its rows one by one. */
function sumOf(block: CellBlock, account: number, allowed: readonly Allowed[], throughDay: number | undefined): number {
  if (throughDay === undefined) {
    if (allowed.length === 0) return block.totals[account]!;
    if (allowed.length === 1) {
      const rollUp = block.rollUps[allowed[0]!.slot];
      if (rollUp)
        return sumAllowed(
          rollUp.sums,
          rollUp.codes,
          allowed[0]!.codes,
          rollUp.starts[account]!,
          rollUp.starts[account + 1]!,
        );
    }
  }
  const [from, to] = [block.starts[account]!, block.starts[account + 1]!];
  if (throughDay === undefined && allowed.length === 1)
    return sumAllowed(block.amounts, block.members[allowed[0]!.slot]!, allowed[0]!.codes, from, to);
  return sumRows(block, from, to, allowed, throughDay);
}

function sumAllowed(sums: Float64Array, codes: Codes, allowed: Uint8Array, from: number, to: number): number {
  let sum = 0;
  for (let i = from; i < to; i += 1) if (allowed[codes[i]!] === 1) sum += sums[i]!;
  return sum;
}

function sumRows(
  { amounts, days, members }: CellBlock,
  from: number,
  to: number,
  allowed: readonly Allowed[],
  throughDay: number | undefined,
): number {
  // What is not daily has no day, and is on no day of a month.
  if (throughDay !== undefined && !days) return 0;
  let sum = 0;
  rows: for (let i = from; i < to; i += 1) {
    if (throughDay !== undefined && (days![i]! === 0 || days![i]! > throughDay)) continue;
    for (let f = 0; f < allowed.length; f += 1)
      if (allowed[f]!.codes[members[allowed[f]!.slot]![i]!] !== 1) continue rows;
    sum += amounts[i]!;
  }
  return sum;
}

/** The place of a number among ascending ones; −1 where it is not there. */
function placeOf(numbers: Uint32Array, wanted: number): number {
  let low = 0;
  let high = numbers.length - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    const found = numbers[middle]!;
    if (found === wanted) return middle;
    if (found < wanted) low = middle + 1;
    else high = middle - 1;
  }
  return -1;
}
