import type { Fitted, Projection } from "./projection.ts";

/** The last value, or that of a season before, of every period to come. `null` where there is none. */
export function fitNaive(y: Float64Array, length = 1): Fitted | null {
  const last = lastValues(y, length);
  if (last.every(Number.isNaN)) return null;
  const fallback = meanOf(last);
  const shown = last.map((value) => (Number.isNaN(value) ? fallback : value));
  const fitted = Array.from(y, (_, t) => (t < length ? NaN : y[t - length]!));
  const variance = squaredMean(y, fitted, 1);
  return {
    name: length > 1 ? "Seasonal naive" : "Naive",
    fitted,
    parameters: {},
    project: (horizon) =>
      Array.from({ length: horizon }, (_, i): Projection => ({
        mean: shown[(y.length + i) % length]!,
        variance: variance * (Math.floor(i / length) + 1),
      })),
  };
}

/** The share of a season over which its level is compared with that of the season before. */
const COMPARED = 1 / 3;

/**
 * The last season once more, moved by how much the latest periods differ from the same ones a season before: unlike
 * the seasonal naive forecast it does not fall back behind a level that has changed. `null` without two such periods.
 */
export function fitCarriedSeason(y: Float64Array, length: number): Fitted | null {
  const last = lastValues(y, length);
  if (last.some(Number.isNaN) || y.length < 2 * length) return null;
  const count = Math.max(2, Math.round(length * COMPARED));
  const change = (until: number) =>
    meanOf(Array.from({ length: count }, (_, i) => y[until - i]! - y[until - i - length]!));
  const fitted = Array.from(y, (_, t) => (t < length + count ? NaN : y[t - length]! + change(t - 1)));
  const variance = squaredMean(y, fitted, 1);
  const now = change(y.length - 1);
  if (Number.isNaN(now) || Number.isNaN(variance)) return null;
  return {
    name: "Last season at today's level",
    fitted,
    parameters: { change: now },
    project: (horizon) =>
      Array.from({ length: horizon }, (_, i): Projection => ({
        mean: last[(y.length + i) % length]! + now,
        variance: variance * (1 + i / length),
      })),
  };
}

/** How much of the growth on the season before is believed to go on: all of it is too much where there are few seasons. */
const GROWN = 0.75;
/** The fewest periods that a season and the one before it must have in common to tell growth. */
const LEAST_COMPARED = 3;

/**
 * The last season once more, with three quarters of the growth that it had on the season before, over the periods that
 * both have: what can be said of a season of which there is hardly more than one. `null` with fewer than three such periods.
 */
export function fitGrownSeason(y: Float64Array, length: number): Fitted | null {
  const last = lastValues(y, length);
  if (last.some(Number.isNaN)) return null;
  const compared = Math.min(length, y.length - length);
  const changes = Array.from({ length: Math.max(0, compared) }, (_, i) => {
    const t = y.length - 1 - i;
    return y[t]! - y[t - length]!;
  }).filter((change) => !Number.isNaN(change));
  if (changes.length < LEAST_COMPARED) return null;
  const growth = GROWN * meanOf(changes);
  const fitted = Array.from(y, (_, t) => (t < length ? NaN : y[t - length]! + growth));
  const variance = squaredMean(y, fitted, 1);
  return {
    name: "Last season, grown",
    fitted,
    parameters: { growth },
    project: (horizon) =>
      Array.from({ length: horizon }, (_, i): Projection => ({
        mean: last[(y.length + i) % length]! + growth * (Math.floor(i / length) + 1),
        variance: variance * (Math.floor(i / length) + 1),
      })),
  };
}

/** The value last seen at each place of a season. */
function lastValues(y: Float64Array, length: number): number[] {
  const last = new Array<number>(length).fill(NaN);
  y.forEach((value, t) => {
    if (!Number.isNaN(value)) last[t % length] = value;
  });
  return last;
}

/** The last value, carried on by the mean change of a period. `null` with fewer than two values. */
export function fitDrift(y: Float64Array): Fitted | null {
  const seen = Array.from(y.keys()).filter((t) => !Number.isNaN(y[t]!));
  const [first, last] = [seen[0], seen.at(-1)];
  if (first === undefined || last === undefined || first === last) return null;
  const slope = (y[last]! - y[first]!) / (last - first);
  const fitted = Array.from(y, (_, t) => (t === 0 ? NaN : y[t - 1]! + slope));
  const variance = squaredMean(y, fitted, 2);
  const n = last - first + 1;
  return {
    name: "Drift",
    fitted,
    parameters: { slope },
    project: (horizon) =>
      Array.from({ length: horizon }, (_, i): Projection => {
        const ahead = i + y.length - last;
        return { mean: y[last]! + slope * ahead, variance: variance * ahead * (1 + ahead / Math.max(1, n - 1)) };
      }),
  };
}

/** The mean of all values. `null` where there is none. */
export function fitMean(y: Float64Array): Fitted | null {
  const seen = Array.from(y).filter((value) => !Number.isNaN(value));
  if (seen.length === 0) return null;
  const mean = meanOf(seen);
  const fitted = Array.from(y, () => mean);
  const variance = squaredMean(y, fitted, 1);
  return {
    name: "Mean",
    fitted,
    parameters: { mean },
    project: (horizon) =>
      Array.from({ length: horizon }, (): Projection => ({ mean, variance: variance * (1 + 1 / seen.length) })),
  };
}

function meanOf(values: readonly number[]): number {
  const seen = values.filter((value) => !Number.isNaN(value));
  return seen.reduce((sum, value) => sum + value, 0) / seen.length;
}

/** The mean square of what was fitted wrongly, corrected for `lost` parameters. */
export function squaredMean(y: Float64Array, fitted: readonly number[], lost: number): number {
  let [sum, n] = [0, 0];
  for (let t = 0; t < y.length; t += 1) {
    const error = y[t]! - fitted[t]!;
    if (Number.isNaN(error)) continue;
    sum += error * error;
    n += 1;
  }
  return n === 0 ? 0 : sum / Math.max(1, n - lost);
}
