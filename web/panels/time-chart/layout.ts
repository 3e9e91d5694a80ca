import { scaleBand } from "d3-scale";
import type { Stacking } from "#core/panels/parts/stacking.ts";
import { valueStyle, writeNumber, writeSignedPercent, type NumberStyle } from "#core/formats/number-words.ts";
import type { Figure, Variance } from "#core/figures/schema.ts";
import type { Box, Place } from "../../chart-kit/geometry.ts";
import { apart, insideOf, labelWidth, standingApart, thinnedLabels, type NamedLine } from "../../chart-kit/labels.ts";
import { fanValues, layoutFans, type FanLayout } from "./layout-fans.ts";
import { layoutSeries, seriesExtent, type SeriesLayout } from "./layout-series.ts";
import { valueScale, varianceScale, type ValueScale } from "../../chart-kit/value-scale.ts";
import type { TimeMarks, SeriesPointAnswer, TimeChartAnswer } from "#core/panels/time-chart/schema.ts";

/** What a time chart is laid out from. Values are in the KPI's own unit. */
export interface TimeChartOptions {
  readonly points: readonly SeriesPointAnswer[];
  readonly width: number;
  readonly height: number;
  readonly marks: TimeMarks;
  readonly style: NumberStyle;
  readonly deltaStyle: NumberStyle;
  /** The last month with an actual ("2026-10"), after which the forecast goes on. */
  readonly closedTo: string | null;
  /** Lines to read the chart against. */
  readonly references: TimeChartAnswer["references"];
  readonly hasLabels: boolean;
  /** Several series in the place of one; none where there is one alone. */
  readonly parts?: TimeChartAnswer["parts"];
  readonly stacking?: Stacking;
  /** A line on an axis of its own, with how its values are written. */
  readonly right?: { readonly figures: readonly Figure[]; readonly style: NumberStyle } | null;
  readonly moving?: TimeChartAnswer["moving"];
  readonly trend?: TimeChartAnswer["trend"];
  /** What stands below; the variances of the points where nothing is said. */
  readonly strip?: TimeChartAnswer["strip"];
  readonly pins?: TimeChartAnswer["pins"];
  /** What the axis must show besides, so that charts can be compared. */
  readonly extent?: readonly number[] | undefined;
  /** The same points of the part that is weighed; none where nothing is. */
  readonly weighed?: readonly SeriesPointAnswer[];
  readonly ahead?: TimeChartAnswer["ahead"];
  /** What was expected of the periods that came. */
  readonly expected?: TimeChartAnswer["band"];
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
    readonly judgement: Variance["judgement"];
    readonly isForecast: boolean;
  } | null;
  readonly label: PlacedLabel | null;
}

/** What was expected at a period; what came lies outside of it at `seen`. */
export interface ExpectedMark {
  readonly x: number;
  readonly middle: number;
  readonly top: number;
  readonly bottom: number;
  readonly seen: Place | null;
}

/** A chart ready to draw: every place is decided. */
export interface TimeChartLayout {
  readonly months: readonly MonthMarks[];
  readonly lines: {
    readonly actual: readonly (Place | null)[];
    readonly forecast: readonly (Place | null)[];
    readonly priorYear: readonly (Place | null)[];
    readonly part: readonly (Place | null)[];
    readonly moving: readonly (Place | null)[];
    readonly right: readonly (Place | null)[];
  };
  readonly series: SeriesLayout;
  readonly fans: readonly FanLayout[];
  /** The expected range at each period, `null` where nothing was expected. */
  readonly expected: readonly (ExpectedMark | null)[];
  readonly rightScale: ValueScale | null;
  readonly trend: { readonly x1: number; readonly y1: number; readonly x2: number; readonly y2: number } | null;
  /** Notes by their number, at their periods. */
  readonly pins: readonly { readonly number: number; readonly x: number; readonly text: string }[];
  readonly hasStrip: boolean;
  readonly scale: ValueScale;
  readonly varianceZero: number;
  readonly closedX: number | null;
  readonly spanX: readonly [number, number] | null;
  readonly monthY: number;
  readonly references: readonly NamedLine[];
  readonly plot: Box;
}

const MARGIN = { top: 20, right: 6, left: 46, rightAxis: 46 };
const PINS = 14;
/** Above the figures of the highest marks, where it is said to where periods are closed. */
const CLOSED = 10;
const MONTH_AXIS = 34;
/** The room that a label takes above or below its bar. */
const LABEL_ROOM = 13;

/** What a figure of the small type reaches above and below its baseline, with a little air. */
const LABEL_REACH = { above: 11, below: 4 };

/** The baseline of a label, above whichever of the level marks would cross it. */
export function clearOf(marks: readonly number[], baseline: number): number {
  const crossing = marks.filter((y) => y > baseline - LABEL_REACH.above && y < baseline + LABEL_REACH.below);
  return crossing.length === 0 ? baseline : clearOf(marks, Math.min(...crossing) - LABEL_REACH.below - 0.5);
}

/** All values that the axis of a chart shows; shares fill it by themselves. */
export function chartValues({
  points,
  references,
  weighed = [],
  parts = [],
  moving,
  trend,
  ahead,
  expected,
  ...options
}: Pick<
  TimeChartOptions,
  "points" | "references" | "weighed" | "parts" | "moving" | "trend" | "marks" | "stacking" | "ahead" | "expected"
>): number[] {
  const stacking = options.marks === "lines" ? "clustered" : (options.stacking ?? "clustered");
  if (parts.length > 0 && stacking === "share") return [0, 1];
  const isAlone = parts.length === 0;
  return [
    ...(isAlone
      ? points.flatMap((p) => [p.actual, p.forecast, p.budget, p.target, p.priorYear].flatMap(valueOf))
      : seriesExtent(parts, stacking)),
    ...references.flatMap(({ figure }) => valueOf(figure)),
    ...(isAlone ? weighed.flatMap((p) => valueOf(p.actual)) : []),
    ...(moving?.figures ?? []).flatMap(valueOf),
    ...(trend ? [trend.from.value, trend.to.value] : []),
    ...(expected?.points ?? []).flatMap((point) => (point ? [point.lower, point.upper] : [])),
    ...fanValues(ahead, parts, stacking, options.marks),
  ];
}

/** Lays out columns or lines with the variance below on the same months. Pure: the same options give the same marks. */
export function layoutTimeChart(options: TimeChartOptions): TimeChartLayout {
  const { points, style, parts = [], weighed = [], right = null, moving = null, trend = null } = options;
  const room = roomOf(options);
  const { marks, stacking, plot, x, step, band, closedIndex } = room;
  const scales = scalesOf(options, room);
  const { y, rightScale } = scales;
  const placing = { options, room, scales, strip: stripOf(options), labelled: labelledPeriods(options, room) };
  const months = standApart(points.map((point, i) => layoutMonth(point, i, placing)));
  const placeOf = (figure: Figure, i: number): Place | null => {
    const value = valueOf(figure)[0];
    return value === undefined ? null : { x: months[i]!.centre, y: y(value) };
  };
  const centres = months.map((month) =>
    marks === "columns" ? columnCentre(x(month.point.period)!, band) : month.centre,
  );
  const firstForecast = options.ahead?.from ?? closedIndex + 1;
  const inSpan = months.filter((m) => m.point.inSpan);
  return {
    months,
    lines: {
      actual: points.map((p, i) => placeOf(p.actual, i)),
      // The forecast's line hangs on the last actual, so that it goes on where actuals end.
      forecast: points.map((p, i) =>
        placeOf(i === firstForecast - 1 ? (points[i]?.actual ?? p.forecast) : p.forecast, i),
      ),
      priorYear: points.map((p, i) => placeOf(p.priorYear, i)),
      part: weighed.map((p, i) => placeOf(p.actual, i)),
      moving: (moving?.figures ?? []).map(placeOf),
      right: (right?.figures ?? []).map((figure, i) => {
        const value = valueOf(figure)[0];
        return value === undefined || !rightScale ? null : { x: months[i]!.centre, y: rightScale.at(value) };
      }),
    },
    series: layoutSeries(
      parts,
      stacking,
      points.map((point) => ({ left: x(point.period)!, width: band })),
      y,
    ),
    fans: layoutFans(options.ahead ?? null, parts, stacking, options.marks, {
      centres,
      width: band * (parts.length > 0 ? 0.5 : 0.3),
      y,
    }),
    expected: expectedMarks(options, centres, y),
    rightScale,
    trend: trend && {
      x1: months[trend.from.place]!.centre,
      y1: y(trend.from.value),
      x2: months[trend.to.place]!.centre,
      y2: y(trend.to.value),
    },
    pins: (options.pins ?? []).flatMap(({ period, text }, i) => {
      const place = points.findIndex((point) => point.period === period);
      return place < 0 ? [] : [{ number: i + 1, x: months[place]!.centre, text }];
    }),
    hasStrip: room.hasStrip,
    scale: scales.scale,
    varianceZero: scales.dy(0),
    closedX: room.isClosedShown ? months[closedIndex]!.band.x + step : null,
    spanX: inSpan.length > 0 ? [x(inSpan[0]!.point.period)!, x(inSpan.at(-1)!.point.period)! + band] : null,
    monthY: plot.y + plot.height + 14,
    references:
      stacking === "share" ? [] : apart(referencesOf(options, style).map(({ name, value }) => ({ name, y: y(value) }))),
    plot,
  };
}

/** What the chart has to stand in: its plot, the periods across it, and the strip below. */
function roomOf(options: TimeChartOptions) {
  const { points, width, height, closedTo, right = null } = options;
  const marks = options.marks === "lines" ? ("lines" as const) : ("columns" as const);
  const stacking = marks === "lines" ? "clustered" : (options.stacking ?? "clustered");
  const hasStrip = options.strip !== null;
  const stripHeight = hasStrip ? Math.max(56, Math.round(height * 0.24)) : 0;
  const closedIndex = points.findIndex((p) => p.period === closedTo);
  const isClosedShown = closedIndex >= 0 && closedIndex < points.length - 1;
  const top =
    MARGIN.top + ((options.pins ?? []).length > 0 ? PINS : 0) + (isClosedShown && options.hasLabels ? CLOSED : 0);
  const plot: Box = {
    x: MARGIN.left,
    y: top,
    width: width - MARGIN.left - (right ? MARGIN.rightAxis : MARGIN.right),
    height: height - top - MONTH_AXIS - stripHeight,
  };
  const x = scaleBand<string>(
    points.map((p) => p.period),
    [plot.x, plot.x + plot.width],
  )
    .paddingInner(0.16)
    .paddingOuter(0.08);
  const strip = { top: plot.y + plot.height + MONTH_AXIS, height: stripHeight, room: LABEL_ROOM };
  return { marks, stacking, hasStrip, closedIndex, isClosedShown, plot, x, step: x.step(), band: x.bandwidth(), strip };
}

/** What is drawn below: growth or another series of its own, or the variances of the points. */
function stripOf({ strip, points, deltaStyle }: TimeChartOptions) {
  return {
    points: strip?.points ?? points.map(({ variance: { delta, judgement } }) => ({ figure: delta, judgement })),
    write: (value: number) => (strip?.isPercent ? writeSignedPercent(value) : signed(value, deltaStyle)),
  };
}

function referencesOf({ references }: TimeChartOptions, style: NumberStyle) {
  return references.flatMap(({ name, figure }) =>
    valueOf(figure).map((value) => ({ name: `${name}: ${writeNumber(value, style)}`, value })),
  );
}

/** The axes: of values, at the right, and of the strip. */
function scalesOf(options: TimeChartOptions, { marks, stacking, plot, hasStrip, strip }: ReturnType<typeof roomOf>) {
  const { style, right = null } = options;
  const between = { bottom: plot.y + plot.height, top: plot.y };
  const scale = valueScale([...chartValues(options), ...(options.extent ?? [])], {
    ...between,
    marks,
    style: stacking === "share" ? SHARE_STYLE : style,
  });
  const rightScale =
    right && valueScale(right.figures.flatMap(valueOf), { ...between, marks: "lines", style: right.style });
  const deltas = hasStrip ? stripOf(options).points.flatMap(({ figure }) => valueOf(figure)) : [];
  return { scale, y: scale.at, zero: scale.baseline, rightScale, dy: varianceScale(deltas, strip) };
}

interface Placing {
  readonly options: TimeChartOptions;
  readonly room: ReturnType<typeof roomOf>;
  readonly scales: ReturnType<typeof scalesOf>;
  readonly strip: ReturnType<typeof stripOf>;
  readonly labelled: ReturnType<typeof labelledPeriods>;
}

/** Periods whose figures are written, above and in the strip: fewer where they would run into each other. */
function labelledPeriods(options: TimeChartOptions, { step }: ReturnType<typeof roomOf>) {
  const none: ReadonlySet<number> = new Set();
  if (!options.hasLabels) return { figures: none, deltas: none };
  const strip = stripOf(options);
  const deltas = strip.points.map(({ figure }) => valueOf(figure)[0]);
  return {
    figures: thinnedLabels(options.points.map(shownOf), (value) => writeNumber(value, options.style), step),
    deltas: thinnedLabels(deltas, strip.write, step),
  };
}

/** Where a column stands in its period's place: the prior year's looks out at its left. */
const COLUMN = { from: 0.18, width: 0.82 };
const columnCentre = (left: number, band: number) => left + band * (COLUMN.from + COLUMN.width / 2);
const shownOf = (point: SeriesPointAnswer) => valueOf(point.actual)[0] ?? valueOf(point.forecast)[0];

function layoutMonth(point: SeriesPointAnswer, i: number, placing: Placing): MonthMarks {
  const { options, room, scales } = placing;
  const { weighed = [], parts = [] } = options;
  const { x, step, band } = room;
  const { y, zero } = scales;
  const isAlone = parts.length === 0;
  const left = x(point.period)!;
  const column = (figure: Figure, { from, width } = COLUMN): Box | null => {
    const value = valueOf(figure)[0];
    if (value === undefined || !isAlone) return null;
    const top = y(value);
    return { x: left + band * from, y: Math.min(top, zero), width: band * width, height: Math.abs(zero - top) };
  };
  const across = (figure: Figure) =>
    (isAlone ? valueOf(figure) : []).map((value) => ({ x1: left, x2: left + band, y: y(value) }))[0] ?? null;
  const [budget, target] = [across(point.budget), across(point.target)];
  const part = weighed[i];
  return {
    point,
    band: { x: left - (step - band) / 2, y: 0, width: step, height: options.height },
    centre: left + band / 2,
    // Beside a line for it there is no column of it.
    priorYear: options.marks === "both" ? null : column(point.priorYear, { from: 0, width: 0.34 }),
    actual: column(point.actual),
    // Of a period that came, the forecast is a line beside its column.
    forecast: "value" in point.actual ? null : column(point.forecast),
    part: part ? (column(part.actual) ?? column(part.forecast)) : null,
    budget,
    target,
    label: isAlone
      ? labelOf(
          point,
          i,
          [budget, target].flatMap((mark) => mark?.y ?? []),
          placing,
        )
      : null,
    variance: varianceOf(point, i, placing),
  };
}

/** The figure at a period's marks, clear of the plans that cross it; none where figures are too dense. */
function labelOf(
  point: SeriesPointAnswer,
  i: number,
  plans: readonly number[],
  { options: { style }, room: { marks, plot, x, band }, scales: { y }, labelled }: Placing,
): PlacedLabel | null {
  const shown = shownOf(point);
  if (shown === undefined || !labelled.figures.has(i)) return null;
  const left = x(point.period)!;
  const tallest = Math.min(...[point.actual, point.forecast].flatMap(valueOf).map((value) => y(value)));
  const centre = marks === "columns" ? columnCentre(left, band) : left + band / 2;
  return placedLabel(plot, writeNumber(shown, style), centre, clearOf(plans, tallest - 5));
}

/** A period's column in the strip, and what is written at it. */
function varianceOf(
  point: SeriesPointAnswer,
  i: number,
  { options, room: { hasStrip, plot, x, band }, scales: { dy }, strip, labelled }: Placing,
): MonthMarks["variance"] {
  const delta = hasStrip ? valueOf(strip.points[i]!.figure)[0] : undefined;
  if (delta === undefined) return null;
  const left = x(point.period)!;
  const [at, zero] = [dy(delta), dy(0)];
  return {
    box: {
      x: left + band * COLUMN.from,
      y: Math.min(at, zero),
      width: band * COLUMN.width,
      height: Math.max(Math.abs(at - zero), 0.75),
    },
    label: labelled.deltas.has(i)
      ? placedLabel(plot, strip.write(delta), columnCentre(left, band), delta >= 0 ? at - 4 : at + 11)
      : null,
    judgement: strip.points[i]!.judgement,
    isForecast: point.varianceOf === "forecast" && !options.strip?.kind.startsWith("growth"),
  };
}

const placedLabel = (plot: Box, text: string, centre: number, y: number): PlacedLabel => ({
  text,
  x: insideOf(plot, centre, labelWidth(text)),
  y,
});

/** Months whose labels would run into each other keep those that stand apart. */
function standApart(months: readonly MonthMarks[]): MonthMarks[] {
  const figures = standingApart(months.map((month) => month.label));
  const deltas = standingApart(months.map(({ variance }) => variance?.label ?? null));
  return months.map((month, i) => ({
    ...month,
    label: figures[i]!,
    variance: month.variance && { ...month.variance, label: deltas[i]! },
  }));
}

function expectedMarks(
  { expected, points }: TimeChartOptions,
  centres: readonly number[],
  y: (value: number) => number,
): (ExpectedMark | null)[] {
  return (expected?.points ?? []).map((point, i) => {
    const seen = valueOf(points[i]!.actual)[0];
    return (
      point && {
        x: centres[i]!,
        middle: y(point.expected),
        top: y(point.upper),
        bottom: y(point.lower),
        seen: point.isOutside && seen !== undefined ? { x: centres[i]!, y: y(seen) } : null,
      }
    );
  });
}

/** How shares of the whole are written at the axis. */
const SHARE_STYLE = valueStyle({ kind: "percent" }, 0, "units");

function signed(value: number, style: NumberStyle): string {
  const text = writeNumber(value, style);
  return value > 0 && !/^[0.,]*$/.test(text) ? `+${text}` : text;
}

function valueOf(figure: Figure): number[] {
  return "value" in figure ? [figure.value] : [];
}
