/** What a tile can show small below its large figure, in the order in which they begin. */
export const TILE_FIGURES = [
  "month",
  "month-to-date",
  "same-day",
  "year-to-date",
  "prior-year",
  "run-rate-month",
  "run-rate-year",
  "outlook",
] as const;
export type TileFigureKind = (typeof TILE_FIGURES)[number];
