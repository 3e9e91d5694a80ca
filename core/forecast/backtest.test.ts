import { describe, expect, it } from "vitest";
import { backtest, type Backtest } from "./backtest.ts";
import { forecastSeries } from "./forecast-series.ts";
import referenceFits from "./testing/reference-fits.json" with { type: "json" };

const AIR = referenceFits.AirPassengers.values;
const found = (made: Backtest) => {
  if ("notFitted" in made) throw new Error(made.notFitted);
  return made;
};

describe("a backtest", () => {
  it("says of the seasonal naive forecast what can be worked out by hand", () => {
    const { origins, rows } = found(
      backtest({ values: AIR, season: 12 }, { horizon: 3, origins: 2, stride: 6, methods: ["seasonal-naive"] }),
    );
    expect(origins).toEqual([141, 135]);
    const naive = rows.find(({ method }) => method === "seasonal-naive")!;
    const errors = origins.flatMap((known) => [0, 1, 2].map((i) => AIR[known + i]! - AIR[known + i - 12]!));
    expect(naive.n).toBe(6);
    expect(naive.mae).toBeCloseTo(errors.reduce((sum, error) => sum + Math.abs(error), 0) / 6, 9);
    expect(naive.byHorizon.map(({ ahead, n }) => [ahead, n])).toEqual([
      [1, 2],
      [2, 2],
      [3, 2],
    ]);
    expect(naive.byHorizon[0]!.bias).toBeCloseTo((errors[0]! + errors[3]!) / 2, 9);
  });

  it("makes the default choice from what was known at each origin alone", () => {
    const { rows, origins } = found(backtest({ values: AIR, season: 12 }, { horizon: 6, origins: 1 }));
    const known = forecastSeries({ values: AIR.slice(0, origins[0]), season: 12 }, { horizon: 6 });
    if ("notFitted" in known) throw new Error(known.notFitted);
    const seen = AIR.slice(origins[0]);
    const mae = known.points.reduce((sum, said, i) => sum + Math.abs(seen[i]! - said), 0) / 6;
    expect(rows[0]!.mae).toBeCloseTo(mae, 9);
    expect(rows[0]!.coverage.map(({ level }) => level)).toEqual([0.8, 0.95]);
  });

  it("says why it looks back on nothing", () => {
    const none = backtest({ values: AIR.slice(0, 20), season: 12 }, { horizon: 6 });
    expect("notFitted" in none && none.notFitted).toContain("at least 31 periods");
  });
});
