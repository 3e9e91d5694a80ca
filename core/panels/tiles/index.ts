import type { PanelComputation } from "../panel-kind.ts";
import { computeTiles, type TilesAnswer } from "./compute.ts";
import type { TilesChoice, TilesDefinition } from "./definition.ts";
import { tilesTable } from "./table.ts";

/** One figure large, with others small: a tile for each KPI, or for each member. */
export const tiles: PanelComputation<TilesDefinition, TilesChoice, TilesAnswer> = {
  compute: computeTiles,
  table: tilesTable,
};
