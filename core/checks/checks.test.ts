import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Fact } from "../cube/fact.ts";
import { statedControl, totalRowControl } from "./control-total.ts";
import { factHashes } from "../reading/fact-hash.ts";
import { SliceTally } from "./slice-tally.ts";

const FACT: Fact = {
  scenario: "actual",
  account: "fuel",
  month: 24_000,
  day: null,
  amount: 100,
  members: { route: "north" },
  reference: "J1",
};
const fact: fc.Arbitrary<Fact> = fc.record({
  scenario: fc.constantFrom("actual", "budget"),
  account: fc.constantFrom("fuel", "crew", "fares"),
  month: fc.integer({ min: 24_000, max: 24_003 }),
  day: fc.option(fc.integer({ min: 1, max: 31 })),
  amount: fc.maxSafeInteger(),
  members: fc.constant({}),
  reference: fc.constant(null),
});

describe("the tally of a load", () => {
  it("equals a plain sum by scenario, month and account, to the last digit and in any order", () => {
    fc.assert(
      fc.property(fc.array(fact, { maxLength: 60 }), (facts) => {
        const tally = new SliceTally();
        for (const one of facts) tally.add(one);
        const plain = new Map<string, { rows: number; amount: bigint }>();
        for (const { scenario, month, account, amount } of facts) {
          const place = `${scenario}/${month}/${account}`;
          const sum = plain.get(place) ?? { rows: 0, amount: 0n };
          plain.set(place, { rows: sum.rows + 1, amount: sum.amount + BigInt(amount) });
        }
        const found = new Map(
          tally.accounts().map(({ scenario, month, account, ...sum }) => [`${scenario}/${month}/${account}`, sum]),
        );
        expect(found).toEqual(plain);
      }),
    );
  });
  it("knows the days of daily facts, and that others have none", () => {
    const tally = new SliceTally();
    for (const day of [1, 3, 31]) tally.add({ ...FACT, day });
    tally.add({ ...FACT, month: 24_001 });
    expect(tally.months()).toEqual([
      { scenario: "actual", month: 24_000, days: 1 | 4 | (1 << 30) },
      { scenario: "actual", month: 24_001, days: null },
    ]);
  });
});

describe("what stands for a fact", () => {
  it("is the same for the same fact, and differs in each of its parts", () => {
    expect(factHashes({ ...FACT })).toEqual(factHashes(FACT));
    const others: Partial<Fact>[] = [
      { account: "crew" },
      { amount: -100 },
      { amount: 100 + 2 ** 32 },
      { reference: "J2" },
      { members: { route: "south" } },
      { members: { vessel: "north" } },
      { members: {} },
    ];
    for (const change of others) expect(factHashes({ ...FACT, ...change }).content).not.toBe(factHashes(FACT).content);
  });
  it("tells the same content posted for another month or scenario by its place alone", () => {
    for (const change of [{ month: 24_001 }, { scenario: "budget" }, { day: 2 }]) {
      const [other, own] = [factHashes({ ...FACT, ...change }), factHashes(FACT)];
      expect([other.content === own.content, other.place === own.place]).toEqual([true, false]);
    }
  });
  it("is a safe whole number other than 0", () => {
    fc.assert(
      fc.property(fact, (one) => {
        for (const hash of Object.values(factHashes(one))) {
          expect(Number.isSafeInteger(hash)).toBe(true);
          expect(hash).toBeGreaterThan(0);
        }
      }),
    );
  });
});

describe("the control figure of a file", () => {
  it("is read from its preamble, in the cell that says so or beside it", () => {
    expect(statedControl([["Ledger extract"], ["Control total: (1,200.50)"]], ".")).toBe("-1200.50");
    expect(statedControl([["Check sum", "", "1.200,50"]], ",")).toBe("1200.50");
    expect(statedControl([["Extract of November"], ["Total to be checked"]], ".")).toBeNull();
  });
  it("is that of the one total row that was skipped, and of none when there were several", () => {
    const effect = (changed: number) => ({
      changed,
      after: { rows: 2, totals: {} },
      columns: ["Account", "Amount"],
      examples: [{ line: 9, before: ["Total", "12.50"], after: [] }],
    });
    const steps = [{ kind: "skip-totals" as const, words: ["total"] }];
    const of = (changed: number, amountColumns: string[][] = [["Amount"]]) =>
      totalRowControl(steps, [effect(changed)] as never, {
        columns: [["Account", "Amount"]],
        amountColumns,
        mark: ".",
      });
    expect(of(1)).toBe("12.50");
    expect(of(2)).toBeNull();
    expect(of(1, [["Amount", "Tax"]])).toBeNull();
  });
});
