import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isPresent } from "../../figures/figure.ts";
import { questionOf, someBooks, sumOf, YEAR_TO_DATE } from "../../testing/small-question.ts";
import { OCTOBER, run, type SmallFact } from "../../testing/small-company.ts";
import { computeTimeChart } from "./compute.ts";
import { timeChartTable } from "./table.ts";
import type { TimeChartDefinition } from "./schema.ts";
import type { Figure } from "../../figures/schema.ts";

const base: TimeChartDefinition = { key: "chart", kind: "time-chart", kpi: "turnover" };
const SHOPS = { dimension: "shop", level: "Shop" };
const compute = (facts: readonly SmallFact[], change: Partial<TimeChartDefinition> = {}, choice = {}) =>
  computeTimeChart({ ...base, ...change }, choice, questionOf(facts));
const value = (figure: Figure | undefined) => (figure && isPresent(figure) ? figure.value : 0);
const bread = ({ scenario, account }: SmallFact) => scenario === "actual" && account === "bread";

describe("a chart over time that is split by members", () => {
  it("has parts that are the facts' own, and that add up to the whole, period by period", () => {
    fc.assert(
      fc.property(someBooks, (facts) => {
        const { parts, points } = compute(facts, { split: SHOPS });
        for (const [i, point] of points.entries()) {
          if (!isPresent(point.actual)) continue;
          const month = YEAR_TO_DATE[i]!;
          expect(parts.reduce((sum, { figures }) => sum + value(figures[i]), 0)).toBeCloseTo(point.actual.value, 6);
          for (const { key, figures } of parts)
            expect(value(figures[i])).toBeCloseTo(
              sumOf(
                facts,
                bread,
                ({ shop }) => shop === key,
                (fact) => fact.month === month,
              ),
              6,
            );
        }
      }),
      { numRuns: 25 },
    );
  });
  it("is not stacked where its parts do not add up, and says so", () => {
    fc.assert(
      fc.property(someBooks, (facts) => {
        const { stacking, notes, parts } = compute(facts, { kpi: "margin", split: SHOPS, stacking: "stacked" });
        if (parts.length === 0) return;
        expect(stacking).toBe("clustered");
        expect(notes).toContain("margin does not add up, so the parts are shown side by side.");
      }),
      { numRuns: 10 },
    );
  });
  it("has no shares of parts of both signs", () => {
    const facts = [-3, 5].flatMap((amount, i) => [
      { scenario: "actual", account: "bread", shop: ["mill", "gate"][i]!, month: OCTOBER, amount: amount * 100 },
    ]);
    const { stacking, notes } = compute(facts, { split: SHOPS, stacking: "share" });
    expect(stacking).toBe("stacked");
    expect(notes).toContain("Some parts are negative: shares of the whole would mislead.");
  });
});

describe("a chart over time of several KPIs", () => {
  const facts = [
    ...run("actual", "bread", OCTOBER - 6, [100, 200, 300, 400, 500, 600, 700]),
    ...run("actual", "flour", OCTOBER - 6, [50, 60, 70, 80, 90, 100, 110]),
  ];
  it("shows those of one unit, and names what is left out", () => {
    const { parts, notes, descriptor } = compute(facts, { others: ["profit", "margin"] });
    expect(parts.map(({ key }) => key)).toEqual(["turnover", "profit"]);
    expect(value(parts[1]!.figures[0])).toBe(0.5);
    expect(notes[0]).toBe("margin is of another unit and left out: one of them can stand on an axis at the right.");
    expect(descriptor).toMatch(/^profit and turnover in/);
  });
  it("has them in its table, each in its own unit", () => {
    const table = timeChartTable(compute(facts, { others: ["profit"], right: "margin" }));
    expect(table.columns.flatMap(({ head, of }) => (of ? [head] : []))).toEqual(["turnover", "profit", "margin"]);
  });
});

describe("what runs over a chart", () => {
  const facts = run(
    "actual",
    "bread",
    OCTOBER - 18,
    Array.from({ length: 19 }, (_, i) => 1000 + 100 * i),
  );
  it("begins its moving average with the months before the first that is shown", () => {
    const { moving, points } = compute(facts, { moving: { periods: 3, isCentred: false } });
    expect(points[0]!.period).toBe("2026-04");
    // February to April: 20, 21 and 22.
    expect(value(moving!.figures[0])).toBeCloseTo(21, 9);
    expect(moving!.name).toBe("Average of 3 months");
  });
  it("finds the straight line through what lies on one", () => {
    const { trend } = compute(facts, { hasTrend: true });
    expect(trend).toMatchObject({ n: 7, from: { place: 0 }, to: { place: 6 } });
    expect([trend!.slope, trend!.r2]).toEqual([expect.closeTo(1, 9), expect.closeTo(1, 9)]);
    expect(trend!.words).toMatch(/a month, R² 1\.00$/);
  });
  it("takes a period that the as-of month or the data's beginning cuts for no period of a trend, an average or a growth", () => {
    // 31 months from April 2024 to October 2026, 10 more each; a season in which October is the worst month.
    const long = run(
      "actual",
      "bread",
      OCTOBER - 30,
      Array.from({ length: 31 }, (_, i) => (100 + 10 * i - ((OCTOBER - 30 + i) % 12 === OCTOBER % 12 ? 90 : 0)) * 100),
    );
    const quarters = { grain: "quarter", last: 12 } as const;
    const { trend, moving, strip, points, notes } = compute(long, {
      ...quarters,
      hasTrend: true,
      moving: { periods: 3, isCentred: false },
      strip: "growth",
    });
    const sums = points.map(({ actual }) => value(actual));
    const cut = points.findIndex(({ name }) => name === "Q3 FY27, October only");
    expect([trend!.n, trend!.to.place]).toEqual([cut, cut - 1]);
    expect(isPresent(moving!.figures[cut]!)).toBe(false);
    expect(value(moving!.figures[cut - 1])).toBeCloseTo((sums[cut - 1]! + sums[cut - 2]! + sums[cut - 3]!) / 3, 9);
    expect(strip!.points[cut]).toMatchObject({ figure: { absent: "not covered" }, judgement: null });
    expect(value(strip!.points[cut - 1]!.figure)).toBeCloseTo(sums[cut - 1]! / sums[cut - 2]! - 1, 9);
    // On the same month a year before it grows: 310 on 190.
    const year = compute(long, { ...quarters, strip: "growth-on-year" });
    expect(value(year.strip!.points[cut]!.figure)).toBeCloseTo((400 - 90) / (280 - 90) - 1, 9);
    expect(notes).toContain(
      "Q3 FY27, October only, is left out of trend, average and growth: it is not a full quarter.",
    );
    const years = compute(long, { grain: "year", last: 3, hasTrend: true });
    expect(years.trend).toBeNull();
    expect(compute(long.slice(1), { ...quarters, hasTrend: true }).trend!.n).toBe(cut - 1);
  });
  it("lets growth begin with the month before the window, on the period before and on the year before", () => {
    const before = compute(facts, { strip: "growth" });
    // April on March: 22 on 21.
    expect(value(before.strip!.points[0]!.figure)).toBeCloseTo(1 / 21, 9);
    const year = compute(facts, { strip: "growth-on-year" });
    expect(value(year.strip!.points[0]!.figure)).toBeCloseTo(12 / 10, 9);
    expect(compute(facts, { strip: "none" }).strip).toBeNull();
  });
  it("stands a reference line at the year that was set, until the reader chooses another", () => {
    const references = [{ kind: "statistic", of: "average", side: "actual", over: "chosen-year", year: 2026 }] as const;
    const at = (choice: { year?: number }) => compute(facts, { references }, choice).references[0]!;
    // April 2025 to March 2026: 10 to 21; April to October 2026: 22 to 28.
    expect(value(at({}).figure)).toBeCloseTo(15.5, 9);
    expect(value(at({ year: 2027 }).figure)).toBeCloseTo(25, 9);
    expect(at({ year: 2027 }).name).toBe("Average, April–October FY27");
    expect(at({ year: 2031 }).figure).toMatchObject({ absent: "no data" });
  });
  it("keeps the notes whose periods are shown", () => {
    const pins = [
      { period: "2026-09", text: "Storms" },
      { period: "2020-01", text: "Long ago" },
    ];
    expect(compute(facts, { pins }).pins.map(({ text }) => text)).toEqual(["Storms"]);
  });
});
