import { scaleBand } from "d3";
import { writeNumber, type NumberStyle } from "#core/words/number-words.ts";
import type { WireFigure, WireVariance } from "#contract/figure.ts";
import type { SeriesPointAnswer, TimeChartAnswer } from "#core/panels/time-chart/compute.ts";
import type { Box, Place } from "../../charts/geometry.ts";
import { apart, insideOf, labelWidth, standingApart, thinnedLabels, type NamedLine } from "../../charts/labels.ts";
import { valueScale, varianceScale, type ValueScale } from "../../charts/value-scale.ts";

/** What a time chart is laid out from. Values are in the KPI's own unit. */
export interface TimeChartOptions {
  readonly points: readonly SeriesPointAnswer[];
  readonly width: number;
  readonly height: number;
  readonly marks: "columns" | "lines";
  readonly style: NumberStyle;
  readonly deltaStyle: NumberStyle;
  /** The last month with an actual ("2026-10"), after which the forecast goes on. */
  readonly closedTo: string | null;
  /** Lines to read the chart against. */
  readonly references: TimeChartAnswer["references"];
  readonly hasLabels: boolean;
  /** The same points of the part that is weighed; none where nothing is. */
  readonly part?: readonly SeriesPointAnswer[];
}

/** A figure beside its mark: the middle of its baseline. */
export interface PlacedLabel extends Place {
  readonly text: string;
}

/** One month's marks. */
export interface MonthMarks {
  readonly point: SeriesPointAnswer;
  /** The month's full column of space, for pointing at. */
  readonly band: Box;
  readonly centre: number;
  readonly priorYear: Box | null;
  readonly actual: Box | null;
  readonly forecast: Box | null;
  /** The part of the actual or of the forecast that is weighed. */
  readonly part: Box | null;
  readonly budget: { readonly x1: number; readonly x2: number; readonly y: number } | null;
  readonly target: { readonly x1: number; readonly x2: number; readonly y: number } | null;
  readonly variance: {
    readonly box: Box;
    readonly label: PlacedLabel | null;
    readonly judgement: WireVariance["judgement"];
    readonly isForecast: boolean;
  } | null;
  readonly label: PlacedLabel | null;
}

/** A chart ready to draw: every place is decided. */
export interface TimeChartLayout {
  readonly months: readonly MonthMarks[];
  readonly lines: {
    readonly actual: readonly (Place | null)[];
    readonly forecast: readonly (Place | null)[];
    readonly priorYear: readonly (Place | null)[];
    readonly part: readonly (Place | null)[];
  };
  readonly scale: ValueScale;
  readonly varianceZero: number;
  readonly closedX: number | null;
  readonly spanX: readonly [number, number] | null;
  readonly monthY: number;
  readonly references: readonly NamedLine[];
  readonly plot: Box;
}

const MARGIN = { top: 20, right: 6, left: 46 };
const MONTH_AXIS = 34;
/** The room that a label takes above or below its bar. */
const LABEL_ROOM = 13;

/** Lays out columns or lines with the variance below on the same months. Pure: the same options give the same marks. */
export function layoutTimeChart(options: TimeChartOptions): TimeChartLayout {
  const { points, width, height, marks, style, closedTo, part: parts = [] } = options;
  const varianceHeight = Math.max(56, Math.round(height * 0.24));
  const plot: Box = {
    x: MARGIN.left,
    y: MARGIN.top,
    width: width - MARGIN.left - MARGIN.right,
    height: height - MARGIN.top - MONTH_AXIS - varianceHeight,
  };
  const x = scaleBand<string>(
    points.map((p) => p.period),
    [plot.x, plot.x + plot.width],
  )
    .paddingInner(0.16)
    .paddingOuter(0.08);
  const step = x.step();
  const band = x.bandwidth();

  const lines = options.references.flatMap(({ name, figure }) =>
    valueOf(figure).map((value) => ({ name: `${name}: ${writeNumber(value, style)}`, value })),
  );
  const values = [
    ...points.flatMap((p) => [p.actual, p.forecast, p.budget, p.target, p.priorYear].flatMap(valueOf)),
    ...lines.map((line) => line.value),
    ...parts.flatMap((p) => valueOf(p.actual)),
  ];
  const scale = valueScale(values, { bottom: plot.y + plot.height, top: plot.y, marks, style });
  const { at: y, baseline: zero } = scale;
  const deltas = points.flatMap((p) => valueOf(p.variance.delta));
  const strip = { top: plot.y + plot.height + MONTH_AXIS, height: varianceHeight, room: LABEL_ROOM };
  const dy = varianceScale(deltas, strip);

  const shownOf = (point: SeriesPointAnswer) => valueOf(point.actual)[0] ?? valueOf(point.forecast)[0];
  const none: ReadonlySet<number> = new Set();
  const labelled = options.hasLabels
    ? thinnedLabels(points.map(shownOf), (value) => writeNumber(value, style), step)
    : none;
  const labelledDeltas = options.hasLabels
    ? thinnedLabels(
        points.map((p) => valueOf(p.variance.delta)[0]),
        (delta) => signed(delta, options.deltaStyle),
        step,
      )
    : none;
  const label = (text: string, centre: number, at: number): PlacedLabel => ({
    text,
    x: insideOf(plot, centre, labelWidth(text)),
    y: at,
  });
  const laid = points.map((point, i): MonthMarks => {
    const left = x(point.period)!;
    const centre = left + band / 2;
    const barCentre = left + band * 0.59;
    const column = (figure: WireFigure, from: number, share: number): Box | null => {
      const value = valueOf(figure)[0];
      if (value === undefined) return null;
      const top = y(value);
      return { x: left + band * from, y: Math.min(top, zero), width: band * share, height: Math.abs(zero - top) };
    };
    const across = (figure: WireFigure) =>
      valueOf(figure).map((value) => ({ x1: left, x2: left + band, y: y(value) }))[0] ?? null;
    const shown = shownOf(point);
    const delta = valueOf(point.variance.delta)[0];
    const tallest = Math.min(...[point.actual, point.forecast].flatMap(valueOf).map((v) => y(v)));
    return {
      point,
      band: { x: left - (step - band) / 2, y: 0, width: step, height },
      centre,
      priorYear: column(point.priorYear, 0, 0.34),
      actual: column(point.actual, 0.18, 0.82),
      forecast: column(point.forecast, 0.18, 0.82),
      part: parts[i] ? (column(parts[i].actual, 0.18, 0.82) ?? column(parts[i].forecast, 0.18, 0.82)) : null,
      budget: across(point.budget),
      target: across(point.target),
      label:
        labelled.has(i) && shown !== undefined
          ? label(writeNumber(shown, style), marks === "columns" ? barCentre : centre, tallest - 5)
          : null,
      variance:
        delta === undefined
          ? null
          : {
              box: {
                x: left + band * 0.18,
                y: Math.min(dy(delta), dy(0)),
                width: band * 0.82,
                height: Math.max(Math.abs(dy(delta) - dy(0)), 0.75),
              },
              label: labelledDeltas.has(i)
                ? label(signed(delta, options.deltaStyle), barCentre, delta >= 0 ? dy(delta) - 4 : dy(delta) + 11)
                : null,
              judgement: point.variance.judgement,
              isForecast: point.varianceOf === "forecast",
            },
    };
  });

  const figures = standingApart(laid.map((month) => month.label));
  const deltaLabels = standingApart(laid.map(({ variance }) => variance?.label ?? null));
  const months = laid.map((month, i): MonthMarks => ({
    ...month,
    label: figures[i]!,
    variance: month.variance && { ...month.variance, label: deltaLabels[i]! },
  }));
  const placeOf = (figure: WireFigure, i: number): Place | null => {
    const value = valueOf(figure)[0];
    return value === undefined ? null : { x: months[i]!.centre, y: y(value) };
  };
  const closedIndex = points.findIndex((p) => p.period === closedTo);
  const inSpan = months.filter((m) => m.point.inSpan);
  return {
    months,
    lines: {
      actual: points.map((p, i) => placeOf(p.actual, i)),
      // The forecast's line hangs on the last actual, so that it goes on where actuals end.
      forecast: points.map((p, i) => placeOf(i === closedIndex ? p.actual : p.forecast, i)),
      priorYear: points.map((p, i) => placeOf(p.priorYear, i)),
      part: parts.map((p, i) => placeOf(p.actual, i)),
    },
    scale,
    varianceZero: dy(0),
    closedX: closedIndex >= 0 && closedIndex < points.length - 1 ? months[closedIndex]!.band.x + step : null,
    spanX: inSpan.length > 0 ? [x(inSpan[0]!.point.period)!, x(inSpan.at(-1)!.point.period)! + band] : null,
    monthY: plot.y + plot.height + 14,
    references: apart(lines.map(({ name, value }) => ({ name, y: y(value) }))),
    plot,
  };
}

function signed(value: number, style: NumberStyle): string {
  const text = writeNumber(value, style);
  return value > 0 && !/^[0.,]*$/.test(text) ? `+${text}` : text;
}

function valueOf(figure: WireFigure): number[] {
  return "value" in figure ? [figure.value] : [];
}
