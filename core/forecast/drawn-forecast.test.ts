import { describe, expect, it } from "vitest";
import { drawForecast } from "./drawn-forecast.ts";
import { forecastSeries } from "./forecast-series.ts";
import reference from "./testing/reference-fits.json" with { type: "json" };

const values = reference.AirPassengers.values as number[];
const input = { values, season: 12, firstMonth: 1949 * 12 };
const options = { horizon: 12 };

describe("a forecast to be looked at", () => {
  const drawn = drawForecast(input, options)!;
  const told = forecastSeries(input, options);
  if ("notFitted" in told) throw new Error(told.notFitted);

  it("has the residuals that the notes speak of", () => {
    expect(drawn.residuals).toEqual(told.residuals);
    const { ljungBox, n } = told.notes.residuals;
    const { byLag } = drawn.correlogram!;
    // The statistic of the notes is that of the correlations drawn.
    const statistic = n * (n + 2) * byLag.reduce((sum, r, i) => sum + r ** 2 / (n - i - 1), 0);
    expect(statistic).toBeCloseTo(ljungBox!.statistic, 8);
    expect(drawn.correlogram!.bound).toBeCloseTo(1.96 / Math.sqrt(n), 10);
  });

  it("has the errors of each earlier origin, which make the errors and the coverage of the notes", () => {
    const { rows, origins, coverage } = told.notes.backtest!;
    expect(drawn.origins).toHaveLength(origins);
    expect(drawn.origins.map(({ from }) => from)).toEqual([120, 126, 132, 138]);
    const errors = drawn.origins.flatMap(({ said, seen }) => said.map((value, i) => Math.abs(seen[i]! - value!)));
    drawn.origins.forEach(({ from, seen }) => expect(seen[0]).toBeCloseTo(values[from]!, 8));
    // Working days may be taken off the errors that are judged, and are in what is drawn.
    expect(errors.reduce((sum, own) => sum + own, 0) / errors.length / rows[0]!.mae).toBeCloseTo(1, 1);
    drawn.coverage.forEach(({ level, held, of }, i) => {
      const all = (counts: readonly number[]) => counts.reduce((sum, count) => sum + count, 0);
      expect([level, all(held) / all(of)]).toEqual([level, coverage[i]!.share]);
      expect(of[0]).toBe(origins);
    });
  });

  it("has components that make up what the form says", () => {
    const { level, slope, season, isMultiplied } = drawn.components!;
    expect([level.length, slope?.length, season?.length, isMultiplied]).toEqual([144, 144, 144, true]);
    // A year of factors of the season is about 1 each.
    expect(season!.slice(-12).reduce<number>((sum, value) => sum + value!, 0) / 12).toBeCloseTo(1, 1);
    expect(Math.max(...season!.slice(-12).map((value) => value!))).toBe(season!.at(-6));
  });

  it("says nothing of what cannot be fitted, and leaves out what is not there", () => {
    expect(drawForecast({ values: [1, null, null], season: 12 }, options)).toBeNull();
    const short = drawForecast({ values: [null, 4, 6, 5, 7, 6, 8, 7, 9], season: 1 }, { horizon: 3 })!;
    expect(short.residuals).toHaveLength(9);
    expect(short.residuals[0]).toBeNull();
  });
});
