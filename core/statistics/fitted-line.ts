import type { FittedLine } from "./schema.ts";

/** A pair of values that belong together. */
export interface Pair {
  readonly x: number;
  readonly y: number;
}

/** Fewer pairs than this say nothing of a line. */
const LEAST_PAIRS = 3;

/** The least squares line of y on x; `null` with fewer than three pairs, or where x or y does not vary. */
export function fittedLine(pairs: readonly Pair[]): FittedLine | null {
  const n = pairs.length;
  if (n < LEAST_PAIRS) return null;
  const mean = (of: (pair: Pair) => number) => pairs.reduce((sum, pair) => sum + of(pair), 0) / n;
  const [mx, my] = [mean(({ x }) => x), mean(({ y }) => y)];
  let [xx, yy, xy] = [0, 0, 0];
  for (const { x, y } of pairs) {
    xx += (x - mx) ** 2;
    yy += (y - my) ** 2;
    xy += (x - mx) * (y - my);
  }
  // What differs by less than its last digits does not vary.
  if (xx <= (1e-12 * Math.abs(mx)) ** 2 * n || yy <= (1e-12 * Math.abs(my)) ** 2 * n) return null;
  const slope = xy / xx;
  const r = Math.max(-1, Math.min(1, xy / Math.sqrt(xx * yy)));
  const line = { slope, intercept: my - slope * mx, r, r2: r * r, n };
  return Object.values(line).every(Number.isFinite) ? line : null;
}

/**
 * How closely two things go together, in words that claim no cause. Few pairs can stand in a line by chance: a
 * correlation that lies within 1.96 standard errors of none is not called one (Fisher's z, Fisher 1921).
 */
export function correlationWords({ r, n }: Pick<FittedLine, "r" | "n">): string {
  const size = Math.abs(r);
  if (size < 0.4) return "show no clear correlation";
  if (Math.atanh(size) * Math.sqrt(Math.max(0, n - 3)) <= 1.96 || n <= 3) return "may go together by chance";
  const how = size >= 0.7 ? "closely" : "loosely";
  return r > 0 ? `are ${how} correlated` : `are ${how} correlated, one falling as the other rises`;
}
