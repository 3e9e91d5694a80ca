import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildBlock } from "./cell-block.ts";
import { BlockGatherer, SlotCodes } from "./gather-blocks.ts";
import type { CellRead } from "../cell-book.ts";
import { openMemoryBook } from "./memory-book.ts";
import { blockKey, type MemoryDataset, type SlotFilter } from "./memory-cells.ts";

interface Row {
  readonly scenario: number;
  readonly month: number;
  readonly account: number;
  readonly day: number;
  readonly members: readonly number[];
  readonly amount: number;
}

const SLOTS = 3;
const MONTHS = [24_000, 24_001, 24_002, 24_003];
/** Few members make roll-ups, many leave rows; the numbers spread over all widths of codes. */
/** Numbers around and beyond those that are found in a table. */
const far = fc.constantFrom(2 ** 22 - 1, 2 ** 22, 2 ** 30);
const rows = fc.array(
  fc.record({
    scenario: fc.integer({ min: 1, max: 2 }),
    month: fc.constantFrom(...MONTHS),
    account: fc.constantFrom(3, 7, 70_000),
    day: fc.integer({ min: 0, max: 31 }),
    members: fc.tuple(
      fc.integer({ min: 0, max: 2 }),
      fc.integer({ min: 0, max: 9 }),
      fc.oneof(fc.integer({ min: 0, max: 400 }), far),
    ),
    amount: fc.integer({ min: -1e9, max: 1e9 }),
  }),
  { minLength: 20, maxLength: 120 },
);
interface Query {
  readonly reads: readonly Omit<CellRead, "scope">[];
  readonly filters: readonly SlotFilter[];
}
const queries: fc.Arbitrary<Query> = fc.record({
  reads: fc.array(
    fc.record({
      scenario: fc.constantFrom("1", "2", "3", "none"),
      accounts: fc.uniqueArray(fc.constantFrom("3", "7", "8", "70000", "none"), { minLength: 1 }),
      months: fc.uniqueArray(fc.constantFrom(...MONTHS, 23_000, 25_000), { minLength: 1 }),
      days: fc.option(
        fc
          .tuple(fc.integer({ min: 1, max: 31 }), fc.integer({ min: 1, max: 31 }))
          .map(([a, b]) => ({ from: Math.min(a, b), to: Math.max(a, b) })),
        { nil: undefined },
      ),
    }),
    { minLength: 1, maxLength: 4 },
  ),
  filters: fc.uniqueArray(
    fc.record({
      slot: fc.integer({ min: 0, max: SLOTS - 1 }),
      members: fc.uniqueArray(fc.oneof(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 1, max: 400 }), far), {
        // Few are looked up one by one, many by walking through all.
        maxLength: 30,
      }),
    }),
    { selector: (f) => f.slot, maxLength: 2 },
  ),
});

/** The same by looking at every row. */
function slowly(all: readonly Row[], { reads, filters }: Query): number[] {
  return reads.map(({ scenario, accounts, months, days }) =>
    all
      .filter(
        (row) =>
          String(row.scenario) === scenario &&
          accounts.includes(String(row.account)) &&
          months.includes(row.month) &&
          (days === undefined || (row.day >= days.from && row.day <= days.to)) &&
          filters.every(({ slot, members }) => members.includes(row.members[slot]!)),
      )
      .reduce((sum, row) => sum + row.amount, 0),
  );
}

function keep(all: readonly Row[], known?: MemoryDataset): MemoryDataset {
  const slots = Array.from({ length: SLOTS }, (_, s) => new SlotCodes(known?.codes[s]));
  const gatherer = new BlockGatherer(slots, true);
  for (const { scenario, month, account, day, members, amount } of all)
    gatherer.add(scenario, month, account, day, members, amount);
  const blocks = gatherer.finish();
  return { id: 1, blocks, codes: slots.map((slot) => slot.toMap()) };
}

const NUMBERS = {
  scenarios: new Map([1, 2, 3].map((n) => [String(n), n])),
  accounts: new Map([3, 7, 8, 70_000].map((n) => [String(n), n])),
};
/** Looked up twice: what is found once must be found again. */
function read(dataset: MemoryDataset, { reads, filters }: Query): number[] {
  const scope = {};
  const book = openMemoryBook([dataset], { ...NUMBERS, filtersOf: () => filters });
  const sums = reads.map((one) => book.sum({ ...one, scope }));
  expect(reads.map((one) => book.sum({ ...one, scope }))).toEqual(sums);
  return sums;
}

describe("cells in memory", () => {
  it("equal those found by looking at every row, for any query", () => {
    let found = 0;
    fc.assert(
      fc.property(rows, queries, (all, query) => {
        const wanted = slowly(all, query);
        found += wanted.filter((sum) => sum !== 0).length;
        expect(read(keep(all), query)).toEqual(wanted);
      }),
      { numRuns: 400 },
    );
    // Agreeing on nothing but zeros would say nothing.
    expect(found).toBeGreaterThan(100);
  });

  it("are the same after blocks were built anew, with the codes as they were", () => {
    fc.assert(
      fc.property(rows, rows, queries, fc.constantFrom(...MONTHS), (before, after, query, month) => {
        const kept = keep(before);
        const moved = after.filter((row) => row.month === month);
        const rebuilt = keep(moved, kept);
        const blocks = new Map([...kept.blocks].filter(([, block]) => block.month !== month));
        for (const [key, block] of rebuilt.blocks) blocks.set(key, block);
        const all = [...before.filter((row) => row.month !== month), ...moved];
        expect(read({ ...rebuilt, blocks }, query)).toEqual(slowly(all, query));
      }),
    );
  });

  it("have nothing where a dataset is not in the scope at all, or where there is no dataset", () => {
    const dataset = keep([{ scenario: 1, month: 24_000, account: 3, day: 1, members: [1, 1, 1], amount: 5 }]);
    const asked = { scenario: "1", accounts: ["3"], months: [24_000], days: undefined, scope: {} };
    const sum = (datasets: readonly MemoryDataset[], filters: readonly SlotFilter[] | null) =>
      openMemoryBook(datasets, { ...NUMBERS, filtersOf: () => filters }).sum(asked);
    expect([sum([dataset], []), sum([dataset], null), sum([], [])]).toEqual([5, 0, 0]);
  });
});

describe("a block", () => {
  const block = (members: readonly number[], days: Uint8Array | null = null) =>
    buildBlock(
      { scenario: 1, month: 24_000 },
      {
        length: members.length,
        accounts: new Uint32Array(members.length).fill(9),
        days,
        members: [Uint32Array.from(members)],
        amounts: Float64Array.from(members, (_, i) => i + 1),
      },
    );

  it("keeps roll-ups only where they are much smaller than the rows", () => {
    expect(block([1, 1, 1, 2, 2, 2]).rollUps[0]!.sums).toEqual(Float64Array.from([6, 15]));
    expect(block([1, 2, 3, 4]).rollUps[0]).toBeNull();
  });

  it("takes 8 bytes for an amount and one for each of a few members and days", () => {
    const rows = 30_000;
    const { bytes } = block(
      Array.from({ length: rows }, (_, i) => i % 200),
      new Uint8Array(rows),
    );
    expect(bytes / rows).toBeLessThan(10.2);
    expect(block(Array.from({ length: 300 }, (_, i) => i)).members[0]).toBeInstanceOf(Uint16Array);
    expect(block([70_000]).members[0]).toBeInstanceOf(Uint32Array);
  });

  it("lies in memory that threads share", () => {
    const { amounts, members } = block([1, 2, 3]);
    expect(amounts.buffer).toBeInstanceOf(SharedArrayBuffer);
    expect(members[0]!.buffer).toBe(amounts.buffer);
    expect(blockKey(1, 24_000)).not.toBe(blockKey(2, 24_000));
  });
});
