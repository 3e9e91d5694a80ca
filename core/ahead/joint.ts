import { shareOf } from "../forecast/forecast.ts";
import { studentQuantile } from "../forecast/numerics/distributions.ts";
import { randomOf } from "../forecast/numerics/random.ts";
import type { MadeForecast } from "../forecast/forecast.ts";

/** Of an input in one period: what is expected, and how far from it values lie, below and above. */
export interface Spread {
  readonly point: number;
  /** Scales of Student's distribution with `FREEDOM` degrees of freedom. */
  readonly below: number;
  readonly above: number;
}

const DRAWS = 1_000;
const FREEDOM = 5;
const SEED = 20_240_229;
/** Correlations of few residuals are uncertain: they are taken this far towards none. */
const SHRUNK = 0.9;

/** How an input spreads in each period to come, read from the interval of the highest level. */
export function spreadsOf({ points, intervals }: MadeForecast): Spread[] {
  const widest = intervals.reduce((a, b) => (shareOf(b.level) > shareOf(a.level) ? b : a));
  const reach = studentQuantile(0.5 + shareOf(widest.level) / 2, FREEDOM);
  return points.map((point, i) => ({
    point,
    below: Math.max(0, point - widest.lower[i]!) / reach,
    above: Math.max(0, widest.upper[i]! - point) / reach,
  }));
}

/**
 * Draws inputs together, period by period: as far apart as their intervals, and hanging together as their residuals
 * did (a multivariate Student distribution with a fixed seed). Gives `compute` each draw, and returns for every period
 * the results in order, those that are none left out.
 */
export function drawTogether(
  spreads: readonly (readonly Spread[])[],
  residuals: readonly (readonly (number | null)[])[],
  compute: (inputs: readonly number[], period: number) => number | null,
): Float64Array[] {
  const root = rootOf(correlations(residuals));
  const random = randomOf(SEED);
  const periods = spreads[0]?.length ?? 0;
  return Array.from({ length: periods }, (_, period) => {
    const results: number[] = [];
    for (let draw = 0; draw < DRAWS; draw += 1) {
      const normals = root.map(() => random.normal());
      let squares = 0;
      for (let k = 0; k < FREEDOM; k += 1) squares += random.normal() ** 2;
      const stretch = Math.sqrt(FREEDOM / squares);
      const inputs = spreads.map((own, i) => {
        const z = root[i]!.reduce((sum, weight, j) => sum + weight * normals[j]!, 0) * stretch;
        const { point, below, above } = own[period]!;
        const value = point + z * (z < 0 ? below : above);
        // What never was negative is drawn so either: its interval ended at zero.
        return point >= 0 && point - below * 3 <= 0 ? Math.max(0, value) : value;
      });
      const result = compute(inputs, period);
      if (result !== null && Number.isFinite(result)) results.push(result);
    }
    return Float64Array.from(results).sort();
  });
}

/** The value below which a share of the draws lies; NaN of none. */
export function quantileOf(sorted: Float64Array, share: number): number {
  if (sorted.length === 0) return NaN;
  const place = share * (sorted.length - 1);
  const [low, high] = [Math.floor(place), Math.ceil(place)];
  return sorted[low]! + (sorted[high]! - sorted[low]!) * (place - low);
}

function correlations(residuals: readonly (readonly (number | null)[])[]): number[][] {
  return residuals.map((a, i) => residuals.map((b, j) => (i === j ? 1 : SHRUNK * correlation(a, b))));
}

function correlation(a: readonly (number | null)[], b: readonly (number | null)[]): number {
  // From the end, since histories of different lengths end together.
  const length = Math.min(a.length, b.length);
  const pairs = Array.from({ length }, (_, k) => [a[a.length - 1 - k]!, b[b.length - 1 - k]!] as const).filter(
    (pair): pair is readonly [number, number] => pair.every((one) => typeof one === "number" && Number.isFinite(one)),
  );
  if (pairs.length < 8) return 0;
  const mean = (k: 0 | 1) => pairs.reduce((sum, pair) => sum + pair[k], 0) / pairs.length;
  const [ma, mb] = [mean(0), mean(1)];
  const [xy, xx, yy] = pairs.reduce(
    ([p, q, r], [x, y]) => [p + (x - ma) * (y - mb), q + (x - ma) ** 2, r + (y - mb) ** 2],
    [0, 0, 0],
  );
  return xx > 0 && yy > 0 ? Math.max(-1, Math.min(1, xy / Math.sqrt(xx * yy))) : 0;
}

/** The lower triangle of which a matrix of correlations is the square (Cholesky); what is not there is taken as none. */
function rootOf(matrix: readonly (readonly number[])[]): number[][] {
  const root = matrix.map((row) => row.map(() => 0));
  for (let i = 0; i < matrix.length; i += 1)
    for (let j = 0; j <= i; j += 1) {
      const sum = Array.from({ length: j }, (_, k) => root[i]![k]! * root[j]![k]!).reduce((a, b) => a + b, 0);
      const left = matrix[i]![j]! - sum;
      root[i]![j] = i === j ? Math.sqrt(Math.max(0, left)) : root[j]![j]! > 1e-9 ? left / root[j]![j]! : 0;
    }
  return root;
}
