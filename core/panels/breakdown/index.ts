import type { PanelComputation } from "../panel-kind.ts";
import { computeBreakdown, type BreakdownAnswer } from "./compute.ts";
import type { BreakdownChoice, BreakdownDefinition } from "./definition.ts";
import { breakdownTable } from "./table.ts";

/** A KPI by the members of a level: who makes it, and who is off plan. */
export const breakdown: PanelComputation<BreakdownDefinition, BreakdownChoice, BreakdownAnswer> = {
  compute: computeBreakdown,
  table: breakdownTable,
};
