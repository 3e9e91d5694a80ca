import type { Projection } from "../projection.ts";
import type { SmoothingFit } from "./fit.ts";

/**
 * The mean and variance of the periods after a fit's last one, by the formulas of Hyndman and others (2008, ch. 6):
 * exact for errors that are added, and for errors that multiply a trend and an added season; for what multiplies a
 * season, the season's own uncertainty enters as in their class 3.
 */
export function projectSmoothing(fit: SmoothingFit, horizon: number): Projection[] {
  const { form, parameters, last, length, variance, fitted } = fit;
  const { alpha, beta, gamma, phi } = parameters;
  const n = fitted.length;
  const damping = phi ?? 1;
  const isMultiplied = form.season === "multiplicative";
  const hasSeason = form.season !== "none";
  /** φ + φ² + … + φ^j. */
  const damped: number[] = [0];
  for (let j = 1; j <= horizon; j += 1) damped.push(damped[j - 1]! + damping ** j);
  /** How much of an error is still in the forecast j periods on. */
  const kept = (j: number) =>
    alpha + (beta ?? 0) * damped[j]! + (hasSeason && !isMultiplied && j % length === 0 ? (gamma ?? 0) : 0);
  const bases = Array.from({ length: horizon }, (_, i) => last.level + damped[i + 1]! * last.slope);
  const effects = bases.map((_, i) => (hasSeason ? last.seasonal[(n + i) % length]! : isMultiplied ? 1 : 0));
  const means = bases.map((base, i) => (isMultiplied ? base * effects[i]! : base + effects[i]!));
  const weights = Array.from({ length: horizon }, (_, j) => kept(j + 1) ** 2);
  if (form.error === "additive") {
    let sum = 1;
    return means.map((mean, i) => {
      if (i > 0) sum += weights[i - 1]!;
      return { mean, variance: variance * sum };
    });
  }
  // θ of the means without the season where that multiplies, of the means themselves otherwise.
  const own = isMultiplied ? bases : means;
  const theta: number[] = [];
  return own.map((mean, i) => {
    let sum = mean * mean;
    for (let j = 1; j <= i; j += 1) sum += variance * weights[j - 1]! * theta[i - j]!;
    theta.push(sum);
    const cycles = isMultiplied ? (1 + (gamma ?? 0) ** 2 * variance) ** Math.floor(i / length) : 1;
    const spread = (1 + variance) * cycles * sum - mean * mean;
    return { mean: means[i]!, variance: spread * (isMultiplied ? effects[i]! ** 2 : 1) };
  });
}
