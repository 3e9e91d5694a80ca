import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { absent, present } from "#core/figures/figure.ts";
import { valueStyle } from "#core/formats/number-words.ts";
import { labelWidth } from "../../chart-kit/labels.ts";
import { layoutPeriodBars, type PeriodBarsOptions } from "./layout-bars.ts";

const style = valueStyle({ kind: "money" }, 0, "thousand");
const NONE = absent("not covered", "There is none.");

/** Periods with an actual, and after them some with a forecast. */
function layOut(actual: readonly number[], forecast: readonly number[], room: Partial<PeriodBarsOptions> = {}) {
  const point = (i: number, value: number, isOpen: boolean) => ({
    period: `2026-${i}`,
    name: `Month ${i}`,
    short: `M${i}`,
    months: `2026-${i}`,
    actual: isOpen ? NONE : present(value),
    forecast: isOpen ? present(value) : NONE,
    budget: NONE,
    target: NONE,
    priorYear: NONE,
    basis: present(value * 0.9),
    variance: {
      delta: present(value * 0.1),
      deltaPercent: present(0.1),
      judgement: "favourable" as const,
      tolerances: null,
    },
    varianceOf: "actual" as const,
    inSpan: true,
  });
  const points = [
    ...actual.map((v, i) => point(i, v, false)),
    ...forecast.map((v, i) => point(actual.length + i, v, true)),
  ];
  const data = { points, ahead: null, basisName: "Budget" } as unknown as PeriodBarsOptions["data"];
  return layoutPeriodBars({ data, width: 600, height: 300, style, deltaStyle: style, ...room });
}

describe("bars that lie, a period a line", () => {
  it("begin at zero, as long as their values, with the line between what is closed and what is expected", () => {
    const { bars, zero, openY } = layOut([1000, 2000], [4000]);
    expect(bars.map(({ bar }) => bar!.x)).toEqual([zero, zero, zero]);
    const [first, second, third] = bars.map(({ bar }) => bar!.width);
    expect(second! / first!).toBeCloseTo(2);
    expect(third! / first!).toBeCloseTo(4);
    expect(bars.map(({ isForecast }) => isForecast)).toEqual([false, false, true]);
    expect(openY).toBe(bars[2]!.band.y);
    expect(bars[0]!.delta).toBe("+0.1");
  });

  it("show the part that is weighed in proportion to the whole", () => {
    const weighed = [{ actual: present(500) }] as unknown as PeriodBarsOptions["weighed"];
    const [first, second] = layOut([1000, 2000], [], { weighed: weighed! }).bars;
    expect(first!.part!.width * 2).toBeCloseTo(first!.bar!.width);
    expect(second!.part).toBeNull();
  });

  it("stay inside of their plot with their labels, whatever the values and the room", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -9e8, max: 9e8 }), { minLength: 1, maxLength: 40 }),
        fc.integer({ min: 260, max: 1400 }),
        fc.integer({ min: 150, max: 700 }),
        (values, width, height) => {
          const { bars, plot, height: whole } = layOut(values, [], { width, height });
          for (const { bar, value, band } of bars) {
            expect(bar!.x).toBeGreaterThanOrEqual(plot.x - 0.01);
            expect(bar!.x + bar!.width).toBeLessThanOrEqual(plot.x + plot.width + 0.01);
            expect(band.y + band.height).toBeLessThanOrEqual(whole);
            const end = value!.anchor === "start" ? value!.x + labelWidth(value!.text) : value!.x;
            expect(end).toBeLessThanOrEqual(plot.x + plot.width + 0.01);
          }
        },
      ),
    );
  });
});
