/** How far forecasts were from what was seen. */
export interface Accuracy {
  /** Mean absolute error, in the series' own unit. */
  readonly mae: number;
  readonly rmse: number;
  /** Symmetric mean absolute percentage error, 0 to 2; pairs of two zeros count as right. */
  readonly smape: number;
  /** Mean absolute error by that of the seasonal naive forecast one step ahead in the history; NaN where that is none. */
  readonly mase: number;
  readonly n: number;
}

/** The mean absolute change over one season: what the seasonal naive forecast errs by. NaN where nothing changed. */
export function naiveError(y: Float64Array, season: number): number {
  let [sum, n] = [0, 0];
  for (let t = season; t < y.length; t += 1) {
    const change = Math.abs(y[t]! - y[t - season]!);
    if (Number.isNaN(change)) continue;
    sum += change;
    n += 1;
  }
  return sum > 0 ? sum / n : NaN;
}

/** The accuracy of forecasts beside what was seen; pairs with NaN are left out. */
export function accuracyOf(seen: ArrayLike<number>, said: ArrayLike<number>, scale: number): Accuracy {
  let [absolute, squares, shares, n] = [0, 0, 0, 0];
  for (let t = 0; t < seen.length; t += 1) {
    const error = seen[t]! - said[t]!;
    if (Number.isNaN(error)) continue;
    absolute += Math.abs(error);
    squares += error * error;
    const size = Math.abs(seen[t]!) + Math.abs(said[t]!);
    shares += size === 0 ? 0 : (2 * Math.abs(error)) / size;
    n += 1;
  }
  return { mae: absolute / n, rmse: Math.sqrt(squares / n), smape: shares / n, mase: absolute / n / scale, n };
}
