import { rangeName, type FiscalCalendar } from "../../calendar/fiscal-calendar.ts";
import { formatMonth, monthsBetween } from "../../calendar/month.ts";
import { historyOf, type PlacedHistory } from "../../ahead/history.ts";
import { USUAL_RANGE_LEVEL } from "../../ahead/settings.ts";
import { compareKpi } from "../../compare/compare-kpi.ts";
import { measureOver } from "../../compare/measure.ts";
import { absent, isPresent } from "../../figures/figure.ts";
import type { CoverageMap } from "../../cube/coverage.ts";
import { requireKpi } from "../../frame/company.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import type { Grain } from "../../series/grain.ts";
import { periodsOf, type Period } from "../../series/periods.ts";
import { placeReference } from "../../series/reference-line.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { kpiHead, notesOf } from "../parts/kpi-head.ts";
import { othersScope, repetition, type Repetition } from "../parts/repetition.ts";
import { lookAhead } from "./ahead.ts";
import { aheadSeries, type AheadOf } from "./ahead-series.ts";
import { expectedBand } from "./expected-band.ts";
import { movingOver, stripOver, trendOver } from "./overlays.ts";
import { actualsAndForecasts, chartParts } from "./several.ts";
import { seriesMonths, timeSeries, type SeriesPoint, type TimeSeries } from "./time-series.ts";
import { listed } from "../../formats/listed.ts";
import { timeDescriptor, timeHeadline } from "./words.ts";
import {
  CHART_SERIES,
  type ChartSeries,
  type TimeChartChoice,
  type TimeChartDefinition,
  type TimeStrip,
  type ChartPart,
  type TimeChartAnswer,
} from "./schema.ts";
import type { Figure } from "../../figures/schema.ts";
import { type AheadSettings, horizonOf } from "../../ahead/schema.ts";

/** A KPI over time, looked ahead where that is asked for. */
export function computeTimeChart(
  definition: TimeChartDefinition,
  choice: TimeChartChoice,
  question: PanelQuestion,
): TimeChartAnswer {
  const settings = aheadSettings(definition, choice);
  const { chart, looked } = chartOver(definition, choice, question, settings);
  if (!settings || !looked) return chart;
  const { shown, all } = looked;
  const series = aheadSeries(all, chart.grain, settings);
  return lookAhead({ ...chart, points: chart.points.slice(0, shown) }, chart.points.slice(shown), series, settings);
}

/** The percentage of the expected range that is drawn; `null` where none is. */
function bandLevel({ range }: TimeChartDefinition, choice: TimeChartChoice): number | null {
  if (choice.range === "off") return null;
  return range ?? (choice.range === "on" ? USUAL_RANGE_LEVEL : null);
}

/** How a chart looks ahead; `null` where it does not. */
function aheadSettings({ ahead }: TimeChartDefinition, choice: TimeChartChoice): AheadSettings | null {
  const is = choice.ahead === undefined ? ahead !== undefined : choice.ahead === "on";
  if (!is) return null;
  const { horizon, without, level, season, method, way } = choice;
  const chosen = Object.entries({ horizon, without, level, season, method, way }).filter(
    ([, value]) => value !== undefined,
  );
  return { ...ahead, ...Object.fromEntries(chosen) };
}

/** The chart as it is known: its open periods from the latest forecast; with all periods that can be looked ahead to. */
function chartOver(
  definition: TimeChartDefinition,
  choice: TimeChartChoice,
  question: PanelQuestion,
  settings: AheadSettings | null,
): { chart: TimeChartAnswer; looked: { shown: number; all: readonly AheadOf[] } | null } {
  const { company, asked } = question;
  const kpi = requireKpi(company, choice.kpi ?? definition.kpi);
  const { calendar } = company;
  const { frame } = asked;
  const context = measureContext(question);
  const comparison = compareKpi(kpi, frame, context);
  const grain = choice.grain ?? definition.grain ?? "month";
  const { placed, periods, all, known, shownEnd } = shownPeriods(definition, kpi, grain, question, settings);
  const series = timeSeries(kpi, frame, comparison, context, periods);
  const shows = CHART_SERIES.filter((part) => !definition.hides?.includes(part));
  const closed = series.closedTo?.key;
  const lastClosed = series.points.findIndex(({ period }) => period.key === closed);
  const drawn = series.points.map(({ period }) => period);
  // Whoever existed in any of the periods that are drawn is in the whole, and so among its parts.
  const split = definition.split
    ? repetition(question, definition.split, null, [monthsBetween(drawn[0]?.from ?? 0, drawn.at(-1)?.to ?? -1)])
    : null;
  const { parts, stacking, notes } = chartParts(
    definition,
    kpi,
    choice.stacking ?? definition.stacking ?? "clustered",
    drawn,
    (i) => i > lastClosed,
    split,
    question,
  );
  const splitNoun = split?.level ?? null;
  const right = definition.right === undefined ? null : requireKpi(company, definition.right);
  const isAlone = parts.length === 0;
  const band = isAlone ? bandOver(kpi, bandLevel(definition, choice), grain, periods, question) : null;
  const strip = choice.strip ?? definition.strip ?? "delta";
  const references = (definition.references ?? []).filter(
    (line) => line.kind === "statistic" || isOwn(definition, kpi),
  );
  const isTitled = definition.title !== undefined && isOwn(definition, kpi);
  const chart: TimeChartAnswer = {
    kind: "time-chart",
    isTitled,
    frame: asked.answer,
    kpi: kpiHead(kpi),
    // A title of one's own speaks of the panel's own KPI.
    headline: (isTitled ? definition.title : undefined) ?? timeHeadline(kpi, comparison, question),
    descriptor: timeDescriptor(kpi, parts, {
      grain,
      months: rangeName(calendar, periods[0]!.from, periods[shownEnd - 1]!.to),
      scope: asked.answer.words.scope,
      basis: series.basisName,
      unit: asked.unit,
      split: splitNoun,
    }),
    basisName: series.basisName,
    actualName: series.actualName,
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
    parts,
    stacking,
    right: right && {
      kpi: kpiHead(right),
      figures: actualsAndForecasts(right, drawn, context),
    },
    moving:
      definition.moving && isAlone ? movingOver(kpi, definition.moving, all, periods.length, grain, context) : null,
    trend: definition.hasTrend && isAlone ? trendOver(kpi, series.points, grain, asked.unit) : null,
    strip:
      isAlone || definition.split
        ? stripOver(
            strip,
            kpi,
            series.points,
            { basisName: series.basisName, grain, lead: all.at(-periods.length - 1) },
            context,
          )
        : null,
    band: band && "points" in band ? band : null,
    pins: (definition.pins ?? []).filter(({ period }) => periods.some(({ key }) => key === period)),
    references: references.map((line) => placeReference(line, kpi, frame, context, choice.year)),
    notes: [
      ...notes,
      ...(band && "notFitted" in band ? [band.notFitted] : []),
      ...(isAlone ? cutNotes(series.points, definition, strip, grain) : []),
      ...(isAlone ? partlyThere(series.points.slice(0, shownEnd), shows, calendar, company.coverage) : []),
      ...notesOf(comparison, question),
    ],
    ahead: null,
  };
  const ofParts = placed ? partContexts(split, parts, question) : [];
  return {
    chart,
    looked: placed && {
      shown: known,
      all: [{ key: "", name: kpi.definition.name, kpi, context }, ...ofParts],
    },
  };
}

/** The periods of a chart, those before them that running figures begin in, and how far they are known and shown. */
function shownPeriods(
  definition: TimeChartDefinition,
  kpi: CompiledKpi,
  grain: Grain,
  question: PanelQuestion,
  settings: AheadSettings | null,
) {
  const { calendar } = question.company;
  const { frame } = question.asked;
  const within = { calendar, asOf: frame.asOf, months: seriesMonths(calendar, frame) };
  const placed = settings && historyOf(kpi, grain, measureContext(question), { measureOver });
  const usual = periodsOf(grain, { ...within, last: definition.last });
  const periods = placed ? aheadPeriods(placed, usual, definition.last) : usual;
  // What runs over periods in a row begins before the first that is shown.
  const earlier = periodsOf(grain, { ...within, last: periods.length + MOST_LEAD });
  const all = [...earlier.filter(({ from, window }) => isBefore({ from, window }, periods[0]!)), ...periods];
  // Of the periods that can be looked ahead to, as many as are asked for are shown.
  const known = placed ? periods.length - placed.later.length : periods.length;
  const shownEnd =
    placed && settings ? Math.max(known, known + horizonOf(settings, grain) - (settings.without ?? 0)) : known;
  return { placed, periods, all, known, shownEnd };
}

/** The expected range of the closed periods; `null` where none is wanted, and why where it cannot be had. */
function bandOver(
  kpi: CompiledKpi,
  level: ReturnType<typeof bandLevel>,
  grain: Grain,
  periods: readonly Period[],
  question: PanelQuestion,
) {
  if (level === null) return null;
  const { frame } = question.asked;
  if (frame.shown !== undefined)
    return { notFitted: "The expected range is for actuals and is not drawn for a forecast version." };
  const keys = periods.filter(({ to }) => to <= frame.asOf).map(({ key }) => key);
  return expectedBand(kpi, { grain, level, keys }, measureContext(question));
}

/** The periods shown with a forecast: enough of the history to judge it by, then all that can be looked ahead to. */
function aheadPeriods({ periods, later }: PlacedHistory, usual: readonly Period[], last: number | undefined): Period[] {
  const count = last ?? Math.max(24, usual.filter(({ from }) => from <= periods.at(-1)!.to).length);
  return [...periods.slice(-count), ...later];
}

/** Each part as it is forecast by itself. */
function partContexts(repeated: Repetition | null, parts: readonly ChartPart[], question: PanelQuestion): AheadOf[] {
  const context = measureContext(question);
  if (!repeated)
    return parts.map(({ key, name, kpi }) => ({ key, name, kpi: requireKpi(question.company, kpi.key), context }));
  const apart = parts.flatMap(({ member }) => (member ? [member.key] : []));
  return parts.map(({ key, name, kpi, member }) => {
    const own = repeated.members.find((one) => one.key === member?.key);
    const scope =
      own?.scope ??
      othersScope(
        repeated,
        question.asked.scope,
        [...repeated.members, ...repeated.beyond].filter((one) => !apart.includes(one.key)),
      );
    return { key, name, kpi: requireKpi(question.company, kpi.key), context: { ...context, scope } };
  });
}

/** The periods that are shown as far as they are there, where something beside them is made of whole ones only. */
function cutNotes(
  points: TimeSeries["points"],
  { hasTrend, moving }: TimeChartDefinition,
  strip: TimeStrip,
  grain: Grain,
): string[] {
  const without = [
    ...(hasTrend ? ["trend"] : []),
    ...(moving ? ["average"] : []),
    ...(strip === "growth" && grain !== "year" ? ["growth"] : []),
  ];
  if (without.length === 0) return [];
  return points.flatMap(({ period }) =>
    period.isPart ? [`${period.name}, is left out of ${listed(without)}: it is not a full ${grain}.`] : [],
  );
}

/** The plans that are there for some of the shown periods only, so that their end is not taken for a fall. */
function partlyThere(
  points: TimeSeries["points"],
  shows: readonly ChartSeries[],
  calendar: FiscalCalendar,
  { scenarios }: CoverageMap,
): string[] {
  return (["budget", "target"] as const).flatMap((plan) => {
    const there = points.map((point) => isPresent(point[plan]));
    const [first, last] = [there.indexOf(true), there.lastIndexOf(true)];
    // What is kept by quarter has gaps of its own, which the points say.
    const isRun = first >= 0 && there.slice(first, last + 1).every((is) => is);
    if (!shows.includes(plan) || !isRun || last - first + 1 === points.length) return [];
    const name = scenarios.get(plan)?.name ?? plan;
    return [`${name} is there for ${rangeName(calendar, points[first]!.period.from, points[last]!.period.to)} only.`];
  });
}

/** The most periods that a moving average, or growth, looks back. */
const MOST_LEAD = 12;

function isBefore(period: Pick<Period, "from" | "window">, first: Period): boolean {
  const dayOf = ({ window }: Pick<Period, "window">) => window.days?.from ?? 0;
  return period.from < first.from || (period.from === first.from && dayOf(period) < dayOf(first));
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
