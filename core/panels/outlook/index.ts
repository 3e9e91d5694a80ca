import type { PanelComputation } from "../panel-kind.ts";
import { computeOutlook, type OutlookAnswer } from "./compute.ts";
import type { OutlookChoice, OutlookDefinition } from "./definition.ts";
import { outlookTable } from "./table.ts";

/** Where a KPI ends the year, by every source side by side. */
export const outlook: PanelComputation<OutlookDefinition, OutlookChoice, OutlookAnswer> = {
  compute: computeOutlook,
  table: outlookTable,
};
