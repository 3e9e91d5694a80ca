import type { PanelComputation } from "../panel-kind.ts";
import { computeScatter } from "./compute.ts";
import { scatterTable } from "./table.ts";
import type { ScatterChoice, ScatterDefinition, ScatterAnswer } from "./schema.ts";

/** Whether two KPIs go together, by member or by period. */
export const scatter: PanelComputation<ScatterDefinition, ScatterChoice, ScatterAnswer> = {
  compute: computeScatter,
  table: scatterTable,
};
