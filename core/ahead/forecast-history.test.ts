import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { monthOf } from "../calendar/month.ts";
import type { CompiledFormula } from "../formula/node.ts";
import { forecastHistory, type Expectation } from "./forecast-history.ts";
import type { KpiHistory } from "./kpi-history.ts";
import { judgeWays } from "./judge-ways.ts";
import type { AheadSettings } from "./schema.ts";

const FORMULA: CompiledFormula = {
  root: {
    kind: "binary",
    operator: "/",
    decimals: 0,
    left: { kind: "input", input: 0, decimals: 0 },
    right: { kind: "input", input: 1, decimals: 0 },
  },
  inputs: [
    { kind: "account", view: 0, account: "on_time", gathering: "sum" },
    { kind: "account", view: 0, account: "planned", gathering: "sum" },
  ],
  views: [{ scenario: null, time: [], scope: [], apart: 0 }],
  unit: { kind: "plain" },
  behaviour: "rate",
  gathering: null,
  names: ["on_time", "planned"],
};

/** Three years and a half of a rate: planned with a season, on time a share of them. */
function rateHistory(share: (t: number) => number, months = 42): KpiHistory {
  const planned = Array.from({ length: months }, (_, t) => Math.round(1000 + 300 * Math.sin((t * Math.PI) / 6) + t));
  const onTime = planned.map((value, t) => Math.round(value * share(t)));
  return {
    grain: "month",
    values: planned.map((value, t) => onTime[t]! / value),
    first: { month: monthOf(2023, 4), day: null },
    keys: planned.map((_, t) => `p${t}`),
    known: { confirmed: [], dismissed: [] },
    isFlow: true,
    isShare: true,
    made: {
      formula: FORMULA,
      inputs: [
        { name: "On time", values: onTime, known: null },
        { name: "Planned", values: planned, known: null },
      ],
    },
  };
}

function made(history: KpiHistory, settings: AheadSettings = {}): Expectation {
  const forecast = forecastHistory(history, settings);
  if ("notFitted" in forecast) throw new Error(forecast.notFitted);
  return forecast;
}

describe("a rate that is forecast by its inputs", () => {
  it("is what its formula gives of their forecasts", () => {
    const forecast = made(rateHistory((t) => 0.9 + 0.01 * Math.sin(t)));
    const [onTime, planned] = forecast.made.map(({ forecast: own }) => own.points);
    expect(forecast.isByInputs).toBe(true);
    expect(forecast.made.map(({ name }) => name)).toEqual(["On time", "Planned"]);
    forecast.points.forEach((point, i) => expect(point).toBeCloseTo(onTime![i]! / planned![i]!, 12));
  });

  it("lies in its own interval, the narrower one within the wider, and never beyond 100 %", () => {
    const forecast = made(rateHistory((t) => 0.985 + 0.01 * Math.sin(t * 2)));
    const [narrow, wide] = forecast.intervals;
    forecast.points.forEach((point, i) => {
      expect(wide!.lower[i]!).toBeLessThanOrEqual(narrow!.lower[i]!);
      expect(narrow!.lower[i]!).toBeLessThanOrEqual(point);
      expect(point).toBeLessThanOrEqual(narrow!.upper[i]!);
      expect(narrow!.upper[i]!).toBeLessThanOrEqual(wide!.upper[i]!);
      expect(wide!.upper[i]!).toBeLessThanOrEqual(1);
    });
  });

  it("has a narrower interval than inputs that do not hang together would give", () => {
    // On time follows planned: what both have in common does not move the rate.
    const noisy = (t: number) => 1000 + 250 * Math.sin(t * t * 1.7);
    const base = rateHistory(() => 0.9);
    const planned = base.values.map((_, t) => Math.round(noisy(t)));
    const together = {
      ...base,
      made: {
        formula: FORMULA,
        inputs: [
          { name: "On time", values: planned.map((value) => Math.round(value * 0.9)), known: null },
          { name: "Planned", values: planned, known: null },
        ],
      },
    };
    const apart = {
      ...base,
      made: {
        formula: FORMULA,
        inputs: [
          { name: "On time", values: planned.map((_, t) => Math.round(0.9 * noisy(t + 17))), known: null },
          { name: "Planned", values: planned, known: null },
        ],
      },
    };
    const width = (history: KpiHistory) => {
      const { intervals } = made({ ...history, isShare: false }, { method: "mean" });
      return intervals[0]!.upper[0]! - intervals[0]!.lower[0]!;
    };
    expect(width(together)).toBeLessThan(0.6 * width(apart));
  });

  it("is the same every time, and as the series that it is where that is asked for", () => {
    const history = rateHistory((t) => 0.9 + 0.02 * Math.cos(t));
    expect(made(history)).toEqual(made(history));
    const itself = made(history, { way: "itself" });
    expect(itself.isByInputs).toBe(false);
    expect(itself.made).toHaveLength(1);
  });

  it("knows the days of the periods to come, those left out at the end among them", () => {
    const months = 40;
    const days = Array.from({ length: months }, (_, t) => 28 + (t % 4));
    const amounts = days.map((count) => count * 50);
    const history: KpiHistory = {
      ...rateHistory(() => 1, months),
      values: days.map(() => 50),
      known: { confirmed: [], dismissed: [] },
      isFlow: true,
      isShare: false,
      made: {
        formula: FORMULA,
        inputs: [
          { name: "Amount", values: amounts, known: null },
          { name: "Days", values: days, known: Array.from({ length: 36 }, (_, t) => 28 + ((months + t) % 4)) },
        ],
      },
    };
    const forecast = made(history, { without: 2, horizon: 4, season: 4 });
    expect(forecast.points).toHaveLength(4);
    expect(forecast.made).toHaveLength(1);
    const [amount] = forecast.made;
    [38, 39, 40, 41].forEach((t, i) =>
      expect(forecast.points[i]!).toBeCloseTo(amount!.forecast.points[i]! / (28 + (t % 4)), 9),
    );
  });

  it("says why there is none where an input has no history, or its formula no figure", () => {
    const history = rateHistory(() => 0.9);
    const none = { ...history.made!.inputs[1]!, values: history.values.map(() => null) };
    const empty = { ...history, made: { formula: FORMULA, inputs: [history.made!.inputs[0]!, none] } };
    expect(forecastHistory(empty, {})).toEqual({ notFitted: "Planned: No period has a figure." });
    const zero = { ...none, values: history.values.map(() => 0) };
    expect(
      forecastHistory({ ...empty, made: { formula: FORMULA, inputs: [history.made!.inputs[0]!, zero] } }, {}),
    ).toEqual({
      notFitted: expect.stringContaining("divides by 0") as string,
    });
  });

  it("is judged from earlier origins beside the other way and the season before", () => {
    const history = rateHistory((t) => 0.9 + 0.02 * Math.cos((t * Math.PI) / 6));
    const judged = judgeWays(history, {})!;
    expect(judged.rows.map(({ name }) => name)).toEqual([
      "By its inputs",
      "As the series that it is",
      "Seasonal naive",
    ]);
    expect(judged.origins).toBeGreaterThanOrEqual(2);
    judged.rows.forEach(({ n }) => expect(n).toBe(judged.origins * judged.horizon));
    expect(judgeWays(history, { way: "itself" })).toBeNull();
    expect(
      judgeWays(
        rateHistory(() => 0.9, 10),
        {},
      ),
    ).toBeNull();
  });
});

describe("any history under any settings", () => {
  it("gives numbers or a reason, and as many periods as are asked for", () => {
    fc.assert(
      fc.property(
        fc.array(fc.option(fc.double({ min: -1e9, max: 1e9, noNaN: true }), { nil: null, freq: 8 }), { maxLength: 40 }),
        fc.record({
          horizon: fc.integer({ min: 1, max: 36 }),
          without: fc.integer({ min: 0, max: 24 }),
          level: fc.integer({ min: 50, max: 99 }),
          season: fc.constantFrom(1, 4, 12),
        }),
        (values, settings) => {
          const history: KpiHistory = {
            grain: "month",
            values,
            first: { month: monthOf(2023, 4), day: null },
            keys: values.map((_, t) => String(t)),
            known: { confirmed: [], dismissed: [] },
            isFlow: true,
            isShare: false,
            made: null,
          };
          const forecast = forecastHistory(history, settings);
          if ("notFitted" in forecast) {
            expect(forecast.notFitted).not.toBe("");
            return;
          }
          expect(forecast.points).toHaveLength(settings.horizon);
          const [interval] = forecast.intervals;
          const all = [...forecast.points, ...interval!.lower, ...interval!.upper];
          expect(all.every(Number.isFinite)).toBe(true);
        },
      ),
      { numRuns: 40 },
    );
  });
});
