import { moneySign } from "#core/formats/currency.ts";
import type { Direction } from "#core/kpis/schema.ts";
import type { KpiUnit } from "#core/figures/schema.ts";

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
