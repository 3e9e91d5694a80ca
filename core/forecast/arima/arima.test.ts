import fc from "fast-check";
import { describe, expect, it } from "vitest";
import reference from "../testing/reference-fits.json" with { type: "json" };

import { randomOf } from "../numerics/random.ts";
import { chooseArima } from "./choose.ts";
import { differenced, runThrough } from "./errors.ts";
import { fitArima, fittedByArima, namedCoefficients, projectArima } from "./fit.ts";
import { differencesOf, lagsOf } from "./lags.ts";
import { nameOfOrder, type ArimaOrder } from "./order.ts";

const order = (own: Partial<ArimaOrder> = {}): ArimaOrder => ({
  p: 0,
  d: 1,
  q: 0,
  seasonal: { p: 0, d: 0, q: 0 },
  isLog: false,
  ...own,
});
const AIRLINE = order({ q: 1, seasonal: { p: 0, d: 1, q: 1 }, isLog: true });
const normals = (count: number, seed: number) => {
  const { normal } = randomOf(seed);
  return Array.from({ length: count }, normal);
};
const seriesOf = (name: string) =>
  Float64Array.from((reference as unknown as Record<string, { values: number[] }>)[name]!.values);

describe("a seasonal ARIMA model", () => {
  it("differences by period and by season, as worked out by hand", () => {
    const y = Float64Array.from([1, 2, 4, 7, 9, 13, 18, 24]);
    expect([...differenced(y, differencesOf(order(), 4))]).toEqual([1, 2, 3, 2, 4, 5, 6]);
    // (24 − 18) − (9 − … ): of each difference the one four before it.
    expect([...differenced(y, differencesOf(order({ seasonal: { p: 0, d: 1, q: 0 } }), 4))]).toEqual([3, 3, 3]);
  });

  it("gives errors one step ahead, as worked out by hand", () => {
    // y[t] = y[t−1] + 0.5 (y[t−1] − y[t−2]) + e[t]
    const y = Float64Array.from([10, 12, 14, 15]);
    const { errors, squares, count } = runThrough(y, lagsOf(order({ p: 1 }), 1, [Math.atanh(0.5)]));
    expect([...errors].map((one) => Math.round(one * 1e9) / 1e9)).toEqual([0, 2, 1, 0]);
    expect([squares, count].map((one) => Math.round(one * 1e9) / 1e9)).toEqual([5, 3]);
  });

  it("finds what is known of the classic example, the airline passengers", () => {
    const fit = fitArima(AIRLINE, seriesOf("AirPassengers"), 12)!;
    expect(fit.name).toBe("ARIMA(0,1,1)(0,1,1)12 of logarithms");
    const { "MA 1": ma, "seasonal MA 1": seasonal } = namedCoefficients(fit);
    // Box and Jenkins 1976: −0.396 and −0.614; exact likelihood: −0.402 and −0.557.
    expect(ma).toBeGreaterThan(-0.42);
    expect(ma).toBeLessThan(-0.35);
    expect(seasonal).toBeGreaterThan(-0.62);
    expect(seasonal).toBeLessThan(-0.53);
    expect(Math.sqrt(fit.variance)).toBeCloseTo(0.037, 2);
    const [next] = projectArima(fit, 1);
    // January 1961 was expected at about 450 thousand.
    expect(next!.mean).toBeGreaterThan(440);
    expect(next!.mean).toBeLessThan(460);
    expect(fittedByArima(fit).slice(0, 13).every(Number.isNaN)).toBe(true);
  });

  it("widens with the horizon as the model says: a random walk by its variance a step, an AR(1) of differences by hand", () => {
    const y = Float64Array.from(normals(80, 5)).map(
      (
        (sum) => (value: number) =>
          (sum += value)
      )(100),
    );
    const walk = fitArima(order(), y, 1)!;
    const wide = projectArima(walk, 3).map(({ variance }) => variance / walk.variance);
    expect(wide.map((one) => Math.round(one * 1e6) / 1e6)).toEqual([1, 2, 3]);
    const own = fitArima(order({ p: 1 }), y, 1)!;
    const { "AR 1": phi } = namedCoefficients(own);
    const [, second, third] = projectArima(own, 3).map(({ variance }) => variance / own.variance);
    expect(second).toBeCloseTo(1 + (1 + phi!) ** 2, 8);
    expect(third).toBeCloseTo(1 + (1 + phi!) ** 2 + (1 + phi! + phi! ** 2) ** 2, 8);
  });

  it("finds the numbers that a series was made by", () => {
    const e = normals(600, 3);
    let [w, y, before] = [0, 50, 0];
    const values = Float64Array.from(e, (error) => {
      w = 0.6 * w + error + 0.3 * before;
      before = error;
      return (y += w);
    });
    const named = namedCoefficients(fitArima(order({ p: 1, q: 1 }), values, 1)!);
    expect(Math.abs(named["AR 1"]! - 0.6)).toBeLessThan(0.1);
    expect(Math.abs(named["MA 1"]! - 0.3)).toBeLessThan(0.1);
  });

  it("steps over what is missing, and carries it on by what it says", () => {
    const whole = seriesOf("AirPassengers");
    const holed = Float64Array.from(whole, (value, t) => (t % 17 === 5 ? NaN : value));
    const [full, own] = [fitArima(AIRLINE, whole, 12)!, fitArima(AIRLINE, holed, 12)!];
    expect(own.run.count).toBeLessThan(full.run.count);
    projectArima(own, 12).forEach(({ mean }, i) => {
      const near = projectArima(full, 12)[i]!.mean;
      expect(Math.abs(mean / near - 1)).toBeLessThan(0.04);
    });
  });

  it("never tries what is not stationary and invertible: errors die away", () => {
    const free = fc.array(fc.double({ min: -6, max: 6, noNaN: true }), { minLength: 6, maxLength: 6 });
    fc.assert(
      fc.property(free, (numbers) => {
        const shape = order({ p: 2, d: 0, q: 2, seasonal: { p: 1, d: 0, q: 1 } });
        const { values, errors } = lagsOf(
          shape,
          4,
          numbers.map((one) => one / 4),
        );
        for (const { at, by } of [values, { at: errors.at, by: errors.by.map((one) => -one) }]) {
          const ring = new Float64Array(4000);
          ring[0] = 1;
          for (let t = 1; t < ring.length; t += 1)
            at.forEach((lag, i) => {
              if (lag <= t) ring[t]! += by[i]! * ring[t - lag]!;
            });
          expect(Math.abs(ring[3999]!)).toBeLessThan(1);
        }
      }),
    );
  });
});

describe("the choice of an order", () => {
  it("differences by season where there is one, of logarithms where the season grows, and tells what was tried", () => {
    const choice = chooseArima(seriesOf("AirPassengers"), 12)!;
    expect(choice.chosen.order).toMatchObject({ d: 1, isLog: true, seasonal: { d: 1 } });
    expect(choice.tried.length).toBeGreaterThan(5);
    expect(choice.tried[0]!.name).toBe(nameOfOrder(choice.chosen.order, 12));
    expect(choice.tried.map(({ aicc }) => aicc)).toEqual(choice.tried.map(({ aicc }) => aicc).sort((a, b) => a - b));
  });

  it("keeps away from what is too short, and from seasons that are waves", () => {
    expect(chooseArima(seriesOf("AirPassengers").slice(0, 59), 12)).toBeNull();
    expect(chooseArima(Float64Array.from(normals(200, 9)), 52)).toBeNull();
    expect(chooseArima(new Float64Array(80).fill(7), 1)).toBeNull();
  });
});
