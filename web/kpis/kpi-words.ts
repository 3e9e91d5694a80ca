import { moneySign } from "#core/words/currency.ts";
import type { Direction, KpiUnit } from "#core/kpis/kpi.ts";

/** Which way is good, in words. */
export const DIRECTION_WORDS: Readonly<Record<Direction, string>> = {
  higher: "higher",
  lower: "lower",
  closest: "close to the basis",
  neutral: "neither",
};

/** A KPI's unit in words. */
export function unitWords(unit: KpiUnit): string {
  switch (unit.kind) {
    case "money":
      return "money";
    case "money-per":
      return `${moneySign()} per ${unit.per}`;
    case "count":
      return unit.of;
    case "percent":
      return "percent";
    case "days":
      return "days";
    case "ratio":
      return unit.of === "" ? "ratio" : unit.of;
  }
}
