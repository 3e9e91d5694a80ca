/**
 * A form of exponential smoothing in state-space form (Hyndman, Koehler, Ord and Snyder 2008): how errors, trend
 * and season enter. Trends are added; what multiplies the season has errors that multiply, the other combinations
 * being numerically unstable.
 */
export interface SmoothingForm {
  readonly error: "additive" | "multiplicative";
  readonly trend: "none" | "additive" | "damped";
  readonly season: "none" | "additive" | "multiplicative";
}

const TRENDS = ["none", "additive", "damped"] as const;
const ERRORS = ["additive", "multiplicative"] as const;

/** All stable forms for a series, the simplest first. */
export function stableForms(isSeasonal: boolean, isPositive: boolean): SmoothingForm[] {
  return ERRORS.filter((error) => error === "additive" || isPositive).flatMap((error) =>
    (isSeasonal ? (["none", "additive", "multiplicative"] as const) : (["none"] as const))
      .filter((season) => season !== "multiplicative" || error === "multiplicative")
      .flatMap((season) => TRENDS.map((trend): SmoothingForm => ({ error, trend, season }))),
  );
}

const SHORT = { none: "N", additive: "A", multiplicative: "M", damped: "Ad" } as const;

/** Its usual short name, such as "ETS(M,Ad,M)". */
export function formName({ error, trend, season }: SmoothingForm): string {
  return `ETS(${SHORT[error]},${SHORT[trend]},${SHORT[season]})`;
}

/** What it is in words, such as "multiplicative errors, damped trend, multiplicative season". */
export function formWords({ error, trend, season }: SmoothingForm): string {
  return `${error} errors, ${trend === "none" ? "no trend" : `${trend} trend`}, ${season === "none" ? "no season" : `${season} season`}`;
}

/** How many parameters a form has, the variance of its errors among them, for `season` periods in a season. */
export function parameterCount({ trend, season }: SmoothingForm, length: number): number {
  const seasonal = season === "none" ? 0 : length;
  return 3 + (trend === "none" ? 0 : 2) + (trend === "damped" ? 1 : 0) + seasonal;
}
