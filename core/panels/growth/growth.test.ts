import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isPresent } from "../../figures/figure.ts";
import { kpiOf } from "../../testing/small-company.ts";
import { growthHeadline } from "./words.ts";
import { rangesProblem, type GrowthPoint } from "./schema.ts";

const point = (name: string, growth: number | null): GrowthPoint => ({
  key: name,
  name,
  short: name,
  member: null,
  months: null,
  now: { value: 1 },
  before: { value: 1 },
  growth: growth === null ? { absent: "no base", detail: "Nothing was there." } : { value: growth },
  judgement: null,
  range: null,
});

describe("growth in words", () => {
  const kpi = kpiOf("turnover");
  it("tells how the last period grew, and how many did", () => {
    const points = [point("August", 0.1), point("September", -0.02), point("October", 0.083)];
    expect(growthHeadline(kpi, points, { noun: "month", on: "prior-period", isOverTime: true })).toBe(
      "turnover grew 8.3% in October on the month before; it grew in 2 of 3 months.",
    );
  });
  it("tells which member grew most, and says where there is nothing to grow from", () => {
    const points = [point("Mill", -0.01), point("Gate", -0.3), point("Quay", null)];
    expect(growthHeadline(kpi, points, { noun: "shop", on: "prior-year", isOverTime: false })).toBe(
      "turnover fell most for Mill, 1.0% on the prior year; 0 of 2 shops grew.",
    );
    expect(growthHeadline(kpi, [point("Quay", null)], { noun: "shop", on: "prior-year", isOverTime: false })).toBe(
      "turnover has no earlier figure to grow from.",
    );
    expect(isPresent(point("Quay", null).growth)).toBe(false);
  });
});

describe("ranges of one's own", () => {
  it("follow each other up to no end", () => {
    const range = (below: number | null, name = String(below)) => ({ below, name, dye: 0 });
    expect(rangesProblem([range(0), range(0.05), range(null)])).toBeNull();
    expect(rangesProblem([range(0.05), range(0.05), range(null)])).toMatch(/ends at 0.05/);
    expect(rangesProblem([range(0), range(0.05)])).toMatch(/leave its end open/);
    expect(rangesProblem([range(null, "all"), range(null)])).toMatch(/"all" needs an end/);
  });
  it("are sound exactly where their ends rise", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -50, max: 50 }), { minLength: 1, maxLength: 5 }), (ends) => {
        const ranges = [...ends, null].map((below) => ({ below, name: "r", dye: 1 }));
        const isRising = ends.every((end, i) => i === 0 || end > ends[i - 1]!);
        expect(rangesProblem(ranges) === null).toBe(isRising);
      }),
    );
  });
});
