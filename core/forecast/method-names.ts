/** The single methods that a series can be forecast by. */
export const METHODS = [
  "smoothing",
  "arima",
  "waves",
  "theta",
  "carried-season",
  "grown-season",
  "seasonal-naive",
  "naive",
  "drift",
  "mean",
] as const;
export type Method = (typeof METHODS)[number];
