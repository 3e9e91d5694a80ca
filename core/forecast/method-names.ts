/** The single methods that a series can be forecast by. */
export const METHODS = [
  "smoothing",
  "waves",
  "theta",
  "carried-season",
  "seasonal-naive",
  "naive",
  "drift",
  "mean",
] as const;
export type Method = (typeof METHODS)[number];
