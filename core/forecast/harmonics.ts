import type { Regressor } from "./calendar-effects.ts";
import { leastSquares } from "./numerics/least-squares.ts";

/** A season too long for one effect per period, as waves: how many, and how high each is; with what else is known. */
export interface Harmonics {
  readonly period: number;
  readonly count: number;
  /** A sine and a cosine for each wave, then one for each regressor that was used. */
  readonly terms: readonly number[];
  /** The regressors that were used, by their names. */
  readonly used: readonly string[];
}

/** The effect of the season, and of what else is known, at a period counted from the first of the series. */
export function harmonicsAt(
  { period, count, terms, used }: Harmonics,
  t: number,
  regressors: readonly Regressor[] = [],
): number {
  const known = used.map((name) => regressors.find((own) => own.name === name)!.at(t));
  return dot([...wavesAt(t, period, count), ...known], terms);
}

const MOST_WAVES = 4;

/**
 * The waves of a season of `period` periods (not necessarily whole) under a straight line, as many as the AICc of
 * least squares wants; `null` where it wants none, or the series is shorter than two seasons.
 */
export function fitHarmonics(y: Float64Array, period: number, regressors: readonly Regressor[] = []): Harmonics | null {
  const seen = Array.from(y.keys()).filter((t) => !Number.isNaN(y[t]!));
  const n = seen.length;
  if (y.length < 2 * period || n < 3 * MOST_WAVES) return null;
  const values = seen.map((t) => y[t]!);
  const known = seen.map((t) => regressors.map(({ at }) => at(t)));
  // What was never there before says nothing, and tells itself apart from nothing.
  const used = regressors.filter((_, i) => known.some((row) => row[i] !== 0));
  const columns = seen.map((t) => used.map(({ at }) => at(t)));
  const waves = seen.map((t) => wavesAt(t, period, MOST_WAVES));
  let best: { aicc: number; count: number; terms: readonly number[] } | undefined;
  for (let count = 0; count <= MOST_WAVES; count += 1) {
    const rows = seen.map((t, i) => [1, t / y.length, ...waves[i]!.slice(0, 2 * count), ...columns[i]!]);
    const terms = leastSquares(rows, values);
    if (!terms) break;
    const squares = rows.reduce((sum, row, i) => sum + (values[i]! - dot(row, terms)) ** 2, 0);
    const k = terms.length + 1;
    const aicc = n * Math.log(squares / n) + 2 * k + (2 * k * (k + 1)) / (n - k - 1);
    if (!best || aicc < best.aicc) best = { aicc, count, terms: terms.slice(2) };
  }
  if (!best || (best.count === 0 && used.length === 0)) return null;
  const { count, terms } = best;
  return { period, count, terms, used: used.map(({ name }) => name) };
}

/** A sine and a cosine for each wave, the longest first. */
function wavesAt(t: number, period: number, count: number): number[] {
  const waves: number[] = [];
  for (let k = 1; k <= count; k += 1) {
    const angle = (2 * Math.PI * k * t) / period;
    waves.push(Math.sin(angle), Math.cos(angle));
  }
  return waves;
}

function dot(a: readonly number[], b: readonly number[]): number {
  let sum = 0;
  for (let i = 0; i < a.length; i += 1) sum += a[i]! * b[i]!;
  return sum;
}
