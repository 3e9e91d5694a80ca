import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { chiSquareAbove, normalQuantile, studentQuantile } from "./distributions.ts";
import { leastSquares } from "./least-squares.ts";
import { minimise, type Objective } from "./minimise.ts";
import { randomOf } from "./random.ts";

describe("distributions", () => {
  it("have the quantiles and probabilities of the tables", () => {
    for (const [p, z] of [
      [0.5, 0],
      [0.9, 1.2815515655446004],
      [0.975, 1.959963984540054],
      [0.001, -3.090232306167813],
      [1e-12, -7.034483825301131],
    ] as const)
      expect(normalQuantile(p)).toBeCloseTo(z, 9);
    for (const [p, freedom, t] of [
      [0.9, 5, 1.4759],
      [0.975, 5, 2.5706],
      [0.975, 30, 2.0423],
    ] as const)
      expect(studentQuantile(p, freedom)).toBeCloseTo(t, 2);
    for (const [x, freedom, p] of [
      [3.841, 1, 0.05],
      [18.307, 10, 0.05],
      [36.415, 24, 0.05],
      [2, 24, 1],
    ] as const)
      expect(chiSquareAbove(x, freedom)).toBeCloseTo(p, 4);
  });
});

describe("least squares", () => {
  it("finds the coefficients that made a series, and none where columns are alike", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -50, max: 50 }), { minLength: 3, maxLength: 3 }), (wanted) => {
        const rows = Array.from({ length: 20 }, (_, t) => [1, t, Math.sin(t)]);
        const found = leastSquares(
          rows,
          rows.map((row) => row.reduce((sum, x, i) => sum + x * wanted[i]!, 0)),
        )!;
        found.forEach((own, i) => expect(own).toBeCloseTo(wanted[i]!, 6));
      }),
    );
    const alike = [1, 2, 3, 4].map((t) => [1, t, 2 * t]);
    expect(leastSquares(alike, [1, 2, 3, 4])).toBeNull();
  });
});

describe("a search", () => {
  it("ends at the bottom of a valley, whatever it is scaled by and wherever it begins", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: 0.01, max: 100, noNaN: true }),
        (x0, by) => {
          // Sums of squares of (x − 1) and of by · (y − x²): a bent valley.
          const valley: Objective = (x, gradient, curvature) => {
            const [a, b] = [x[0]! - 1, by * (x[1]! - x[0]! ** 2)];
            const [ax, bx, byY] = [1, -2 * by * x[0]!, by];
            if (gradient && curvature) {
              gradient.set([2 * (a * ax + b * bx), 2 * b * byY]);
              curvature.set([2 * (ax * ax + bx * bx), 0, 2 * bx * byY, 2 * byY * byY]);
            }
            return a * a + b * b;
          };
          const { x } = minimise(valley, Float64Array.from([x0, 0]), { mostEvaluations: 400, leastGain: 1e-12 });
          expect(x[0]!).toBeCloseTo(1, 3);
          expect(x[1]!).toBeCloseTo(1, 3);
        },
      ),
    );
  });
});

describe("random numbers", () => {
  it("are the same of one seed, others of another, and of the mean and variance they say", () => {
    const of = (seed: number) => {
      const random = randomOf(seed);
      return Array.from({ length: 4_000 }, () => random.normal());
    };
    const numbers = of(7);
    expect(of(7)).toEqual(numbers);
    expect(of(8)).not.toEqual(numbers);
    const mean = numbers.reduce((sum, x) => sum + x, 0) / numbers.length;
    expect(mean).toBeCloseTo(0, 1);
    expect(numbers.reduce((sum, x) => sum + (x - mean) ** 2, 0) / numbers.length).toBeCloseTo(1, 1);
  });
});
