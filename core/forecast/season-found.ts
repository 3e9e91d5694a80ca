import { fittedLine } from "../statistics/fitted-line.ts";

/** A season longer than this is drawn as waves rather than as one effect for each period. */
export const LONGEST_SEASON = 24;

/** From this correlation with the season before on, a season is believed of a series too short for a test. */
const ALIKE = 0.5;
const LEAST_PAIRS = 4;
/** Series of fewer seasons than this are short: the test for a season hardly ever finds one there. */
export const SHORT = 5;

/** Whether the periods of a series that has hardly two seasons go with the same ones of the season before. */
export function repeatsItself(y: Float64Array, season: number): boolean {
  const pairs = Array.from(y.keys())
    .filter((t) => t >= season && !Number.isNaN(y[t]!) && !Number.isNaN(y[t - season]!))
    .map((t) => ({ x: y[t - season]!, y: y[t]! }));
  const line = pairs.length < LEAST_PAIRS ? null : fittedLine(pairs);
  return line !== null && line.r > ALIKE;
}

/** Whether the autocorrelation at one season is more than chance would have, at ten per cent (Bartlett 1946). */
export function isSeasonal(y: Float64Array, season: number): boolean {
  const seen = Array.from(y).filter((value) => !Number.isNaN(value));
  const mean = seen.reduce((sum, value) => sum + value, 0) / seen.length;
  const at = (lag: number) => {
    let sum = 0;
    for (let t = lag; t < y.length; t += 1) {
      const product = (y[t]! - mean) * (y[t - lag]! - mean);
      if (!Number.isNaN(product)) sum += product;
    }
    return sum;
  };
  const all = at(0);
  if (!(all > 0)) return false;
  let squares = 1;
  for (let lag = 1; lag < season; lag += 1) squares += 2 * (at(lag) / all) ** 2;
  return Math.abs(at(season) / all) > 1.645 * Math.sqrt(squares / seen.length);
}
