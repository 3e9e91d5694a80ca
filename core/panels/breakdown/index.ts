import type { PanelComputation } from "../panel-kind.ts";
import { computeBreakdown } from "./compute.ts";
import { breakdownTable } from "./table.ts";
import type { BreakdownChoice, BreakdownDefinition, BreakdownAnswer } from "./schema.ts";

/** A KPI by the members of a level: who makes it, and who is off plan. */
export const breakdown: PanelComputation<BreakdownDefinition, BreakdownChoice, BreakdownAnswer> = {
  compute: computeBreakdown,
  table: breakdownTable,
};
