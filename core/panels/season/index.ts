import type { PanelComputation } from "../panel-kind.ts";
import { computeSeason, type SeasonAnswer } from "./compute.ts";
import type { SeasonChoice, SeasonDefinition } from "./definition.ts";
import { seasonTable } from "./table.ts";

/** Whether a month is a normal one: a KPI by month of the year, over fiscal years. */
export const season: PanelComputation<SeasonDefinition, SeasonChoice, SeasonAnswer> = {
  compute: computeSeason,
  table: seasonTable,
};
