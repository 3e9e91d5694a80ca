import { rangeName } from "../../calendar/fiscal-calendar.ts";
import { formatMonth } from "../../calendar/month.ts";
import { compareKpi } from "../../compare/compare-kpi.ts";
import { absent, type Figure } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import type { FrameAnswer } from "../../frame/frame-answer.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import type { Grain } from "../../series/grain.ts";
import { periodsOf } from "../../series/periods.ts";
import { placeReference, type PlacedReference } from "../../series/reference-line.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { kpiHead, notesOf, type KpiHead } from "../parts/kpi-head.ts";
import { CHART_SERIES, type ChartSeries, type TimeChartChoice, type TimeChartDefinition } from "./definition.ts";
import { seriesMonths, timeSeries, type SeriesPoint } from "./time-series.ts";
import { timeDescriptor, timeHeadline } from "./words.ts";

/** A period of the chart, named. */
export type SeriesPointAnswer = Omit<SeriesPoint, "period"> & {
  /** Names it apart from every other: "2026-10", "FY27-Q3", "2026-10-14". */
  readonly period: string;
  readonly name: string;
  /** As an axis has it. */
  readonly short: string;
  /** The months that it touches: "2026-10", or "2026-07..2026-09". */
  readonly months: string;
};

/** One KPI over time in a frame. */
export interface TimeChartAnswer {
  readonly kind: "time-chart";
  readonly frame: FrameAnswer;
  readonly kpi: KpiHead;
  readonly headline: string;
  readonly descriptor: string;
  readonly basisName: string;
  readonly forecastName: string | null;
  readonly grain: Grain;
  /** The last period with an actual. */
  readonly closedTo: string | null;
  /** What is drawn beside the actual. */
  readonly shows: readonly ChartSeries[];
  readonly points: readonly SeriesPointAnswer[];
  /** Lines the chart is read against. */
  readonly references: readonly PlacedReference[];
  readonly notes: readonly string[];
}

export function computeTimeChart(
  definition: TimeChartDefinition,
  choice: TimeChartChoice,
  question: PanelQuestion,
): TimeChartAnswer {
  const { company, asked } = question;
  const kpi = requireKpi(company, choice.kpi ?? definition.kpi);
  const { calendar } = company;
  const { frame } = asked;
  const context = measureContext(question);
  const comparison = compareKpi(kpi, frame, context);
  const grain = choice.grain ?? definition.grain ?? "month";
  const months = seriesMonths(calendar, frame);
  const periods = periodsOf(grain, { calendar, asOf: frame.asOf, months, last: definition.last });
  const series = timeSeries(kpi, frame, comparison, context, periods);
  const shows = CHART_SERIES.filter((part) => !definition.hides?.includes(part));
  const references = (definition.references ?? []).filter(
    (line) => line.kind === "statistic" || isOwn(definition, kpi),
  );
  return {
    kind: "time-chart",
    frame: asked.answer,
    kpi: kpiHead(kpi),
    // A title of one's own speaks of the panel's own KPI.
    headline: definition.title && isOwn(definition, kpi) ? definition.title : timeHeadline(kpi, comparison, question),
    descriptor: timeDescriptor(kpi, {
      grain,
      months: rangeName(calendar, periods[0]!.from, periods.at(-1)!.to),
      scope: asked.answer.words.scope,
      basis: series.basisName,
      unit: asked.unit,
    }),
    basisName: series.basisName,
    forecastName: series.forecastName,
    grain,
    closedTo: series.closedTo?.key ?? null,
    shows,
    points: series.points.map(({ period, ...point }) => ({
      ...withoutHidden(point, shows),
      period: period.key,
      name: period.name,
      short: period.short,
      months:
        period.from === period.to ? formatMonth(period.from) : `${formatMonth(period.from)}..${formatMonth(period.to)}`,
    })),
    references: references.map((line) => placeReference(line, kpi, frame, context)),
    notes: notesOf(comparison, question),
  };
}

/** A constant, and a title, are the panel's own KPI's: they say nothing of one that the reader chose instead. */
function isOwn({ kpi }: TimeChartDefinition, shown: CompiledKpi): boolean {
  return shown.definition.key === kpi;
}

/** A point without what its chart leaves out: hidden on screen, in the table, in copies and in files alike. */
function withoutHidden(point: Omit<SeriesPoint, "period">, shows: readonly ChartSeries[]): Omit<SeriesPoint, "period"> {
  const hidden = absent("not covered", "It is left out of this chart.");
  const keep = (series: ChartSeries, figure: Figure) => (shows.includes(series) ? figure : hidden);
  const isForecastHidden = point.varianceOf === "forecast" && !shows.includes("forecast");
  return {
    ...point,
    forecast: keep("forecast", point.forecast),
    budget: keep("budget", point.budget),
    target: keep("target", point.target),
    priorYear: keep("prior-year", point.priorYear),
    variance: isForecastHidden
      ? { delta: hidden, deltaPercent: hidden, judgement: null, tolerances: null }
      : point.variance,
  };
}
