import type { PanelBase } from "../panel-base.ts";

/** What a circle's colour tells. */
export const MAP_COLOURS = ["judgement", "value"] as const;
export type MapColour = (typeof MAP_COLOURS)[number];

/** Where a KPI is: the members of a dimension that carry a country's code, as circles on a map. */
export interface MapDefinition extends PanelBase {
  readonly kind: "map";
  readonly kpi: string;
  readonly by: { readonly dimension: string; readonly level: string | null };
  readonly colour: MapColour;
}

/** What a reader can choose of a map, as an address has it. */
export interface MapChoice {
  readonly kpi?: string | undefined;
  readonly colour?: MapColour | undefined;
  readonly table?: "open" | undefined;
}
