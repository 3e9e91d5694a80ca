import { leastSquares } from "../numerics/least-squares.ts";
import { seasonalEffects } from "../seasonal-effects.ts";
import type { SmoothingForm } from "./form.ts";
import type { SmoothingParameters } from "./parameters.ts";

/** Where the level and slope begin is read off this many periods. */
const FIRST = 10;

/** A first guess of a form's states, from a classical decomposition and a line through the first periods. */
export function firstStates(
  { trend, season }: SmoothingForm,
  y: Float64Array,
  length: number,
): Pick<SmoothingParameters, "level" | "slope" | "seasonal"> {
  const seasonal = season === "none" ? null : seasonalEffects(y, length, season);
  const adjusted = Array.from(y, (value, t) => {
    if (!seasonal) return value;
    const effect = seasonal[t % length]!;
    return season === "additive" ? value - effect : value / Math.max(1e-2, effect);
  });
  const pairs = adjusted.flatMap((value, t) => (Number.isNaN(value) ? [] : [{ t: t + 1, value }])).slice(0, FIRST);
  if (trend === "none")
    return { level: pairs.reduce((sum, { value }) => sum + value, 0) / pairs.length, slope: null, seasonal };
  const line = leastSquares(
    pairs.map(({ t }) => [1, t]),
    pairs.map(({ value }) => value),
  ) ?? [pairs[0]!.value, 0];
  return { level: line[0]!, slope: line[1]!, seasonal };
}

/** Rates to begin a search from: slow, middling and fast learners. */
export const FIRST_RATES = [
  { alpha: 0.1, beta: 0.01, gamma: 0.05, phi: 0.95 },
  { alpha: 0.3, beta: 0.03, gamma: 0.1, phi: 0.9 },
  { alpha: 0.5, beta: 0.1, gamma: 0.3, phi: 0.97 },
  { alpha: 0.9, beta: 0.1, gamma: 0.02, phi: 0.9 },
  { alpha: 0.05, beta: 0.04, gamma: 0.6, phi: 0.97 },
] as const;
