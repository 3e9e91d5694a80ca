import type { PanelComputation } from "../panel-kind.ts";
import { computeTimeChart } from "./compute.ts";
import { timeChartTable } from "./table.ts";
import type { TimeChartChoice, TimeChartDefinition, TimeChartAnswer } from "./schema.ts";

/** One KPI month by month, with what it is compared with and the variance below. */
export const timeChart: PanelComputation<TimeChartDefinition, TimeChartChoice, TimeChartAnswer> = {
  compute: computeTimeChart,
  table: timeChartTable,
};
