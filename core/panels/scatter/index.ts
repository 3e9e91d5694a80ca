import type { PanelComputation } from "../panel-kind.ts";
import { computeScatter, type ScatterAnswer } from "./compute.ts";
import type { ScatterChoice, ScatterDefinition } from "./definition.ts";
import { scatterTable } from "./table.ts";

/** Whether two KPIs go together, by member or by period. */
export const scatter: PanelComputation<ScatterDefinition, ScatterChoice, ScatterAnswer> = {
  compute: computeScatter,
  table: scatterTable,
};
