import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { absent, present } from "../../figures/figure.ts";
import { kpiOf } from "../../testing/small-company.ts";
import { monthStatistics } from "./statistics.ts";
import { seasonHeadline } from "./words.ts";
import type { SeasonYear } from "./schema.ts";
import type { Figure } from "../../figures/schema.ts";

const none = absent("no data", "Nothing was there.");
const year = (key: string, values: readonly (number | null)[], isStudied = false): SeasonYear => ({
  key,
  isStudied,
  months: [],
  values: Array.from({ length: 12 }, (_, i): Figure => {
    const value = values[i];
    return value === undefined || value === null ? none : present(value);
  }),
});

describe("the statistics of a month of the year", () => {
  it("are those calculated by hand, over the years that have it", () => {
    const [april, may, june] = monthStatistics([
      [present(10), present(4), none],
      [present(20), none, none],
      [present(60), present(6), none],
    ]);
    expect(april).toEqual({ mean: 30, least: 10, most: 60, n: 3 });
    expect(may).toEqual({ mean: 5, least: 4, most: 6, n: 2 });
    expect(june).toBeNull();
  });
  it("lie between the least and the most, whatever the years", () => {
    const value = fc.option(fc.double({ min: -1e9, max: 1e9, noNaN: true }), { nil: null });
    fc.assert(
      fc.property(fc.array(fc.array(value, { minLength: 12, maxLength: 12 }), { maxLength: 6 }), (years) => {
        for (const [i, month] of monthStatistics(years.map((own) => year("", own).values)).entries()) {
          const there = years.filter((own) => own[i] !== null).length;
          expect(month?.n ?? 0).toBe(there);
          if (!month) continue;
          expect(month.mean).toBeGreaterThanOrEqual(month.least - 1e-6);
          expect(month.mean).toBeLessThanOrEqual(month.most + 1e-6);
        }
      }),
    );
  });
});

describe("a season in words", () => {
  const kpi = kpiOf("turnover");
  const names = ["April", "May", ...Array<string>(10).fill("later")];
  const told = (own: readonly number[], others: readonly (readonly number[])[]) => {
    const before = others.map((values, i) => year(`FY${24 + i}`, values));
    return seasonHeadline(kpi, {
      monthNames: names,
      own: year("FY27", own, true),
      others: before,
      statistics: monthStatistics(before.map(({ values }) => values)),
      counted: before.length,
    });
  };
  it("tells no percentage of an average of nothing but zeros, and not that it is at it", () => {
    expect(
      told(
        [1, 110],
        [
          [1, 0],
          [1, 0],
        ],
      ),
    ).toBe("turnover in May FY27 is above the month's average of 2 years, above all of them.");
    expect(
      told(
        [1, 0],
        [
          [1, 0],
          [1, 0],
        ],
      ),
    ).toBe("turnover in May FY27 is at the month's average of 2 years, inside their range.");
  });
  it("tells how the last month stands against its average and its range", () => {
    expect(
      told(
        [1, 110],
        [
          [1, 90],
          [1, 120],
          [1, 90],
        ],
      ),
    ).toBe("turnover in May FY27 is 10.0% above the month's average of 3 years, inside their range.");
    expect(
      told(
        [1, 50],
        [
          [1, 90],
          [1, 110],
        ],
      ),
    ).toBe("turnover in May FY27 is 50.0% below the month's average of 2 years, below all of them.");
  });
  it("says nothing where there is nothing to be normal", () => {
    expect(told([1], [])).toMatch(/no normal range yet/);
  });
});
