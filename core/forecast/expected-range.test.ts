import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { expectedRange, type ExpectedRange } from "./expected-range.ts";
import { randomOf } from "./numerics/random.ts";

type Found = Exclude<ExpectedRange, { notFitted: string }>;
const found = (range: ExpectedRange): Found => {
  if ("notFitted" in range) throw new Error(range.notFitted);
  return range;
};

/** Passengers by day over three years and a half: the week, the year, and noise of six percent. */
function days(seed: number, change: (t: number) => number = () => 1): number[] {
  const random = randomOf(seed);
  return Array.from({ length: 1_280 }, (_, t) => {
    const year = 1 + 0.5 * Math.sin((2 * Math.PI * t) / 365.25);
    const week = 1 + 0.3 * Math.sin((2 * Math.PI * t) / 7);
    return Math.max(0, Math.round(900 * year * week * Math.exp(0.06 * random.normal()) * change(t)));
  });
}

describe("an expected range by day", () => {
  it("holds nearly all of a quiet year", () => {
    const shares = [1, 2, 3].map((seed) => {
      const { points } = found(expectedRange({ values: days(seed), season: 7 }, { from: 915 }));
      expect(points).toHaveLength(365);
      return points.filter(({ isOutside }) => isOutside).length / points.length;
    });
    for (const share of shares) expect(share).toBeLessThanOrEqual(0.05);
  });

  it("shows a storm of twelve days as one event, with its size, and nothing else in its month", () => {
    const values = days(4, (t) => (t >= 1_200 && t < 1_212 ? 0.35 : 1));
    const { events, points } = found(expectedRange({ values, season: 7 }, { from: 1_180 }));
    const storms = events.filter(({ kind }) => kind === "run");
    expect(storms).toHaveLength(1);
    expect(storms[0]).toMatchObject({ from: 1_200, to: 1_211, side: "below" });
    expect(storms[0]!.worst).toBeLessThan(-4);
    expect(events.length).toBeLessThanOrEqual(3);
    const lost = points.slice(20, 32).reduce((sum, { value, expected }) => sum + value! - expected, 0);
    expect(storms[0]!.deviation).toBeCloseTo(lost, 6);
    // The days after it are expected as before it: the storm was no lesson.
    expect(points[40]!.expected / values[1_220]!).toBeCloseTo(1, 0);
  });

  it("takes days without anything for as far out as they are, where what is usual is a share", () => {
    const values = days(5, (t) => (t === 1_230 ? 0 : 1));
    const { events } = found(expectedRange({ values, season: 7 }, { from: 1_200 }));
    expect(events.find(({ from }) => from === 1_230)).toMatchObject({ to: 1_230, kind: "outlier", side: "below" });
  });

  it("learns nothing from what is known to be an event, and all of what is said to be usual", () => {
    const values = days(4, (t) => (t >= 1_200 && t < 1_212 ? 0.75 : 1));
    const stormy = Array.from({ length: 12 }, (_, i) => 1_200 + i);
    const after = (options: object, at = 33) =>
      found(expectedRange({ values, season: 7 }, { from: 1_180, ...options })).points[at]!.expected;
    const calm = found(expectedRange({ values: days(4), season: 7 }, { from: 1_180 })).points[33]!.expected;
    expect(Math.abs(after({ known: stormy }) / calm - 1)).toBeLessThan(0.03);
    // The model fitted thirteen weeks later has the storm in its history, or not.
    const early = Array.from({ length: 12 }, (_, i) => 1_100 + i);
    const long = days(4, (t) => (early.includes(t) ? 0.75 : 1));
    const late = (options: object) =>
      found(expectedRange({ values: long, season: 7 }, { from: 1_090, ...options })).points.at(-1)!.expected;
    expect(late({ known: early })).toBe(late({}));
    expect(late({ usual: early })).not.toBe(late({}));
    // What is known is judged all the same.
    const { events } = found(expectedRange({ values, season: 7 }, { from: 1_180, known: stormy }));
    expect(events.some(({ from, to }) => from <= 1_205 && to >= 1_205)).toBe(true);
  });

  it("tells another level from an event that ends, and expects it from then on", () => {
    const values = days(6, (t) => (t >= 1_150 ? 0.6 : 1));
    const { events, points } = found(expectedRange({ values, season: 7 }, { from: 1_100 }));
    expect(events[0]).toMatchObject({ from: 1_150, kind: "shift", side: "below" });
    const late = points.slice(-60);
    expect(late.filter(({ isOutside }) => isOutside).length).toBeLessThanOrEqual(6);
  });
});

describe("an expected range by month", () => {
  const months = (change: (t: number) => number) => {
    const random = randomOf(8);
    return Array.from(
      { length: 60 },
      (_, t) => (500 + 60 * Math.sin((Math.PI * t) / 6) + 10 * random.normal()) * change(t),
    );
  };
  it("expects of a month what was known before it, and no later one changes that", () => {
    const values = months(() => 1);
    const whole = found(expectedRange({ values, season: 12 }, { from: 48 }));
    const shorter = found(expectedRange({ values: values.slice(0, 55), season: 12 }, { from: 48 }));
    expect(whole.points.slice(0, 7)).toEqual(shorter.points);
  });
  it("flags a single month, and not those after it", () => {
    const { events } = found(expectedRange({ values: months((t) => (t === 52 ? 1.4 : 1)), season: 12 }, { from: 48 }));
    expect(events).toHaveLength(1);
    expect(events[0]).toMatchObject({ from: 52, to: 52, kind: "outlier", side: "above" });
  });
  it("says why there is none", () => {
    const few = expectedRange({ values: months(() => 1).slice(0, 20), season: 12 }, { from: 12 });
    expect("notFitted" in few && few.notFitted).toContain("25 periods of history");
    expect("notFitted" in expectedRange({ values: Array.from({ length: 40 }, () => 7), season: 1 }, { from: 30 })).toBe(
      true,
    );
  });
  it("never says what is no number, whatever it is given", () => {
    const value = fc.oneof(fc.double({ min: -1e6, max: 1e6, noNaN: true }), fc.constantFrom(null, 0, NaN, 1e12));
    fc.assert(
      fc.property(
        fc.array(value, { minLength: 20, maxLength: 70 }),
        fc.constantFrom(1, 4, 7, 12, 52),
        fc.integer({ min: 0, max: 70 }),
        (values, season, from) => {
          const range = expectedRange({ values, season }, { from });
          if ("notFitted" in range) return;
          for (const { expected, lower, upper, score } of range.points) {
            expect([expected, lower, upper].every((own) => !Number.isNaN(own))).toBe(true);
            expect(lower).toBeLessThanOrEqual(upper);
            expect(score === null || !Number.isNaN(score)).toBe(true);
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe("an expected range by month", () => {
  it("holds what it says of series that wander, from two years of history on", () => {
    const [outside, all] = Array.from({ length: 30 }, (_, seed) => {
      const random = randomOf(seed + 1);
      let level = 6;
      const values = Array.from({ length: 61 }, (__, t) => {
        level += 0.01 * random.normal();
        return Math.exp(level + 0.3 * Math.sin((Math.PI * t) / 6) + 0.03 * random.normal());
      });
      const { points } = found(expectedRange({ values, season: 12 }, { from: 25 }));
      return [points.filter(({ isOutside }) => isOutside).length, points.length] as const;
    }).reduce(([a, b], [c, d]) => [a + c, b + d], [0, 0]);
    expect(outside / all).toBeGreaterThan(0.01);
    expect(outside / all).toBeLessThan(0.06);
  });
});

describe("the range of a period", () => {
  it("is the same wherever one begins to look, by day and by month", () => {
    const daily = days(7, (t) => (t >= 1_200 && t < 1_206 ? 0.4 : 1));
    const random = randomOf(8);
    const monthly = Array.from(
      { length: 70 },
      (_, t) => 500 + 80 * Math.sin((Math.PI * t) / 6) + 10 * random.normal() - (t === 60 ? 200 : 0),
    );
    for (const [values, season, froms] of [
      [daily, 7, [1_190, 1_215, 1_250]],
      [monthly, 12, [40, 58, 61, 69]],
    ] as const) {
      const of = froms.map((from) => found(expectedRange({ values, season }, { from })));
      const [longest] = of;
      for (const [i, shorter] of of.entries()) {
        expect(shorter.points[0]!.period).toBe(froms[i]);
        expect(shorter.points).toEqual(longest!.points.slice(-shorter.points.length));
        expect(shorter.events).toEqual(longest!.events.filter(({ to }) => to >= froms[i]!));
      }
    }
  });
});
