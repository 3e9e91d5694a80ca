import type { ArimaOrder } from "./order.ts";

/** A polynomial in the lag operator without its leading one: the lags that have a coefficient, and the coefficients. */
export interface Lags {
  readonly at: Int32Array;
  readonly by: Float64Array;
}

/** The polynomials of a model: of earlier values (of the differences, and of the series itself), and of earlier errors. */
export interface ArimaLags {
  /** w[t] = Σ by · w[t − at] + … */
  readonly values: Lags;
  /** … + e[t] + Σ by · e[t − at] */
  readonly errors: Lags;
  /** y[t] = w[t] + Σ by · y[t − at] */
  readonly differences: Lags;
}

/**
 * The polynomials of a model from numbers without bounds: each is the hyperbolic tangent of a partial autocorrelation, so
 * that whatever the search tries is stationary and invertible (Barndorff-Nielsen and Schou 1973; Monahan 1984).
 */
export function lagsOf(order: ArimaOrder, season: number, free: ArrayLike<number>): ArimaLags {
  const { p, q, seasonal } = order;
  const part = (from: number, count: number) => fromPartials(Array.from({ length: count }, (_, i) => free[from + i]!));
  const ar = part(0, p);
  const seasonalAr = part(p, seasonal.p);
  const ma = part(p + seasonal.p, q);
  const seasonalMa = part(p + seasonal.p + q, seasonal.q);
  const minus = (own: readonly number[]) => own.map((one) => -one);
  return {
    values: toLags(product(polynomial(minus(ar), 1), polynomial(minus(seasonalAr), season)), -1),
    errors: toLags(product(polynomial(minus(ma), 1), polynomial(minus(seasonalMa), season)), 1),
    differences: differencesOf(order, season),
  };
}

/** The polynomial of the differences alone, which no number of the search changes. */
export function differencesOf({ d, seasonal }: ArimaOrder, season: number): Lags {
  let own = [1];
  for (let i = 0; i < d; i += 1) own = product(own, polynomial([-1], 1));
  for (let i = 0; i < seasonal.d; i += 1) own = product(own, polynomial([-1], season));
  return toLags(own, -1);
}

/** Coefficients of a stationary autoregression from unbounded numbers, by the recursion of Durbin and Levinson. */
export function fromPartials(free: readonly number[]): number[] {
  let own: number[] = [];
  for (const one of free) {
    const r = Math.tanh(one);
    const before = own;
    own = [...before.map((value, i) => value - r * before[before.length - 1 - i]!), r];
  }
  return own;
}

function polynomial(coefficients: readonly number[], step: number): number[] {
  const own = new Array<number>(coefficients.length * step + 1).fill(0);
  own[0] = 1;
  coefficients.forEach((value, i) => (own[(i + 1) * step] = value));
  return own;
}

function product(a: readonly number[], b: readonly number[]): number[] {
  const own = new Array<number>(a.length + b.length - 1).fill(0);
  a.forEach((x, i) => {
    if (x !== 0) b.forEach((y, j) => (own[i + j]! += x * y));
  });
  return own;
}

function toLags(polynomialOf: readonly number[], sign: 1 | -1): Lags {
  const at = polynomialOf.flatMap((value, lag) => (lag > 0 && value !== 0 ? [lag] : []));
  return { at: Int32Array.from(at), by: Float64Array.from(at, (lag) => sign * polynomialOf[lag]!) };
}
