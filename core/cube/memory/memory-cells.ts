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

/** A dataset narrowed to the facts that a scope and a day let through. */
export interface NarrowedDataset {
  readonly blocks: MemoryDataset["blocks"];
  readonly allowed: readonly AllowedCodes[];
  /** For daily facts: the last day of a month that counts; `undefined` where months are whole. */
  readonly throughDay: number | undefined;
}

/** Narrows a dataset to what its slots may hold. */
export function narrowDataset(
  dataset: MemoryDataset,
  filters: readonly SlotFilter[],
  throughDay: number | undefined,
): NarrowedDataset {
  return { blocks: dataset.blocks, allowed: filters.map((filter) => allow(dataset, filter)), throughDay };
}

/** What an account amounts to in a scenario's month: whole minor units, exact below 2^53; 0 where there is nothing. */
export function cellOf(
  { blocks, allowed, throughDay }: NarrowedDataset,
  { scenario, account, month }: { scenario: number; account: number; month: Month },
): number {
  const block = blocks.get(blockKey(scenario, month));
  if (!block) return 0;
  const place = placeOf(block.accounts, account);
  return place < 0 ? 0 : sumOf(block, place, allowed, throughDay);
}

/** Which codes of a slot are let through: 1 at their place. */
interface AllowedCodes {
  readonly slot: number;
  readonly codes: Uint8Array;
}

function allow({ codes }: MemoryDataset, { slot, members }: SlotFilter): AllowedCodes {
  const known = codes[slot]!;
  const allowed = new Uint8Array(known.size + 1);
  for (const member of members) {
    const code = known.get(member);
    if (code !== undefined) allowed[code] = 1;
  }
  return { slot, codes: allowed };
}

/** What an account amounts to in a block: its total, a few sums of a roll-up, or its rows one by one. */
function sumOf(
  block: CellBlock,
  account: number,
  allowed: readonly AllowedCodes[],
  throughDay: number | undefined,
): number {
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
  allowed: readonly AllowedCodes[],
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
