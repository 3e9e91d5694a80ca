/** A value this many robust standard deviations from its neighbours and its season is no part of the pattern. */
const GIANT = 7;
/** Consistent with the standard deviation of a normal distribution (Hampel 1974). */
const NORMAL = 1.4826;

/** How many values on either side a value is held against. */
const BESIDE = 3;

/**
 * The places of giant outliers: single values far from the values before them and as far, the same way, from those
 * after them, once the median of their place in the season is taken off. What stays away is a new level and no
 * outlier; of the very last nobody can tell.
 */
export function giantOutliers(y: Float64Array, season: number): number[] {
  const adjusted = season > 1 && y.length >= 3 * season ? withoutMedianSeason(y, season) : Array.from(y);
  const left = adjusted.map((value, t) => {
    const before = median(adjusted.slice(Math.max(0, t - BESIDE), t));
    const after = median(adjusted.slice(t + 1, t + 1 + BESIDE));
    const [a, b] = [value - before, value - after];
    return a * b > 0 ? Math.sign(a) * Math.min(Math.abs(a), Math.abs(b)) : 0;
  });
  const seen = left.filter((value, t) => !Number.isNaN(value) && value !== 0 && t > 0);
  if (seen.length < 8) return [];
  const spread = NORMAL * median(seen.map(Math.abs));
  const far = left.flatMap((value, t) =>
    Math.abs(value) > GIANT * spread && t >= BESIDE && t < y.length - 1 ? [t] : [],
  );
  return far.length <= Math.max(1, y.length / 20) ? far : [];
}

function withoutMedianSeason(y: Float64Array, season: number): number[] {
  const smooth = Array.from(y, (_, t) => {
    const from = Math.max(0, Math.min(y.length - season, t - Math.floor(season / 2)));
    return median(Array.from(y.subarray(from, from + season)));
  });
  const left = Array.from(y, (value, t) => value - smooth[t]!);
  const effects = Array.from({ length: season }, (_, place) => median(left.filter((__, t) => t % season === place)));
  return Array.from(y, (value, t) => value - (effects[t % season] ?? 0));
}

/** The middle of the values that are seen; NaN of none. */
export function median(values: readonly number[]): number {
  const sorted = values.filter((value) => !Number.isNaN(value)).sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  if (sorted.length === 0) return NaN;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}
