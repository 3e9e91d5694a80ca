import type { PanelComputation } from "../panel-kind.ts";
import { computeHeat } from "./compute.ts";
import { heatTable } from "./table.ts";
import type { HeatChoice, HeatDefinition, HeatAnswer } from "./schema.ts";

/** A KPI by two of member, month, weekday and year: where and when at once. */
export const heat: PanelComputation<HeatDefinition, HeatChoice, HeatAnswer> = {
  compute: computeHeat,
  table: heatTable,
};
