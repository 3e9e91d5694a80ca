import type { PanelComputation } from "../panel-kind.ts";
import { computeHeat, type HeatAnswer } from "./compute.ts";
import type { HeatChoice, HeatDefinition } from "./definition.ts";
import { heatTable } from "./table.ts";

/** A KPI by two of member, month, weekday and year: where and when at once. */
export const heat: PanelComputation<HeatDefinition, HeatChoice, HeatAnswer> = {
  compute: computeHeat,
  table: heatTable,
};
