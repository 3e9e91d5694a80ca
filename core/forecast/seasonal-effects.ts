/**
 * The season of a series by classical decomposition: what is left of each period after a centred mean over one
 * season, averaged by its place in it. Effects that are added sum to nothing, those that multiply to `length`;
 * begins with the first period's. Missing values (NaN) are left out.
 */
export function seasonalEffects(y: Float64Array, length: number, kind: "additive" | "multiplicative"): number[] {
  const trend = centredMeans(y, length);
  const sums = new Array<number>(length).fill(0);
  const counts = new Array<number>(length).fill(0);
  for (let t = 0; t < y.length; t += 1) {
    const [value, mean] = [y[t]!, trend[t]!];
    const left = kind === "additive" ? value - mean : value / mean;
    if (!Number.isFinite(left)) continue;
    sums[t % length]! += left;
    counts[t % length]! += 1;
  }
  const neutral = kind === "additive" ? 0 : 1;
  const raw = sums.map((sum, i) => (counts[i]! > 0 ? sum / counts[i]! : neutral));
  const mean = raw.reduce((sum, own) => sum + own, 0) / length;
  return raw.map((own) => (kind === "additive" ? own - mean : mean > 0 ? own / mean : 1));
}

/** Means over one season around each period; over what there is of it at the ends of a short series. NaN where nothing is. */
function centredMeans(y: Float64Array, length: number): Float64Array {
  const n = y.length;
  const half = Math.floor(length / 2);
  const means = new Float64Array(n).fill(NaN);
  const isEven = length % 2 === 0;
  for (let t = half; t < n - half; t += 1) {
    let [sum, weight] = [0, 0];
    for (let k = -half; k <= half; k += 1) {
      const value = y[t + k]!;
      if (Number.isNaN(value)) continue;
      // An even season reaches half a period over at each end.
      const own = isEven && Math.abs(k) === half ? 0.5 : 1;
      sum += own * value;
      weight += own;
    }
    if (weight > 0) means[t] = sum / weight;
  }
  return means;
}
