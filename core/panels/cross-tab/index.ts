import type { PanelComputation } from "../panel-kind.ts";
import { computeCrossTab, type CrossTabAnswer } from "./compute.ts";
import type { CrossTabChoice, CrossTabDefinition } from "./definition.ts";
import { crossTable } from "./table.ts";

/** Any of dimensions, KPIs, scenarios and periods by any others: the figures, exactly. */
export const crossTab: PanelComputation<CrossTabDefinition, CrossTabChoice, CrossTabAnswer> = {
  compute: computeCrossTab,
  table: crossTable,
};
