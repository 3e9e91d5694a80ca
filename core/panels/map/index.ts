import type { PanelComputation } from "../panel-kind.ts";
import { computeMap } from "./compute.ts";
import { mapTable } from "./table.ts";
import type { MapChoice, MapDefinition, MapAnswer } from "./schema.ts";

/** Where a KPI is: members with a country, on a map and in a list. */
export const map: PanelComputation<MapDefinition, MapChoice, MapAnswer> = {
  compute: computeMap,
  table: mapTable,
};
