import { monthsName, periodName } from "../../calendar/fiscal-calendar.ts";
import { formatMonth } from "../../calendar/month.ts";
import { compareKpi } from "../../compare/compare-kpi.ts";
import { absent, type Figure } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import type { FrameAnswer } from "../../frame/frame-answer.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { placeReference, type PlacedReference } from "../../series/reference-line.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { kpiHead, notesOf, type KpiHead } from "../parts/kpi-head.ts";
import { CHART_SERIES, type ChartSeries, type TimeChartChoice, type TimeChartDefinition } from "./definition.ts";
import { seriesMonths, timeSeries, type SeriesPoint } from "./time-series.ts";
import { timeDescriptor, timeHeadline } from "./words.ts";

/** A month of the chart, named. */
export type SeriesPointAnswer = Omit<SeriesPoint, "month"> & { readonly month: string; readonly name: string };

/** One KPI over time in a frame. */
export interface TimeChartAnswer {
  readonly kind: "time-chart";
  readonly frame: FrameAnswer;
  readonly kpi: KpiHead;
  readonly headline: string;
  readonly descriptor: string;
  readonly basisName: string;
  readonly forecastName: string | null;
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
  const series = timeSeries(kpi, frame, comparison, context);
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
      months: monthsName(calendar, seriesMonths(calendar, frame)),
      scope: asked.answer.words.scope,
      basis: series.basisName,
      unit: asked.unit,
    }),
    basisName: series.basisName,
    forecastName: series.forecastName,
    closedTo: series.closedTo === null ? null : formatMonth(series.closedTo),
    shows,
    points: series.points.map((point) => ({
      ...withoutHidden(point, shows),
      month: formatMonth(point.month),
      name: periodName(calendar, point.month),
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
function withoutHidden(point: SeriesPoint, shows: readonly ChartSeries[]): SeriesPoint {
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
