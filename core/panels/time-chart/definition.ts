import type { ReferenceLine } from "../../series/reference-kinds.ts";
import type { Grain } from "../../series/grain.ts";
import type { PanelBase } from "../panel-base.ts";

/** What a chart over time can leave out. */
export const CHART_SERIES = ["forecast", "budget", "target", "prior-year"] as const;
export type ChartSeries = (typeof CHART_SERIES)[number];

/** One KPI over time; `kpi` is shown until the reader chooses another. */
export interface TimeChartDefinition extends PanelBase {
  readonly kind: "time-chart";
  readonly kpi: string;
  /** How it is drawn until the reader chooses otherwise; by the KPI's kind where nothing is said. */
  readonly marks?: "columns" | "lines" | undefined;
  /** How finely it is told, until the reader chooses otherwise; by month where nothing is said. */
  readonly grain?: Grain | undefined;
  /** How many periods it shows; as many as are usual where nothing is said. */
  readonly last?: number | undefined;
  /** What is left out besides the actual. */
  readonly hides?: readonly ChartSeries[] | undefined;
  /** Whether values stand beside their marks. */
  readonly hasLabels?: boolean | undefined;
  /** Decimals of the values, whatever the KPI's are. */
  readonly decimals?: number | undefined;
  readonly references?: readonly ReferenceLine[] | undefined;
}

/** What a reader can choose of a chart over time, as an address has it. */
export interface TimeChartChoice {
  readonly kpi?: string | undefined;
  readonly marks?: "columns" | "lines" | undefined;
  readonly grain?: Grain | undefined;
  readonly table?: "open" | undefined;
}
