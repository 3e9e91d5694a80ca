import { describe, expect, it } from "vitest";
import { fittingMarks } from "./fitting-marks.ts";
import type { TimeChartAnswer } from "#core/panels/time-chart/schema.ts";

const answer = (parts: number, points: number, more: Partial<TimeChartAnswer> = {}) =>
  ({
    parts: Array.from({ length: parts }, (_, i) => ({ key: String(i) })),
    points: Array.from({ length: points }, (_, i) => ({ period: String(i) })),
    stacking: "clustered",
    grain: "month",
    moving: null,
    trend: null,
    band: null,
    right: null,
    references: [],
    ...more,
  }) as unknown as TimeChartAnswer;

describe("marks that fit", () => {
  it("are lines where columns next to each other could not be told apart, and say so", () => {
    expect(fittingMarks("columns", answer(9, 12), 600)).toEqual({
      marks: "lines",
      why: "9 columns per month do not fit side by side, so they are drawn as lines.",
    });
    expect(fittingMarks("columns", answer(9, 12), 1200).marks).toBe("columns");
    expect(fittingMarks("columns", answer(9, 12, { stacking: "stacked" }), 600).marks).toBe("columns");
    expect(fittingMarks("columns", answer(0, 60), 300).marks).toBe("columns");
  });
  it("are bars for one series only, without what runs over time", () => {
    expect(fittingMarks("bars", answer(0, 12), 600)).toEqual({ marks: "bars", why: null });
    expect(fittingMarks("bars", answer(2, 12), 1200).marks).toBe("columns");
    expect(fittingMarks("bars", answer(0, 12, { right: {} as never }), 600).why).not.toBeNull();
  });
});
