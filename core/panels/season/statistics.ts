import { isPresent, type Figure } from "../../figures/figure.ts";

/** A month of the year over several years. */
export interface MonthStatistics {
  readonly mean: number;
  readonly least: number;
  readonly most: number;
  /** How many years have it. */
  readonly n: number;
}

/** Mean, least and most of each month of the year; `null` where no year has it. */
export function monthStatistics(years: readonly (readonly Figure[])[]): (MonthStatistics | null)[] {
  return Array.from({ length: 12 }, (_, month) => {
    const values = years.flatMap((year) => {
      const figure = year[month];
      return figure && isPresent(figure) ? [figure.value] : [];
    });
    if (values.length === 0) return null;
    return {
      mean: values.reduce((sum, value) => sum + value, 0) / values.length,
      least: Math.min(...values),
      most: Math.max(...values),
      n: values.length,
    };
  });
}
