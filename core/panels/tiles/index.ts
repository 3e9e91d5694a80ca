import type { PanelComputation } from "../panel-kind.ts";
import { computeTiles } from "./compute.ts";
import { tilesTable } from "./table.ts";
import type { TilesChoice, TilesDefinition, TilesAnswer } from "./schema.ts";

/** One figure large, with others small: a tile for each KPI, or for each member. */
export const tiles: PanelComputation<TilesDefinition, TilesChoice, TilesAnswer> = {
  compute: computeTiles,
  table: tilesTable,
};
