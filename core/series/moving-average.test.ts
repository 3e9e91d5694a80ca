import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { CALENDAR, contextOf, kpiOf, OCTOBER, run, valueOf } from "../testing/small-company.ts";
import { measureOver } from "../compare/measure.ts";
import { ACTUAL } from "../compare/side.ts";
import { movingAverage } from "./moving-average.ts";
import { periodsOf } from "./periods.ts";

/** Bread and flour over months that end in October, in whole money. */
function over(sales: readonly number[], costs: readonly number[] = []) {
  const from = OCTOBER - sales.length + 1;
  const facts = [
    ...run(
      "actual",
      "bread",
      from,
      sales.map((amount) => amount * 100),
    ),
    ...run(
      "actual",
      "flour",
      from,
      costs.map((amount) => amount * 100),
    ),
  ];
  const context = contextOf(facts);
  const months = sales.map((_, i) => from + i);
  const periods = periodsOf("month", { calendar: CALENDAR, asOf: OCTOBER, months });
  return (key: string, size: number, isCentred: boolean) => {
    const kpi = kpiOf(key);
    const actualOf = ({ window }: (typeof periods)[number]) => measureOver(kpi, ACTUAL, window, context).figure;
    return movingAverage(kpi, periods, { size, isCentred }, actualOf, context).map(valueOf);
  };
}

describe("a moving average", () => {
  it("is the mean of the last periods, and not there where they are not whole", () => {
    expect(over([3, 6, 9, 12])("turnover", 3, false)).toEqual(["not covered", "not covered", 6, 9]);
  });
  it("lies around its period, an odd number as it is, an even one as the mean of two runs", () => {
    expect(over([3, 6, 9, 12])("turnover", 3, true)).toEqual(["not covered", 6, 9, "not covered"]);
    // Of 2: (3+6)/2 = 4.5 and (6+9)/2 = 7.5 lie around the second.
    expect(over([3, 6, 9, 12])("turnover", 2, true)).toEqual(["not covered", 6, 9, "not covered"]);
  });
  it("of a rate is the rate over its periods together, and no mean of rates", () => {
    // (10−9 + 90−0) / (10 + 90) = 91 %, where the mean of 10 % and 100 % were 55 %.
    expect(over([10, 90], [9, 0])("margin", 2, false)).toEqual(["not covered", 0.91]);
  });
  it("is flat over what is flat, and never leaves what it is made of", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 5000 }), { minLength: 7, maxLength: 20 }),
        fc.constantFrom(3, 6, 12),
        fc.boolean(),
        (sales, size, isCentred) => {
          const averages = over(sales)("turnover", size, isCentred).filter((value) => typeof value === "number");
          for (const average of averages) {
            expect(average).toBeGreaterThanOrEqual(Math.min(...sales) - 1e-9);
            expect(average).toBeLessThanOrEqual(Math.max(...sales) + 1e-9);
          }
          const flat = over(sales.map(() => 7))("turnover", size, isCentred);
          for (const average of flat) if (typeof average === "number") expect(average).toBeCloseTo(7, 9);
        },
      ),
      { numRuns: 30 },
    );
  });
});
