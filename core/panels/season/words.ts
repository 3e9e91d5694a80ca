import { isPresent } from "../../figures/figure.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { deltaStyle, writePercent, writeWithUnit } from "../../formats/number-words.ts";
import { isOrAre } from "../../formats/verb.ts";
import type { SeasonYear, MonthStatistics } from "./schema.ts";

/** How the last month of the year under study stands against what that month is used to be. */
export function seasonHeadline(
  { definition: { name, unit, decimals } }: CompiledKpi,
  {
    monthNames,
    own,
    others,
    statistics,
    counted,
  }: {
    monthNames: readonly string[];
    own: SeasonYear;
    others: readonly SeasonYear[];
    statistics: readonly (MonthStatistics | null)[];
    counted: number;
  },
): string {
  const at = own.values.findLastIndex((figure, i) => isPresent(figure) && statistics[i]);
  const figure = own.values[at];
  const month = statistics[at];
  if (others.length === 0 || !figure || !isPresent(figure) || !month) return `${name}: no normal range yet.`;
  const delta = figure.value - month.mean;
  const size =
    unit.kind === "percent"
      ? writeWithUnit(Math.abs(delta), deltaStyle(unit, decimals, "units"))
      : month.mean === 0
        ? null
        : writePercent(Math.abs(delta / month.mean));
  // Of an average of 0 nothing is a percentage.
  const place = delta === 0 ? "at" : [size, delta > 0 ? "above" : "below"].filter((part) => part !== null).join(" ");
  const range =
    figure.value > month.most
      ? "above all of them"
      : figure.value < month.least
        ? "below all of them"
        : "inside their range";
  return `${name} in ${monthNames[at]!} ${own.key} ${isOrAre(name)} ${place} the month's average of ${counted} year${counted === 1 ? "" : "s"}, ${range}.`;
}
