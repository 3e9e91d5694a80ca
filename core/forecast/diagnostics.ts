import { chiSquareAbove } from "./numerics/distributions.ts";

/** Whether what a model leaves is noise. */
export interface ResidualCheck {
  readonly n: number;
  readonly mean: number;
  readonly deviation: number;
  /** The test of Ljung and Box (1978) of all autocorrelations up to `lags`; `null` with too few residuals. */
  readonly ljungBox: { readonly statistic: number; readonly lags: number; readonly p: number } | null;
}

/** Checks residuals, NaN where there are none, of a model with `fitted` dynamic parameters. */
export function checkResiduals(residuals: readonly number[], season: number, fitted: number): ResidualCheck {
  const { n, mean, square, at } = autocorrelation(residuals);
  const lags = lagsTested(n, season);
  const base = { n, mean, deviation: Math.sqrt(square / Math.max(1, n - 1)) };
  const freedom = Math.max(1, lags - fitted);
  if (lags < 1 || !(square > 0)) return { ...base, ljungBox: null };
  let statistic = 0;
  for (let lag = 1; lag <= lags; lag += 1) statistic += at(lag) ** 2 / (n - lag);
  statistic *= n * (n + 2);
  return { ...base, ljungBox: { statistic, lags, p: chiSquareAbove(statistic, freedom) } };
}

/** How residuals go with those before them, for each lag, and how far chance alone would go. */
export interface Correlogram {
  /** The autocorrelation at lag 1, 2, and so on. */
  readonly byLag: readonly number[];
  /** In 95 of 100 cases noise stays within this of 0 (Bartlett 1946). */
  readonly bound: number;
}

/** The autocorrelations of residuals, NaN where there are none; `null` with too few, or where they do not vary. */
export function correlogram(residuals: readonly number[], season: number): Correlogram | null {
  const { n, square, at } = autocorrelation(residuals);
  const lags = lagsTested(n, season);
  if (lags < 1 || !(square > 0)) return null;
  return { byLag: Array.from({ length: lags }, (_, i) => at(i + 1)), bound: 1.96 / Math.sqrt(n) };
}

function lagsTested(n: number, season: number): number {
  return Math.min(season > 1 ? 2 * season : 10, Math.floor(n / 5));
}

function autocorrelation(residuals: readonly number[]) {
  const seen = residuals.filter((value) => !Number.isNaN(value));
  const n = seen.length;
  const mean = seen.reduce((sum, value) => sum + value, 0) / n;
  const square = seen.reduce((sum, value) => sum + (value - mean) ** 2, 0);
  const at = (lag: number) => {
    let sum = 0;
    for (let t = lag; t < residuals.length; t += 1) {
      const product = (residuals[t]! - mean) * (residuals[t - lag]! - mean);
      if (!Number.isNaN(product)) sum += product;
    }
    return sum / square;
  };
  return { n, mean, square, at };
}
