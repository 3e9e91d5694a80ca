import type { PanelComputation } from "../panel-kind.ts";
import { computeOutlook } from "./compute.ts";
import { outlookTable } from "./table.ts";
import type { OutlookChoice, OutlookDefinition, OutlookAnswer } from "./schema.ts";

/** Where a KPI ends the year, by every source side by side. */
export const outlook: PanelComputation<OutlookDefinition, OutlookChoice, OutlookAnswer> = {
  compute: computeOutlook,
  table: outlookTable,
};
