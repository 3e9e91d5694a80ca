import { extent, scaleBand, scaleLinear } from "d3";
import { writeNumber, type NumberStyle } from "#core/words/number-words.ts";
import type { WireFigure, WireVariance } from "#contract/figure.ts";
import type { SeriesPointAnswer, TimeChartAnswer } from "#core/panels/time-chart/compute.ts";

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
}

export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}
export interface Place {
  readonly x: number;
  readonly y: number;
}
export interface Tick {
  readonly y: number;
  readonly label: string;
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
  readonly budget: { readonly x1: number; readonly x2: number; readonly y: number } | null;
  readonly target: { readonly x1: number; readonly x2: number; readonly y: number } | null;
  readonly variance: {
    readonly box: Box;
    readonly label: string | null;
    readonly labelY: number;
    readonly judgement: WireVariance["judgement"];
    readonly isForecast: boolean;
  } | null;
  readonly label: { readonly text: string; readonly y: number } | null;
}

/** A chart ready to draw: every place is decided. */
export interface TimeChartLayout {
  readonly months: readonly MonthMarks[];
  readonly lines: {
    readonly actual: readonly (Place | null)[];
    readonly forecast: readonly (Place | null)[];
    readonly priorYear: readonly (Place | null)[];
  };
  readonly baseline: number;
  /** Whether the value axis does not start at zero and must be drawn torn. */
  readonly isShortened: boolean;
  readonly ticks: readonly Tick[];
  readonly varianceZero: number;
  readonly closedX: number | null;
  readonly spanX: readonly [number, number] | null;
  readonly monthY: number;
  readonly references: readonly {
    readonly name: string;
    readonly y: number;
    readonly labelY: number;
    readonly labelWidth: number;
  }[];
  readonly plot: Box;
}

const MARGIN = { top: 20, right: 6, left: 46 };
const MONTH_AXIS = 34;
const LABEL_WIDTH = 6.1;

/** Lays out columns or lines with the variance below on the same months. Pure: the same options give the same marks. */
export function layoutTimeChart(options: TimeChartOptions): TimeChartLayout {
  const { points, width, height, marks, style, closedTo } = options;
  const varianceHeight = Math.max(56, Math.round(height * 0.24));
  const plot: Box = {
    x: MARGIN.left,
    y: MARGIN.top,
    width: width - MARGIN.left - MARGIN.right,
    height: height - MARGIN.top - MONTH_AXIS - varianceHeight,
  };
  const x = scaleBand<string>(
    points.map((p) => p.month),
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
  ];
  const { domain, isShortened } = valueDomain(values, marks);
  const y = scaleLinear(domain, [plot.y + plot.height, plot.y]);
  if (!isShortened) y.nice(4);
  const zero = y(Math.max(y.domain()[0]!, Math.min(0, y.domain()[1]!)));

  const deltas = points.flatMap((p) => valueOf(p.variance.delta));
  const largest = Math.max(...deltas.map(Math.abs), 0) || 1;
  const stripTop = plot.y + plot.height + MONTH_AXIS;
  const hasUp = deltas.some((d) => d > 0);
  const hasDown = deltas.some((d) => d < 0);
  const room = 13;
  const up = hasUp || !hasDown ? largest : largest * 0.12;
  const down = hasDown || !hasUp ? largest : largest * 0.12;
  const dy = scaleLinear([-down, up], [stripTop + varianceHeight - room, stripTop + room]);

  const none = new Set<number>();
  const labelled = options.hasLabels ? labelledMonths(points, style, step) : none;
  const labelledDeltas = options.hasLabels ? labelledVariances(points, options.deltaStyle, step) : none;
  const months = points.map((point, i): MonthMarks => {
    const left = x(point.month)!;
    const centre = left + band / 2;
    const column = (figure: WireFigure, from: number, share: number): Box | null => {
      const value = valueOf(figure)[0];
      if (value === undefined) return null;
      const top = y(value);
      return { x: left + band * from, y: Math.min(top, zero), width: band * share, height: Math.abs(zero - top) };
    };
    const across = (figure: WireFigure) =>
      valueOf(figure).map((value) => ({ x1: left, x2: left + band, y: y(value) }))[0] ?? null;
    const shown = valueOf(point.actual)[0] ?? valueOf(point.forecast)[0];
    const delta = valueOf(point.variance.delta)[0];
    const tallest = Math.min(...[point.actual, point.forecast].flatMap(valueOf).map((v) => y(v)));
    return {
      point,
      band: { x: left - (step - band) / 2, y: 0, width: step, height },
      centre,
      priorYear: column(point.priorYear, 0, 0.34),
      actual: column(point.actual, 0.18, 0.82),
      forecast: column(point.forecast, 0.18, 0.82),
      budget: across(point.budget),
      target: across(point.target),
      label: labelled.has(i) && shown !== undefined ? { text: writeNumber(shown, style), y: tallest - 5 } : null,
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
              label: labelledDeltas.has(i) ? signed(delta, options.deltaStyle) : null,
              labelY: delta >= 0 ? dy(delta) - 4 : dy(delta) + 11,
              judgement: point.variance.judgement,
              isForecast: point.varianceOf === "forecast",
            },
    };
  });

  const placeOf = (figure: WireFigure, i: number): Place | null => {
    const value = valueOf(figure)[0];
    return value === undefined ? null : { x: months[i]!.centre, y: y(value) };
  };
  const closedIndex = points.findIndex((p) => p.month === closedTo);
  const inSpan = months.filter((m) => m.point.inSpan);
  return {
    months,
    lines: {
      actual: points.map((p, i) => placeOf(p.actual, i)),
      // The forecast's line hangs on the last actual, so that it goes on where actuals end.
      forecast: points.map((p, i) => placeOf(i === closedIndex ? p.actual : p.forecast, i)),
      priorYear: points.map((p, i) => placeOf(p.priorYear, i)),
    },
    baseline: zero,
    isShortened,
    ticks: y.ticks(4).map((value) => ({ y: y(value), label: writeNumber(value, tickStyle(style, y.ticks(4))) })),
    varianceZero: dy(0),
    closedX: closedIndex >= 0 && closedIndex < points.length - 1 ? months[closedIndex]!.band.x + step : null,
    spanX: inSpan.length > 0 ? [x(inSpan[0]!.point.month)!, x(inSpan.at(-1)!.point.month)! + band] : null,
    monthY: plot.y + plot.height + 14,
    references: apart(lines.map(({ name, value }) => ({ name, y: y(value) }))),
    plot,
  };
}

const LABEL_HEIGHT = 12;

/** Labels of lines stand above them; where lines lie close, the lower one's goes below. */
function apart(lines: readonly { name: string; y: number }[]): TimeChartLayout["references"] {
  let last = -Infinity;
  return [...lines]
    .sort((a, b) => a.y - b.y)
    .map(({ name, y }) => {
      const labelY = Math.max(y - 3, last + LABEL_HEIGHT);
      last = labelY;
      return { name, y, labelY, labelWidth: name.length * LABEL_WIDTH * 0.86 + 6 };
    });
}

/** Columns start at zero, always. Lines may use a shortened axis where zero would flatten them. */
export function valueDomain(
  values: readonly number[],
  marks: "columns" | "lines",
): { domain: [number, number]; isShortened: boolean } {
  const [low = 0, high = 1] = extent(values) as [number | undefined, number | undefined];
  if (marks === "columns" || low <= 0 || low / high < 0.35)
    return { domain: [Math.min(0, low), Math.max(0, high) || 1], isShortened: false };
  const space = (high - low || Math.abs(high) * 0.1) * 0.15;
  return { domain: [low - space, high + space], isShortened: true };
}

/** Labels every month when they fit beside each other; otherwise the highest, the lowest and the last. */
function labelledMonths(points: readonly SeriesPointAnswer[], style: NumberStyle, step: number): Set<number> {
  const values = points.map((p) => valueOf(p.actual)[0] ?? valueOf(p.forecast)[0]);
  return thinned(
    values,
    values.map((v) => (v === undefined ? "" : writeNumber(v, style))),
    step,
  );
}

function labelledVariances(points: readonly SeriesPointAnswer[], style: NumberStyle, step: number): Set<number> {
  const values = points.map((p) => valueOf(p.variance.delta)[0]);
  return thinned(
    values,
    values.map((v) => (v === undefined ? "" : signed(v, style))),
    step,
  );
}

function thinned(values: readonly (number | undefined)[], texts: readonly string[], step: number): Set<number> {
  const fits = texts.every((text) => text.length * LABEL_WIDTH <= step + 1);
  const all = values.flatMap((v, i) => (v === undefined ? [] : [i]));
  if (fits) return new Set(all);
  const reach = Math.ceil((Math.max(...texts.map((t) => t.length)) * LABEL_WIDTH) / step);
  const ordered = [...all].sort((a, b) => Math.abs(values[b]!) - Math.abs(values[a]!));
  const last = all.at(-1);
  const wanted = [...(last === undefined ? [] : [last]), ordered[0], ordered.at(-1), ...ordered];
  const kept: number[] = [];
  for (const i of wanted) if (i !== undefined && kept.every((k) => Math.abs(k - i) >= reach)) kept.push(i);
  return new Set(kept);
}

function signed(value: number, style: NumberStyle): string {
  const text = writeNumber(value, style);
  return value > 0 && !/^[0.,]*$/.test(text) ? `+${text}` : text;
}

/** As many decimals as the ticks differ by, and no more. */
function tickStyle(style: NumberStyle, ticks: readonly number[]): NumberStyle {
  const gap = Math.abs(((ticks[1] ?? 1) - (ticks[0] ?? 0)) * style.factor);
  return { ...style, decimals: gap >= 1 || gap === 0 ? 0 : Math.min(4, Math.ceil(-Math.log10(gap))) };
}

function valueOf(figure: WireFigure): number[] {
  return "value" in figure ? [figure.value] : [];
}
