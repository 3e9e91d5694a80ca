import { isPresent } from "../../figures/figure.ts";
import type { Figure } from "../../figures/schema.ts";
import type { MonthStatistics } from "./schema.ts";

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
