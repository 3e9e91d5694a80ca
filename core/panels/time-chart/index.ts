import type { PanelComputation } from "../panel-kind.ts";
import { computeTimeChart, type TimeChartAnswer } from "./compute.ts";
import type { TimeChartChoice, TimeChartDefinition } from "./definition.ts";
import { timeChartTable } from "./table.ts";

/** One KPI month by month, with what it is compared with and the variance below. */
export const timeChart: PanelComputation<TimeChartDefinition, TimeChartChoice, TimeChartAnswer> = {
  compute: computeTimeChart,
  table: timeChartTable,
};
