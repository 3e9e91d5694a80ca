/** What of a period's months a reference line shows, whose, and of which period. */
export const REFERENCE_STATISTICS = ["average", "median", "lowest", "highest"] as const;
export const REFERENCE_SIDES = ["actual", "budget", "target"] as const;
export const REFERENCE_PERIODS = ["span", "this-year", "last-year", "year-before-last", "chosen-year"] as const;

export type ReferenceStatistic = (typeof REFERENCE_STATISTICS)[number];
export type ReferencePeriod = (typeof REFERENCE_PERIODS)[number];

/** A line that a chart is read against: a statistic of months, or a constant in the KPI's unit. */
export type ReferenceLine =
  | {
      readonly kind: "statistic";
      readonly of: ReferenceStatistic;
      readonly side: (typeof REFERENCE_SIDES)[number];
      readonly over: ReferencePeriod;
      /** The fiscal year that `chosen-year` is until the reader chooses another; the as-of month's where nothing is said. */
      readonly year?: number | undefined;
    }
  | { readonly kind: "constant"; readonly value: number; readonly name: string };
