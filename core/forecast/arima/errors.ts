import type { ArimaLags, Lags } from "./lags.ts";

/** A series run through a model: its one-step errors, its differences and itself, with what was missing put in. */
export interface ArimaRun {
  /** The errors; 0 where a value was missing or not enough lay before. */
  readonly errors: Float64Array;
  /** The differences. */
  readonly differences: Float64Array;
  /** The series with what the model says in place of what was missing. */
  readonly values: Float64Array;
  /** From this period on there are errors. */
  readonly from: number;
  /** The sum of their squares, and how many there are. */
  readonly squares: number;
  readonly count: number;
}

/**
 * The errors of a model one step ahead, given the first values (conditional sum of squares; Box and Jenkins 1970). What is
 * missing is what the model says. `y` begins with a value.
 */
export function runThrough(y: Float64Array, { values, errors, differences }: ArimaLags): ArimaRun {
  const n = y.length;
  const [e, w, filled] = [new Float64Array(n), new Float64Array(n), Float64Array.from(y)];
  const from = differences.at.length === 0 ? 0 : differences.at[differences.at.length - 1]!;
  let [squares, count] = [0, 0];
  for (let t = 0; t < from; t += 1) if (Number.isNaN(filled[t]!)) filled[t] = t > 0 ? filled[t - 1]! : 0;
  for (let t = from; t < n; t += 1) {
    const said = sumBack(w, values, t, from) + sumBack(e, errors, t, from);
    const before = sumBack(filled, differences, t, 0);
    if (Number.isNaN(filled[t]!)) {
      w[t] = said;
      filled[t] = said + before;
      continue;
    }
    w[t] = filled[t]! - before;
    const error = w[t]! - said;
    e[t] = error;
    squares += error * error;
    count += 1;
  }
  return { errors: e, differences: w, values: filled, from, squares, count };
}

/** Σ by · series[t − at], over what lies at `from` or later. */
export function sumBack(series: ArrayLike<number>, { at, by }: Lags, t: number, from: number): number {
  let sum = 0;
  for (let i = 0; i < at.length; i += 1) {
    const k = t - at[i]!;
    if (k < from) break;
    sum += by[i]! * series[k]!;
  }
  return sum;
}

/** The differences of a series alone, from the first one on. */
export function differenced(y: Float64Array, differences: Lags): Float64Array {
  const run = runThrough(y, { values: NONE, errors: NONE, differences });
  return run.differences.subarray(run.from);
}

const NONE: Lags = { at: new Int32Array(0), by: new Float64Array(0) };
