import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { monthOf } from "../calendar/month.ts";
import { calendarCount } from "./calendar-effects.ts";
import { forecastSeries, METHODS, type SeriesForecast } from "./index.ts";
import { fitNaive } from "./naive.ts";
import { randomOf } from "./numerics/random.ts";
import { giantOutliers } from "./outliers.ts";
import referenceFits from "./testing/reference-fits.json" with { type: "json" };
import { fitTheta } from "./theta.ts";

type Fitted = Exclude<SeriesForecast, { notFitted: string }>;
function fittedOf(forecast: SeriesForecast): Fitted {
  if ("notFitted" in forecast) throw new Error(forecast.notFitted);
  return forecast;
}
const AIR = referenceFits.AirPassengers.values;

/** Everything in a forecast that has to be a number is one. */
function expectNumbers({ points, intervals, fitted, residuals, notes }: Fitted, horizon: number): void {
  expect(points).toHaveLength(horizon);
  expect(points.every(Number.isFinite)).toBe(true);
  for (const { lower, upper } of intervals) {
    expect(lower).toHaveLength(horizon);
    lower.forEach((least, i) => {
      expect(least).toBeLessThanOrEqual(points[i]!);
      expect(upper[i]!).toBeGreaterThanOrEqual(points[i]!);
      expect(Number.isFinite(least) && Number.isFinite(upper[i]!)).toBe(true);
    });
  }
  for (const value of [...fitted, ...residuals]) expect(value === null || Number.isFinite(value)).toBe(true);
  expect(Object.values(notes.parameters).every(Number.isFinite)).toBe(true);
}

describe("Theta and the seasonal naive forecast", () => {
  it.each(Object.entries(referenceFits))(
    "of %s are the reference's",
    (_, { values, frequency, theta, seasonalNaive }) => {
      const y = Float64Array.from(values);
      fitTheta(y, frequency)!
        .project(theta.length)
        .forEach(({ mean }, i) => expect(mean / theta[i]!).toBeCloseTo(1, 3));
      expect(
        fitNaive(y, frequency)!
          .project(seasonalNaive.length)
          .map(({ mean }) => mean),
      ).toEqual(seasonalNaive);
    },
  );
});

describe("a forecast", () => {
  const made = fittedOf(forecastSeries({ values: AIR, season: 12, firstMonth: monthOf(1949, 1) }, { horizon: 24 }));

  it("has points, intervals that hold each other, fitted values, residuals and notes", () => {
    expectNumbers(made, 24);
    const [narrow, wide] = made.intervals;
    narrow!.lower.forEach((least, i) => expect(wide!.lower[i]!).toBeLessThanOrEqual(least));
    expect(made.fitted).toHaveLength(AIR.length);
    made.residuals.forEach((left, t) => left !== null && expect(left).toBeCloseTo(AIR[t]! - made.fitted[t]!, 9));
    const { notes } = made;
    expect(notes.n).toBe(AIR.length);
    expect(notes.backtest!.rows[0]!.name).toBe(made.model.name);
    expect(notes.beatsSeasonalNaive).toBe(true);
    expect(notes.tried[0]!.aicc).toBeLessThanOrEqual(notes.tried[1]!.aicc);
    expect(notes.residuals.ljungBox!.p).toBeGreaterThanOrEqual(0);
    expect(notes.why).toMatch(/nearest|combined/);
  });

  it("takes levels as probabilities and as percentages alike", () => {
    const of = (levels: readonly number[]) =>
      fittedOf(forecastSeries({ values: AIR, season: 12 }, { horizon: 3, levels }));
    expect(of([90]).intervals[0]!.lower).toEqual(of([0.9]).intervals[0]!.lower);
  });

  it("is the same again, and begins where the last kept period ends", () => {
    const again = forecastSeries({ values: AIR, season: 12, firstMonth: monthOf(1949, 1) }, { horizon: 24 });
    expect(again).toEqual(made);
    const earlier = fittedOf(forecastSeries({ values: AIR, season: 12 }, { horizon: 6, ignoreLast: 12 }));
    expect(earlier.points).toEqual(
      fittedOf(forecastSeries({ values: AIR.slice(0, -12), season: 12 }, { horizon: 6 })).points,
    );
  });

  it("of a method asked for is that method's own, beside the naive ones", () => {
    for (const method of METHODS.filter((own) => own !== "waves")) {
      const forecast = fittedOf(forecastSeries({ values: AIR, season: 12 }, { horizon: 12, method }));
      expect(forecast.model.method).toBe(method);
      expectNumbers(forecast, 12);
    }
    const theta = fittedOf(forecastSeries({ values: AIR, season: 12 }, { horizon: 12, method: "theta" }));
    referenceFits.AirPassengers.theta.forEach((mean, i) => expect(theta.points[i]! / mean).toBeCloseTo(1, 3));
    const naive = fittedOf(forecastSeries({ values: AIR, season: 12 }, { horizon: 12, method: "seasonal-naive" }));
    expect(naive.points).toEqual(AIR.slice(-12));
  });

  it("scales with its series", () => {
    const scaled = fittedOf(forecastSeries({ values: AIR.map((value) => value * 1e6), season: 12 }, { horizon: 12 }));
    const plain = fittedOf(forecastSeries({ values: AIR, season: 12 }, { horizon: 12 }));
    expect(scaled.model).toEqual(plain.model);
    scaled.points.forEach((point, i) => expect(point / 1e6 / plain.points[i]!).toBeCloseTo(1, 4));
  });

  it("steps over missing periods and says how many; fills them where that is asked for", () => {
    const gappy = AIR.map((value, t) => (t % 17 === 5 ? null : value));
    const stepped = fittedOf(forecastSeries({ values: gappy, season: 12 }, { horizon: 12 }));
    expect(stepped.notes.warnings.join(" ")).toContain("missing periods were skipped");
    const whole = fittedOf(forecastSeries({ values: AIR, season: 12 }, { horizon: 12 }));
    stepped.points.forEach((point, i) => expect(Math.abs(point / whole.points[i]! - 1)).toBeLessThan(0.12));
    const filled = fittedOf(forecastSeries({ values: gappy, season: 12 }, { horizon: 12, interpolates: true }));
    expect(filled.notes.n).toBe(AIR.length);
    // A series that begins late is one of its own length.
    const late = fittedOf(forecastSeries({ values: [null, null, null, ...AIR], season: 12 }, { horizon: 3 }));
    expect(late.notes.n).toBe(AIR.length);
  });

  it("leaves out the periods of known events beside what it finds, and keeps a giant that is usual", () => {
    const random = randomOf(12);
    const values = Array.from({ length: 72 }, (_, t) => 100 + 10 * Math.sin((Math.PI * t) / 6) + random.normal());
    const struck = values.map((value, t) => (t === 40 ? value * 9 : t === 55 ? value - 30 : value));
    const of = (options: object) =>
      fittedOf(forecastSeries({ values: struck, season: 12 }, { horizon: 6, ...options }));
    expect(of({ known: [55] }).notes.leftOut).toEqual([40, 55]);
    expect(of({ known: [55], usual: [40] }).notes.leftOut).toEqual([55]);
    expect(of({ known: [55], leaveOut: [12] }).notes.leftOut).toEqual([12, 55]);
    expect(of({ known: [55] }).notes.warnings.join(" ")).toContain("One period of a known event was left out.");
    expect(of({ known: [55] }).points).toEqual(of({ leaveOut: [40, 55] }).points);
  });

  it("leaves out a giant outlier, and what is marked; a step marked is kept as a new level", () => {
    const random = randomOf(3);
    const flat = Array.from({ length: 60 }, (_, t) => 500 + 40 * Math.sin((Math.PI * t) / 6) + 8 * random.normal());
    const struck = flat.map((value, t) => (t === 40 ? value + 900 : value));
    const found = fittedOf(forecastSeries({ values: struck, season: 12 }, { horizon: 12 }));
    expect(found.notes.leftOut).toEqual([40]);
    expect(found.notes.warnings.join(" ")).toContain("giant outlier");
    expect(fittedOf(forecastSeries({ values: struck, season: 12 }, { horizon: 12, leaveOut: [40] })).points).toEqual(
      found.points,
    );
    const shifted = flat.map((value, t) => (t >= 44 ? value - 200 : value));
    const stepped = fittedOf(forecastSeries({ values: shifted, season: 12 }, { horizon: 12, steps: [44] }));
    expect(stepped.notes.effects[0]!.name).toBe("Level from period 45");
    stepped.points.forEach((point, i) =>
      expect(Math.abs(point - (300 + 40 * Math.sin((Math.PI * (60 + i)) / 6)))).toBeLessThan(45),
    );
  });

  it("follows the working days where they clearly matter, and only there", () => {
    const first = monthOf(2019, 1);
    const random = randomOf(5);
    const busy = Array.from(
      { length: 72 },
      (_, t) => 40 * calendarCount("working-days", first + t) + 6 * random.normal(),
    );
    const forecast = fittedOf(forecastSeries({ values: busy, season: 12, firstMonth: first }, { horizon: 12 }));
    expect(forecast.notes.effects.map(({ name }) => name)).toEqual(["Working days"]);
    forecast.points.forEach((point, i) =>
      expect(Math.abs(point - 40 * calendarCount("working-days", first + 72 + i))).toBeLessThan(25),
    );
    expect(made.notes.effects.every(({ t }) => Math.abs(t) > 4)).toBe(true);
  });

  it("is never below zero where the history is not, nor beyond bounds that are given", () => {
    const falling = Array.from({ length: 40 }, (_, t) => Math.max(0, 80 - 2 * t + (t % 3)));
    const forecast = fittedOf(forecastSeries({ values: falling, season: 1 }, { horizon: 30 }));
    expect(Math.min(...forecast.points, ...forecast.intervals.flatMap(({ lower }) => lower))).toBeGreaterThanOrEqual(0);
    const rate = Array.from({ length: 40 }, (_, t) => Math.min(1, 0.9 + 0.004 * t));
    const bounded = fittedOf(forecastSeries({ values: rate, season: 1 }, { horizon: 20, bounds: { most: 1 } }));
    expect(Math.max(...bounded.points, ...bounded.intervals.flatMap(({ upper }) => upper))).toBeLessThanOrEqual(1);
  });
});

describe("what cannot be forecast", () => {
  const flat = Array.from({ length: 30 }, (_, t) => 10 + (t % 5));
  it.each([
    ["no values", [], 1, { horizon: 3 }, "No period has a figure"],
    ["nothing but gaps", [null, null, null], 1, { horizon: 3 }, "No period has a figure"],
    ["two periods", [3, 4], 1, { horizon: 3 }, "2 periods have a figure"],
    ["everything ignored", flat, 1, { horizon: 3, ignoreLast: 40 }, "left out"],
    ["a horizon of none", flat, 1, { horizon: 0 }, "The horizon is 0"],
    ["a horizon beyond all", flat, 1, { horizon: 100_000 }, "between 1 and"],
    ["half missing", flat.map((v, t) => (t % 3 === 0 ? v : null)), 1, { horizon: 3 }, "More than half"],
    ["a season of none", flat, 0, { horizon: 3 }, "A season of 0"],
    ["the logarithm of zero", flat.map((v) => v - 10), 1, { horizon: 3, log: true }, "logarithm"],
    ["a level of two hundred", flat, 1, { horizon: 3, levels: [200] }, "between 0 and 1"],
    ["everything marked", flat, 1, { horizon: 3, leaveOut: flat.map((_, t) => t) }, "Too many periods are left out"],
  ] as const)("%s says why", (_, values, season, options, reason) => {
    const forecast = forecastSeries({ values, season }, options);
    expect("notFitted" in forecast && forecast.notFitted).toContain(reason);
  });

  it.each([
    ["constant", Array.from({ length: 24 }, () => 7), 12],
    ["all zero", Array.from({ length: 24 }, () => 0), 12],
    ["three periods", [4, 5, 7], 12],
    ["a season longer than the series", [4, 5, 7, 3, 9, 4], 12],
    ["one giant outlier", flat.map((v, t) => (t === 14 ? 1e12 : v)), 1],
    ["a jump to huge numbers", flat.map((v, t) => (t > 20 ? v * 1e9 : v)), 1],
    ["values without number", flat.map((v, t) => (t === 3 ? NaN : t === 5 ? Infinity : v)), 1],
  ] as const)("%s gets something simple", (_, values, season) => {
    expectNumbers(fittedOf(forecastSeries({ values, season }, { horizon: 12 })), 12);
  });

  it("never throws, hangs or says what is no number, whatever it is given", () => {
    const value = fc.oneof(
      { weight: 8, arbitrary: fc.double({ min: -1e6, max: 1e6, noNaN: true }) },
      { weight: 2, arbitrary: fc.integer({ min: 0, max: 3 }) },
      { weight: 1, arbitrary: fc.constantFrom(null, 0, 1e12, -1e12, NaN) },
    );
    fc.assert(
      fc.property(
        fc.array(value, { maxLength: 60 }),
        fc.constantFrom(1, 4, 7, 12, 52),
        fc.integer({ min: 0, max: 40 }),
        fc.boolean(),
        (values, season, horizon, interpolates) => {
          const forecast = forecastSeries({ values, season, firstMonth: monthOf(2020, 1) }, { horizon, interpolates });
          if ("notFitted" in forecast) expect(forecast.notFitted).toMatch(/\.$/);
          else expectNumbers(forecast, horizon);
        },
      ),
      { numRuns: 60 },
    );
  });

  it("forecasts ten thousand days from their last part, and says so", () => {
    const random = randomOf(9);
    const days = Array.from(
      { length: 10_000 },
      (_, t) => 500 + 90 * Math.sin((2 * Math.PI * t) / 7) + 20 * random.normal(),
    );
    const forecast = fittedOf(
      forecastSeries({ values: days, season: 7 }, { horizon: 1_000, method: "seasonal-naive" }),
    );
    expectNumbers(forecast, 1_000);
    expect(forecast.notes.warnings.join(" ")).toContain("Only the last 3,000 periods");
  });
});

describe("giant outliers", () => {
  it("are none in what rises, steps, sells now and then, or ends", () => {
    const random = randomOf(4);
    const noise = () => 5 * random.normal();
    const of = (make: (t: number) => number) =>
      giantOutliers(
        Float64Array.from({ length: 60 }, (_, t) => make(t)),
        12,
      );
    expect(of((t) => 100 + 3 * t + noise())).toEqual([]);
    expect(of((t) => 100 + (t >= 30 ? 400 : 0) + noise())).toEqual([]);
    expect(of((t) => (t % 4 === 0 ? 50 : 0))).toEqual([]);
    expect(of((t) => (t === 59 ? 900 : 100) + noise())).toEqual([]);
    expect(of((t) => (t === 30 ? 900 : 100) + noise())).toEqual([30]);
  });
});
