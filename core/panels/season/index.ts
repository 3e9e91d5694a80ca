import type { PanelComputation } from "../panel-kind.ts";
import { computeSeason } from "./compute.ts";
import { seasonTable } from "./table.ts";
import type { SeasonChoice, SeasonDefinition, SeasonAnswer } from "./schema.ts";

/** Whether a month is a normal one: a KPI by month of the year, over fiscal years. */
export const season: PanelComputation<SeasonDefinition, SeasonChoice, SeasonAnswer> = {
  compute: computeSeason,
  table: seasonTable,
};
