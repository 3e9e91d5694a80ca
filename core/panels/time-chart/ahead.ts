import type { KpiHistory } from "../../ahead/kpi-history.ts";
import { AS_ITSELF } from "../../ahead/ways.ts";
import { USUAL_SEASON } from "../../ahead/settings.ts";
import { varianceOf } from "../../compare/variance.ts";
import { absent, combine, present } from "../../figures/figure.ts";
import { GRAIN_NAMES } from "../../series/grain.ts";
import { valueStyle, writePercent, writeWithUnit } from "../../formats/number-words.ts";
import { listed } from "../../formats/listed.ts";
import { isAdditive } from "../parts/part-of.ts";
import type { AheadSeries, SumOfParts, AheadAnswer, AheadOffer } from "./answer.ts";
import type { SeriesPointAnswer, TimeChartAnswer } from "./schema.ts";
import type { Figure } from "../../figures/schema.ts";
import type { KpiHead } from "../parts/schema.ts";
import { type AheadSettings, horizonOf } from "../../ahead/schema.ts";

/** What its models warn of, each once: what somebody who posts it has to know. */
export function aheadWarnings({ series }: Pick<AheadAnswer, "series">): string[] {
  const all = series.flatMap(({ forecast }) =>
    "notFitted" in forecast ? [] : forecast.made.flatMap((own) => own.forecast.notes.warnings),
  );
  return [...new Set(all)];
}

/**
 * A chart with its open periods as its series are forecast: as many as are looked ahead, each with its variance. The
 * chart's points and those beyond them are what can be shown; a chart that is looked ahead already is looked ahead anew.
 */
export function lookAhead(
  chart: TimeChartAnswer,
  beyond: readonly SeriesPointAnswer[],
  series: readonly AheadSeries[],
  settings: AheadSettings,
): TimeChartAnswer {
  const all = [...chart.points, ...beyond];
  const whole = series.find(({ key }) => key === "");
  const lastKey = whole?.history.keys.at(-1);
  const last = all.findIndex(({ period }) => period === lastKey);
  if (!whole || last < 0) return chart;
  const { grain, kpi } = chart;
  const horizon = horizonOf(settings, grain);
  const from = last + 1 - (settings.without ?? 0);
  const end = Math.max(last + 1, from + horizon);
  const points = all.slice(0, end).map((point, i): SeriesPointAnswer => {
    const forecast = pointAt(whole, i - from);
    if (i <= last) return { ...point, forecast };
    const delta = combine(forecast, point.basis, (of, basis) => present(of - basis));
    return { ...point, forecast, variance: varianceOf(delta, point.basis, kpi), varianceOf: "forecast" };
  });
  const isFitted = "points" in whole.forecast;
  return {
    ...chart,
    headline: chart.isTitled ? chart.headline : (aheadHeadline(whole, points, from, chart) ?? chart.headline),
    points,
    forecastName: isFitted ? "Forecast by model" : null,
    closedTo: lastKey ?? null,
    parts: chart.parts.map((part) => {
      const own = series.find(({ key }) => key === part.key);
      return {
        ...part,
        figures: Array.from({ length: end }, (_, i) =>
          i <= last ? (part.figures[i] ?? NOT_THERE) : own ? pointAt(own, i - from) : NOT_THERE,
        ),
      };
    }),
    right: chart.right && { ...chart.right, figures: toLength(chart.right.figures, end) },
    moving: chart.moving && { ...chart.moving, figures: toLength(chart.moving.figures, end) },
    strip: chart.strip && {
      ...chart.strip,
      points: points.map(({ variance: { delta, deltaPercent, judgement } }, i) =>
        chart.strip!.kind.startsWith("growth")
          ? (chart.strip!.points[i] ?? { figure: NOT_THERE, judgement: null })
          : { figure: chart.strip!.isPercent ? deltaPercent : delta, judgement },
      ),
    },
    ahead: {
      settings,
      from,
      series,
      sum: chart.parts.length > 0 ? sumOfParts(kpi, whole, series, chart) : null,
      ...faceOf(whole, chart),
      beyond: all.slice(end),
    },
  };
}

/** What is expected over all periods ahead, beside the same a year before; of what does not add up, at their end. */
function aheadHeadline(
  { forecast, history }: AheadSeries,
  points: readonly SeriesPointAnswer[],
  from: number,
  { kpi, frame, grain }: TimeChartAnswer,
): string | null {
  if (!("points" in forecast)) return null;
  const ahead = forecast.points.slice(0, points.length - from);
  const [first, last] = [points[from], points.at(-1)];
  if (!first || !last || !ahead.every((value) => value !== null)) return null;
  const style = valueStyle(kpi.unit, kpi.decimals, frame.unit);
  if (!isAdditive(kpi.unit) || !history.isFlow)
    return `${kpi.name}: ${writeWithUnit(ahead.at(-1)!, style)} expected for ${last.name}.`;
  const total = ahead.reduce((sum, value) => sum + value, 0);
  const of = kpi.unit.kind === "count" ? ` ${kpi.unit.of}` : "";
  const over = first === last ? first.name : `${first.name} to ${last.name}`;
  const before = yearBefore(history, first.period, ahead.length, grain);
  const change = before === null || before === 0 ? null : total / Math.abs(before) - Math.sign(before);
  const beside =
    change === null ? "" : `, ${writePercent(Math.abs(change))} ${change < 0 ? "less" : "more"} than a year before`;
  return `${kpi.name}: ${writeWithUnit(total, style)}${of} expected for ${over}${beside}.`;
}

/** What the same periods were a year before; `null` where the history does not have all of them. */
function yearBefore(
  { keys, values }: KpiHistory,
  first: string,
  count: number,
  grain: TimeChartAnswer["grain"],
): number | null {
  // The 53 weeks of some years, and the days of leap years, are no year before.
  if (grain === "day" || grain === "week") return null;
  const known = keys.indexOf(first);
  const start = (known < 0 ? keys.length : known) - USUAL_SEASON[grain];
  const own = start < 0 ? [] : values.slice(start, start + count);
  return own.length === count && own.every((value) => value !== null)
    ? own.reduce((sum, value) => sum + value, 0)
    : null;
}

const NOT_THERE = absent("not covered", "This period is past the forecast horizon.");

function toLength(figures: readonly Figure[], length: number): Figure[] {
  return Array.from({ length }, (_, i) => figures[i] ?? NOT_THERE);
}

function pointAt({ forecast }: AheadSeries, step: number): Figure {
  if (!("points" in forecast)) return absent("not covered", forecast.notFitted);
  const value = forecast.points[step];
  return value === undefined || value === null
    ? absent(
        "not covered",
        step < 0 ? "The period is part of the history." : "This period is past the forecast horizon.",
      )
    : present(value);
}

/** What parts that add up amount to, and how far that is from the whole's own model. */
function sumOfParts(
  kpi: KpiHead,
  whole: AheadSeries,
  series: readonly AheadSeries[],
  { parts, frame, grain }: TimeChartAnswer,
): SumOfParts | null {
  const own = parts.map(({ key }) => series.find((one) => one.key === key));
  const isSplit = parts.every(({ dimension }) => dimension !== null);
  const forecasts = own.map((one) => (one && "points" in one.forecast ? one.forecast.points : null));
  if (!isSplit || !isAdditive(kpi.unit) || !("points" in whole.forecast)) return null;
  if (!forecasts.every((points) => points !== null)) return null;
  const points = whole.forecast.points.map((_, i) => forecasts.reduce((sum, one) => sum + (one[i] ?? 0), 0));
  // What stands at the end of each period is what it is at the last one.
  const { isFlow } = whole.history;
  const [added, ofWhole] = [points, whole.forecast.points].map((one) =>
    isFlow ? one.reduce<number>((sum, value) => sum + (value ?? 0), 0) : (one.at(-1) ?? 0),
  ) as [number, number];
  const over = isFlow
    ? `over ${points.length} ${GRAIN_NAMES[grain]}s`
    : `at the end of ${points.length} ${GRAIN_NAMES[grain]}s`;
  const style = valueStyle(kpi.unit, kpi.decimals, frame.unit);
  const difference = added - ofWhole;
  const share = ofWhole === 0 ? "" : ` (${writePercent(Math.abs(difference / ofWhole))})`;
  return {
    points,
    words: `The models of ${parts.length > 4 ? `the ${parts.length} parts` : listed(parts.map(({ name }) => name))} add up to ${writeWithUnit(added, style)} ${over}; the model of the whole says ${writeWithUnit(ofWhole, style)}: they are ${writeWithUnit(Math.abs(difference), style)}${share} ${difference < 0 ? "below" : "above"} it.`,
  };
}

/** What a forecast says of itself without being asked: its model, and how near it was beside the simplest one. */
function faceOf(
  { forecast, judged }: AheadSeries,
  { grain }: TimeChartAnswer,
): { words: string; offer: AheadOffer | null } {
  if (!("points" in forecast)) return { words: `There is no forecast: ${forecast.notFitted}`, offer: null };
  const backtest = forecast.isByInputs ? judged : forecast.made[0]?.forecast.notes.backtest;
  const rows = backtest?.rows ?? [];
  const [own] = rows;
  const naive = rows.find(({ name }) => name === "Seasonal naive") ?? rows.find(({ name }) => name === "Naive");
  if (!backtest || !own || !naive || own.mae === null || naive.mae === null || own === naive || naive.mae === 0)
    return { words: `${forecast.model}. The history is too short to test it.`, offer: null };
  const isSeasonal = naive.name === "Seasonal naive";
  const beside = isSeasonal ? "the season before" : `the ${GRAIN_NAMES[grain]} before`;
  const tests = `in ${backtest.origins} backtest${backtest.origins === 1 ? "" : "s"}`;
  const by = 1 - own.mae / naive.mae;
  const words =
    by > 0
      ? `${forecast.model}: ${writePercent(by)} more accurate than repeating ${beside}, ${tests}.`
      : `${forecast.model}: no more accurate than repeating ${beside}, ${tests}.`;
  const itself = forecast.isByInputs ? rows.find(({ name }) => name === AS_ITSELF) : undefined;
  if (itself && itself.mae !== null && itself.mae < OFFERED_BELOW * Math.min(own.mae, naive.mae))
    return { words, offer: { name: "Forecast the series itself", settings: { way: "itself" } } };
  if (by > 0) return { words, offer: null };
  const method = isSeasonal ? "seasonal-naive" : "naive";
  return { words, offer: { name: "Repeat the season before", settings: { method, way: "itself" } } };
}

/** Another way is offered where its error was less than this share of its own. */
const OFFERED_BELOW = 0.95;
