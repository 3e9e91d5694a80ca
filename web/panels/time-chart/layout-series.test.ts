import { scaleLinear } from "d3-scale";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { layoutSeries, seriesExtent } from "./layout-series.ts";
import type { ChartPart } from "#core/panels/time-chart/schema.ts";

const part = (values: readonly (number | null)[], i = 0): ChartPart => ({
  key: `p${i}`,
  name: `Part ${i}`,
  kpi: {} as ChartPart["kpi"],
  dimension: null,
  member: null,
  at: i,
  figures: values.map((value) => (value === null ? { absent: "no data", detail: "None." } : { value })),
});
const ROOMS = [0, 1, 2].map((i) => ({ left: i * 100, width: 80 }));
const TOP = 10;
const BOTTOM = 210;
const some = fc.array(
  fc.array(fc.option(fc.integer({ min: -1000, max: 1000 }), { freq: 5 }), { minLength: 3, maxLength: 3 }),
  { minLength: 1, maxLength: 8 },
);

describe("several series over time", () => {
  it.each(["clustered", "stacked"] as const)(
    "keeps every column of %s inside the plot and its own room",
    (stacking) => {
      fc.assert(
        fc.property(some, (series) => {
          const parts = series.map(part);
          const extent = [0, ...seriesExtent(parts, stacking)];
          const y = scaleLinear([Math.min(...extent), Math.max(...extent, 1)], [BOTTOM, TOP]);
          const { boxes, places } = layoutSeries(parts, stacking, ROOMS, (value) => y(value));
          for (const [s, row] of boxes.entries())
            for (const [i, box] of row.entries()) {
              expect(box === null).toBe(series[s]![i] === null);
              if (!box) continue;
              expect(box.y).toBeGreaterThanOrEqual(TOP - 1e-6);
              expect(box.y + box.height).toBeLessThanOrEqual(BOTTOM + 1e-6);
              expect(box.x).toBeGreaterThanOrEqual(ROOMS[i]!.left - 1e-6);
              expect(box.x + box.width).toBeLessThanOrEqual(ROOMS[i]!.left + ROOMS[i]!.width + 1e-6);
            }
          expect(places).toHaveLength(series.length);
        }),
      );
    },
  );
  it("stacks the gains on each other upwards, and the losses downwards, without a gap", () => {
    const parts = [part([3, null, 1]), part([-2, 1, 1], 1), part([4, 1, 1], 2)];
    expect(seriesExtent(parts, "stacked")).toEqual([7, -2, 2, 0, 3, 0]);
    const { boxes } = layoutSeries(parts, "stacked", ROOMS, (value) => 100 - 10 * value);
    expect(boxes.map(([first]) => [first!.y, first!.height])).toEqual([
      [70, 30],
      [100, 20],
      [30, 40],
    ]);
  });
  it("lets shares fill the whole", () => {
    const parts = [part([1, 0, 2]), part([3, 5, 2], 1)];
    const { boxes } = layoutSeries(parts, "share", ROOMS, (value) => 100 - 100 * value);
    expect(boxes.map((row) => row.map((box) => box!.height))).toEqual([
      [25, 0, 50],
      [75, 100, 50],
    ]);
  });
});
