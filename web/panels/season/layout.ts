import { extent } from "d3-array";
import { scaleLinear, scalePoint } from "d3-scale";
import { area, line } from "d3-shape";
import { writeNumber, type NumberStyle } from "#core/formats/number-words.ts";
import type { Figure } from "#core/figures/schema.ts";
import type { Box, Place } from "../../chart-kit/geometry.ts";
import { labelWidth } from "../../chart-kit/labels.ts";
import type { AxisTick } from "../../chart-kit/plain-axes.tsx";
import { valueScale, type ValueScale } from "../../chart-kit/value-scale.ts";
import type { SeasonAnswer, MonthStatistics } from "#core/panels/season/schema.ts";

/** What a season is laid out from. */
export interface SeasonOptions {
  readonly data: SeasonAnswer;
  /** The same of the part that is selected; nothing where none is. */
  readonly part?: SeasonAnswer | undefined;
  readonly width: number;
  readonly height: number;
  readonly style: NumberStyle;
}

/** A year's line with its name at its end. */
export interface SeasonLine {
  readonly key: string;
  readonly isStudied: boolean;
  /** How far back it lies: 0 for the one under study. */
  readonly back: number;
  readonly path: string;
  readonly places: readonly (Place | null)[];
  readonly label: { readonly x: number; readonly y: number } | null;
}

/** A plot with its own axes: one for all years, or one a year. */
export interface SeasonPlot {
  readonly title: string | null;
  readonly plot: Box;
  readonly scale: ValueScale;
  readonly months: readonly AxisTick[];
  readonly lines: readonly SeasonLine[];
  /** The selected part of the year that is under study, or of the plot's own. */
  readonly part: string | null;
  /** From the least to the most, and the average between. */
  readonly band: string | null;
  readonly mean: string | null;
  readonly isExpected: boolean;
}

/** One dot a month: what is usual along, what is up. */
export interface SeasonAgainst {
  readonly plot: Box;
  readonly xTicks: readonly AxisTick[];
  readonly yTicks: readonly AxisTick[];
  readonly dots: readonly {
    readonly month: number;
    readonly x: number;
    readonly y: number;
    readonly isLabelled: boolean;
  }[];
  readonly line: { readonly x1: number; readonly y1: number; readonly x2: number; readonly y2: number } | null;
  /** Where a month would be as usual. */
  readonly alike: { readonly x1: number; readonly y1: number; readonly x2: number; readonly y2: number };
}

/** A season ready to draw. */
export interface SeasonLayout {
  readonly height: number;
  readonly least: number;
  readonly plots: readonly SeasonPlot[];
  readonly against: SeasonAgainst | null;
  /** The marks that are walked: a month of the plot, or of the plot of its year. */
  readonly marks: readonly SeasonMark[];
}

/** A month of a year: where it is pointed at, and where its point stands. */
export interface SeasonMark {
  readonly month: number;
  /** The place of its year among all. */
  readonly year: number;
  readonly band: Box;
  readonly at: Place | null;
}

const MARGIN = { top: 16, right: 38, bottom: 22 };
const LEAST_HEIGHT = 200;
const SMALL = { top: 18, right: 6, bottom: 18, least: 150, height: 96, gap: 10 };

/** Lays the year under study out against the others. Pure: the same options give the same marks. */
export function layoutSeason(options: SeasonOptions): SeasonLayout {
  const height = Math.max(LEAST_HEIGHT, options.height);
  const laid = LAYOUTS[options.data.view]({ ...options, height });
  const lowest = Math.max(0, ...laid.plots.map(({ plot }) => plot.y + plot.height + SMALL.bottom));
  return {
    ...laid,
    height: Math.max(height, lowest),
    // Many years may need more rows of plots than there is room for.
    least: options.data.view === "small" ? Math.max(LEAST_HEIGHT, leastOfSmall(options)) : LEAST_HEIGHT,
  };
}

type LaidSeason = Omit<SeasonLayout, "height" | "least">;

const LAYOUTS: Readonly<Record<SeasonAnswer["view"], (options: SeasonOptions) => LaidSeason>> = {
  small: smallPlots,
  against: againstPlot,
  overlay: onePlot,
  band: onePlot,
  next: onePlot,
};

/** The figures of a year's selected part; none where it has no share in it, which would only flatten the whole. */
function partValues(part: SeasonAnswer | undefined, year: string | undefined): readonly Figure[] {
  const values = part?.years.find(({ key }) => key === year)?.values ?? [];
  return values.some((figure) => "value" in figure && figure.value !== 0) ? values : [];
}

function onePlot({ data, part, width, height, style }: SeasonOptions): LaidSeason {
  const { view, years, statistics, next } = data;
  const shown = view === "overlay" ? years : years.slice(-1);
  const stats = view === "next" ? next.months : statistics;
  const hasBand = view !== "overlay";
  const weighed = partValues(part, years.at(-1)?.key);
  const values = [
    ...shown.flatMap((year) => year.values.flatMap(valuesOf)),
    ...weighed.flatMap(valuesOf),
    ...(hasBand ? stats.flatMap((month) => (month ? [month.least, month.most] : [])) : []),
  ];
  const left = axisRoom(values, style);
  const plot: Box = {
    x: left,
    y: MARGIN.top,
    width: Math.max(40, width - left - MARGIN.right),
    height: Math.max(40, height - MARGIN.top - MARGIN.bottom),
  };
  const scale = valueScale(values, { bottom: plot.y + plot.height, top: plot.y, marks: "lines", style });
  const x = monthScale(plot);
  const lines = shown.map((year) => yearLine(year, years, x, scale));
  const step = plot.width / 11;
  return {
    plots: [
      {
        title: null,
        plot,
        scale,
        months: monthTicks(data, x, step),
        lines: withLabels(lines, plot),
        part: weighed.length > 0 ? linePath(placesOf(weighed, x, scale)) : null,
        band: hasBand ? bandPath(stats, x, scale) : null,
        mean: hasBand ? meanPath(stats, x, scale) : null,
        isExpected: view === "next",
      },
    ],
    against: null,
    marks: data.monthNames.map((_, month) => ({
      month,
      year: years.length - 1,
      band: { x: x(month)! - step / 2, y: 0, width: step, height },
      at: lines.at(-1)?.places[month] ?? null,
    })),
  };
}

function rowsOfSmall({ data: { years }, width }: SeasonOptions): number {
  const most = Math.max(1, Math.min(years.length, Math.floor(width / SMALL.least)));
  return Math.ceil(years.length / most);
}

function leastOfSmall(options: SeasonOptions): number {
  return rowsOfSmall(options) * SMALL.height;
}

function smallPlots(options: SeasonOptions): LaidSeason {
  const { data, part, width, height, style } = options;
  const { years } = data;
  const down = rowsOfSmall(options);
  // Rows are filled alike: four charts stand two by two rather than three and one.
  const across = Math.ceil(years.length / down);
  const cell = { width: width / across, height: Math.max(SMALL.height, height / down) };
  const values = years.flatMap((year) => [...year.values, ...partValues(part, year.key)].flatMap(valuesOf));
  const left = axisRoom(values, style);
  const plots = years.map((year, i): SeasonPlot => {
    const plot: Box = {
      x: (i % across) * cell.width + left,
      y: Math.floor(i / across) * cell.height + SMALL.top,
      width: Math.max(20, cell.width - left - SMALL.right - SMALL.gap),
      height: Math.max(20, cell.height - SMALL.top - SMALL.bottom),
    };
    // One scale for all, so that years are compared and not only their shapes.
    const scale = valueScale(values, { bottom: plot.y + plot.height, top: plot.y, marks: "lines", style });
    const x = monthScale(plot);
    return {
      title: year.key,
      plot,
      scale,
      months: monthTicks(data, x, plot.width / 11),
      lines: [yearLine(year, years, x, scale)],
      part: part ? linePath(placesOf(partValues(part, year.key), x, scale)) : null,
      band: null,
      mean: meanPath(data.statistics, x, scale),
      isExpected: false,
    };
  });
  return {
    plots,
    against: null,
    marks: plots.flatMap(({ plot, lines }, year) =>
      data.monthNames.map((_, month) => ({
        month,
        year,
        band: { x: plot.x + ((month - 0.5) * plot.width) / 11, y: plot.y, width: plot.width / 11, height: plot.height },
        at: lines[0]!.places[month] ?? null,
      })),
    ),
  };
}

/** The room that an axis takes for what its marks say. */
function axisRoom(values: readonly number[], style: NumberStyle): number {
  const { ticks } = valueScale(values, { bottom: 100, top: 0, marks: "lines", style });
  return Math.max(26, ...ticks.map(({ label }) => labelWidth(label) + 9));
}

const AGAINST = { top: 24, right: 14, bottom: 36, left: 52 };

function againstPlot({ data, width, height, style }: SeasonOptions): LaidSeason {
  const plot: Box = {
    x: AGAINST.left,
    y: AGAINST.top,
    width: Math.max(40, width - AGAINST.left - AGAINST.right),
    height: Math.max(40, height - AGAINST.top - AGAINST.bottom),
  };
  const own = data.years.at(-1);
  const pairs = data.monthNames.flatMap((_, month) => {
    const usual = data.statistics[month];
    const [value] = own ? valuesOf(own.values[month]!) : [];
    return usual && value !== undefined ? [{ month, usual: usual.mean, value }] : [];
  });
  const [low = 0, high = 1] = extent(pairs.flatMap(({ usual, value }) => [usual, value])) as [
    number | undefined,
    number | undefined,
  ];
  const space = high === low ? Math.abs(high) * 0.1 || 1 : (high - low) * 0.08;
  const domain = [low - space, high + space];
  const x = scaleLinear(domain, [plot.x, plot.x + plot.width]);
  const y = scaleLinear(domain, [plot.y + plot.height, plot.y]);
  const ticks = x.ticks(4);
  const gap = Math.abs(((ticks[1] ?? 1) - (ticks[0] ?? 0)) * style.factor);
  const decimals = gap >= 1 || gap === 0 ? 0 : Math.min(4, Math.ceil(-Math.log10(gap)));
  const write = (value: number) => writeNumber(value, { ...style, decimals });
  const widest = Math.max(1, ...ticks.map((value) => labelWidth(write(value)) + 8));
  const every = Math.max(1, Math.ceil((ticks.length * widest) / plot.width));
  const dots = pairs.map(({ month, usual, value }) => ({ month, x: x(usual), y: y(value) }));
  const taken: Place[] = [];
  const labelled = dots.map((dot) => {
    const isFree = taken.every((other) => Math.abs(other.x - dot.x) > 34 || Math.abs(other.y - dot.y) > 12);
    if (isFree) taken.push(dot);
    return { ...dot, isLabelled: isFree && dot.x + 34 <= plot.x + plot.width };
  });
  return {
    plots: [],
    against: {
      plot,
      xTicks: ticks.filter((_, i) => i % every === 0).map((value) => ({ at: x(value), label: write(value) })),
      yTicks: ticks.map((value) => ({ at: y(value), label: write(value) })),
      dots: labelled,
      line: data.line && clippedLine(data.line, domain as [number, number], x, y),
      alike: { x1: x(domain[0]!), y1: y(domain[0]!), x2: x(domain[1]!), y2: y(domain[1]!) },
    },
    marks: dots.map((dot) => ({
      month: dot.month,
      year: data.years.length - 1,
      band: { x: dot.x - 12, y: dot.y - 12, width: 24, height: 24 },
      at: dot,
    })),
  };
}

/** The fitted line as far as it lies between the ends of both axes. */
function clippedLine(
  { slope, intercept }: NonNullable<SeasonAnswer["line"]>,
  [low, high]: [number, number],
  x: (value: number) => number,
  y: (value: number) => number,
): SeasonAgainst["line"] {
  const within = (at: number) => {
    const value = intercept + slope * at;
    if (value < low) return { at: (low - intercept) / slope, value: low };
    if (value > high) return { at: (high - intercept) / slope, value: high };
    return { at, value };
  };
  const [from, to] = [within(low), within(high)];
  return from.at > to.at ? null : { x1: x(from.at), y1: y(from.value), x2: x(to.at), y2: y(to.value) };
}

type MonthScale = (month: number) => number | undefined;

function monthScale(plot: Box): MonthScale {
  const scale = scalePoint<number>(
    Array.from({ length: 12 }, (_, i) => i),
    [plot.x, plot.x + plot.width],
  );
  return (month) => scale(month);
}

function monthTicks({ monthNames }: SeasonAnswer, x: MonthScale, step: number): AxisTick[] {
  const letters = step < 24 ? 1 : 3;
  return monthNames.map((name, i) => ({ at: x(i)!, label: name.slice(0, letters) }));
}

function yearLine(
  { key, isStudied, values }: SeasonAnswer["years"][number],
  years: SeasonAnswer["years"],
  x: MonthScale,
  scale: ValueScale,
): SeasonLine {
  const places = placesOf(values, x, scale);
  const path = linePath(places);
  const back = years.length - 1 - years.findIndex((year) => year.key === key);
  const end = places.findLast((place) => place !== null);
  return { key, isStudied, back, path, places, label: end ? { x: end.x + 5, y: end.y + 4 } : null };
}

function placesOf(values: readonly Figure[], x: MonthScale, scale: ValueScale): (Place | null)[] {
  return values.map((figure, i) => {
    const [value] = valuesOf(figure);
    return value === undefined ? null : { x: x(i)!, y: scale.at(value) };
  });
}

function linePath(places: readonly (Place | null)[]): string {
  return (
    line<Place | null>()
      .defined((place) => place !== null)
      .x((place) => place!.x)
      .y((place) => place!.y)([...places]) ?? ""
  );
}

/** Names at the ends of lines, apart from each other; those of earlier years give way. */
function withLabels(lines: readonly SeasonLine[], plot: Box): SeasonLine[] {
  const kept: { x: number; y: number }[] = [];
  return lines
    .toReversed()
    .map((own) => {
      const { label } = own;
      const isFree =
        label &&
        label.x + labelWidth(own.key) <= plot.x + plot.width + MARGIN.right &&
        kept.every((other) => Math.abs(other.y - label.y) >= 12 || Math.abs(other.x - label.x) >= 34);
      if (!isFree) return { ...own, label: null };
      kept.push(label);
      return own;
    })
    .reverse();
}

function bandPath(statistics: readonly (MonthStatistics | null)[], x: MonthScale, scale: ValueScale): string {
  return (
    area<MonthStatistics | null>()
      .defined((month) => month !== null)
      .x((_, i) => x(i)!)
      .y0((month) => scale.at(month!.least))
      .y1((month) => scale.at(month!.most))([...statistics]) ?? ""
  );
}

function meanPath(statistics: readonly (MonthStatistics | null)[], x: MonthScale, scale: ValueScale): string {
  return (
    line<MonthStatistics | null>()
      .defined((month) => month !== null)
      .x((_, i) => x(i)!)
      .y((month) => scale.at(month!.mean))([...statistics]) ?? ""
  );
}

function valuesOf(figure: Figure): number[] {
  return "value" in figure ? [figure.value] : [];
}
