import type { PanelComputation } from "../panel-kind.ts";
import { computeCrossTab } from "./compute.ts";
import { crossTable } from "./table.ts";
import type { CrossTabChoice, CrossTabDefinition, CrossTabAnswer } from "./schema.ts";

/** Any of dimensions, KPIs, scenarios and periods by any others: the figures, exactly. */
export const crossTab: PanelComputation<CrossTabDefinition, CrossTabChoice, CrossTabAnswer> = {
  compute: computeCrossTab,
  table: crossTable,
};
