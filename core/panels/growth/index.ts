import type { PanelComputation } from "../panel-kind.ts";
import { computeGrowth } from "./compute.ts";
import { growthTable } from "./table.ts";
import type { GrowthChoice, GrowthDefinition, GrowthAnswer } from "./schema.ts";

/** Whether a KPI's growth quickens or slows, over time or by members. */
export const growth: PanelComputation<GrowthDefinition, GrowthChoice, GrowthAnswer> = {
  compute: computeGrowth,
  table: growthTable,
};
