import type { PanelComputation } from "../panel-kind.ts";
import { computeGrowth, type GrowthAnswer } from "./compute.ts";
import type { GrowthChoice, GrowthDefinition } from "./definition.ts";
import { growthTable } from "./table.ts";

/** Whether a KPI's growth quickens or slows, over time or by members. */
export const growth: PanelComputation<GrowthDefinition, GrowthChoice, GrowthAnswer> = {
  compute: computeGrowth,
  table: growthTable,
};
