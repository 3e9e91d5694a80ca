import { leastSquares } from "./numerics/least-squares.ts";
import { squaredMean } from "./naive.ts";
import type { Fitted, Projection } from "./projection.ts";
import { isSeasonal, repeatsItself, SHORT } from "./season-found.ts";
import { seasonalEffects } from "./seasonal-effects.ts";
import { fitSmoothing } from "./smoothing/fit.ts";

/**
 * The Theta method (Assimakopoulos and Nikolopoulos 2000) in the form of Hyndman and Billah (2003): simple
 * exponential smoothing of the seasonally adjusted series, carried on by half the slope of its straight line. The
 * season is taken out where its autocorrelation is significant at ten per cent, or as `kind` says. `null` where nothing can
 * be fitted.
 */
export function fitTheta(y: Float64Array, season: number, kind = seasonKind(y, season)): Fitted | null {
  const n = y.length;
  const effects = kind ? seasonalEffects(y, season, kind) : null;
  const effectAt = (t: number) => (effects ? effects[t % season]! : kind === "multiplicative" ? 1 : 0);
  const isMultiplied = kind === "multiplicative";
  const adjusted = y.map((value, t) => (isMultiplied ? value / effectAt(t) : value - effectAt(t)));
  const smooth = fitSmoothing({ error: "additive", trend: "none", season: "none" }, adjusted, 1);
  if (!smooth) return null;
  const { alpha } = smooth.parameters;
  const seen = Array.from(adjusted.keys()).filter((t) => !Number.isNaN(adjusted[t]!));
  const line = leastSquares(
    seen.map((t) => [1, t]),
    seen.map((t) => adjusted[t]!),
  );
  const drift = (line?.[1] ?? 0) / 2;
  /** How far the drift has not yet been learnt by the level after `periods`. */
  const ahead = (periods: number) => (1 - (1 - alpha) ** periods) / alpha;
  const put = (value: number, t: number) => (isMultiplied ? value * effectAt(t) : value + effectAt(t));
  const fitted = smooth.fitted.map((value, t) => put(value + drift * ahead(t), t));
  const adjustedFit = smooth.fitted.map((value, t) => value + drift * ahead(t));
  const variance = squaredMean(adjusted, adjustedFit, 3);
  return {
    name: "Theta",
    fitted,
    parameters: { alpha, drift },
    project: (horizon) =>
      Array.from({ length: horizon }, (_, i): Projection => {
        const base = smooth.last.level + drift * (i + ahead(n));
        const spread = variance * (1 + i * alpha * alpha);
        return { mean: put(base, n + i), variance: isMultiplied ? spread * effectAt(n + i) ** 2 : spread };
      }),
  };
}

/** How the season enters: multiplied into positive series, added to others; `null` where there is none to see. */
export function seasonKind(y: Float64Array, season: number): "additive" | "multiplicative" | null {
  if (season < 2 || y.length < 2 * season) return null;
  const isShort = y.length < SHORT * season;
  if (!isSeasonal(y, season) && !(isShort && repeatsItself(y, season))) return null;
  return y.every((value) => Number.isNaN(value) || value > 0) ? "multiplicative" : "additive";
}
