/**
 * Which seasonal ARIMA model: how often the series is differenced, by one period and by one season, and how many earlier
 * values and errors enter, of the periods and of the seasons before.
 */
export interface ArimaOrder {
  readonly p: number;
  readonly d: number;
  readonly q: number;
  /** The same by season, written P, D and Q in formulas. */
  readonly seasonal: { readonly p: number; readonly d: number; readonly q: number };
  /** Whether it is of the logarithms. */
  readonly isLog: boolean;
}

/** What a model is called, such as "ARIMA(0,1,1)(0,1,1)12 of logarithms". */
export function nameOfOrder({ p, d, q, seasonal, isLog }: ArimaOrder, season: number): string {
  const isSeasonal = seasonal.p + seasonal.d + seasonal.q > 0;
  return `ARIMA(${p},${d},${q})${isSeasonal ? `(${seasonal.p},${seasonal.d},${seasonal.q})${season}` : ""}${isLog ? " of logarithms" : ""}`;
}

/** How many numbers are looked for in the search: one a term. */
export function coefficientCount({ p, q, seasonal }: ArimaOrder): number {
  return p + q + seasonal.p + seasonal.q;
}
