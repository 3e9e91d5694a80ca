import type { Month } from "../../calendar/month.ts";
import type { CellBlock, Codes, RollUp } from "./cell-block.ts";

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

/** A dataset narrowed to the facts that a scope lets through. */
export interface NarrowedDataset {
  readonly blocks: MemoryDataset["blocks"];
  readonly allowed: readonly AllowedCodes[];
}

/** Narrows a dataset to what its slots may hold. */
export function narrowDataset(dataset: MemoryDataset, filters: readonly SlotFilter[]): NarrowedDataset {
  return { blocks: dataset.blocks, allowed: filters.map((filter) => allow(dataset, filter)) };
}

/** A scenario's account in a month, by their numbers. */
interface CellPlace {
  readonly scenario: number;
  readonly account: number;
  readonly month: Month;
}

/** What an account amounts to in a scenario's month: whole minor units, exact below 2^53; 0 where there is nothing. */
export function cellOf({ blocks, allowed }: NarrowedDataset, { scenario, account, month }: CellPlace): number {
  const block = blocks.get(blockKey(scenario, month));
  if (!block) return 0;
  const place = placeOf(block.accounts, account);
  return place < 0 ? 0 : sumOf(block, place, allowed);
}

/** Adds to `sums`, day by day from the first, what an account amounts to in a scenario's month. */
export function addDays(
  { blocks, allowed }: NarrowedDataset,
  { scenario, account, month }: CellPlace,
  sums: Float64Array,
): void {
  const block = blocks.get(blockKey(scenario, month));
  const place = block ? placeOf(block.accounts, account) : -1;
  // What is not daily has no day, and is on no day of a month.
  if (!block?.days || place < 0) return;
  const { days } = block;
  eachRow(block, block.starts[place]!, block.starts[place + 1]!, allowed, (i, amount) => {
    if (days[i]! > 0) sums[days[i]! - 1]! += amount;
  });
}

/** Which codes of a slot are let through: 1 at their place; and by name where they are few. */
interface AllowedCodes {
  readonly slot: number;
  readonly codes: Uint8Array;
  readonly few: readonly number[] | null;
}

/** So few members are looked up one by one, rather than by walking through all that a block has. */
const FEW = 16;

function allow({ codes }: MemoryDataset, { slot, members }: SlotFilter): AllowedCodes {
  const known = codes[slot]!;
  const allowed = new Uint8Array(known.size + 1);
  const found: number[] = [];
  for (const member of members) {
    const code = known.get(member);
    if (code === undefined) continue;
    allowed[code] = 1;
    found.push(code);
  }
  return { slot, codes: allowed, few: found.length <= FEW ? [...new Set(found)] : null };
}

/** What an account amounts to in a block: its total, a few sums of a roll-up, or its rows one by one. */
function sumOf(block: CellBlock, account: number, allowed: readonly AllowedCodes[]): number {
  if (allowed.length === 0) return block.totals[account]!;
  const [from, to] = [block.starts[account]!, block.starts[account + 1]!];
  if (allowed.length === 1) {
    const [{ slot, codes, few }] = allowed as readonly [AllowedCodes];
    const rollUp = block.rollUps[slot];
    if (rollUp) {
      const [first, end] = [rollUp.starts[account]!, rollUp.starts[account + 1]!];
      return few ? sumFew(rollUp, few, first, end) : sumAllowed(rollUp.sums, rollUp.codes, codes, first, end);
    }
    return sumAllowed(block.amounts, block.members[slot]!, codes, from, to);
  }
  let sum = 0;
  eachRow(block, from, to, allowed, (_, amount) => (sum += amount));
  return sum;
}

function sumFew({ sums, codes }: RollUp, few: readonly number[], from: number, to: number): number {
  let sum = 0;
  for (const code of few) {
    const place = placeOf(codes, code, from, to);
    if (place >= 0) sum += sums[place]!;
  }
  return sum;
}

function sumAllowed(sums: Float64Array, codes: Codes, allowed: Uint8Array, from: number, to: number): number {
  let sum = 0;
  for (let i = from; i < to; i += 1) if (allowed[codes[i]!] === 1) sum += sums[i]!;
  return sum;
}

/** Visits the rows that all slots let through. */
function eachRow(
  { amounts, members }: CellBlock,
  from: number,
  to: number,
  allowed: readonly AllowedCodes[],
  visit: (row: number, amount: number) => void,
): void {
  rows: for (let i = from; i < to; i += 1) {
    for (let f = 0; f < allowed.length; f += 1)
      if (allowed[f]!.codes[members[allowed[f]!.slot]![i]!] !== 1) continue rows;
    visit(i, amounts[i]!);
  }
}

/** The place of a number among ascending ones; −1 where it is not there. */
function placeOf(numbers: Codes, wanted: number, from = 0, to = numbers.length): number {
  let low = from;
  let high = to - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    const found = numbers[middle]!;
    if (found === wanted) return middle;
    if (found < wanted) low = middle + 1;
    else high = middle - 1;
  }
  return -1;
}
