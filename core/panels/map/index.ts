import type { PanelComputation } from "../panel-kind.ts";
import { computeMap, type MapAnswer } from "./compute.ts";
import type { MapChoice, MapDefinition } from "./definition.ts";
import { mapTable } from "./table.ts";

/** Where a KPI is: members with a country, on a map and in a list. */
export const map: PanelComputation<MapDefinition, MapChoice, MapAnswer> = {
  compute: computeMap,
  table: mapTable,
};
