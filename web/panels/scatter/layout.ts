import { extent } from "d3-array";
import { scaleLinear, scaleSqrt, type ScaleLinear } from "d3-scale";
import { writeNumber, type NumberStyle } from "#core/formats/number-words.ts";
import type { Box, Place } from "../../chart-kit/geometry.ts";
import { labelWidth } from "../../chart-kit/labels.ts";
import type { AxisTick } from "../../chart-kit/plain-axes.tsx";
import { shorten } from "../../chart-kit/shorten.ts";
import type { ScatterAnswer, ScatterPoint } from "#core/panels/scatter/schema.ts";

/** What a scatter is laid out from. */
export interface ScatterOptions {
  readonly data: ScatterAnswer;
  /** The same of the part that is selected; nothing where none is. */
  readonly part?: ScatterAnswer | undefined;
  readonly width: number;
  readonly height: number;
  readonly xStyle: NumberStyle;
  readonly yStyle: NumberStyle;
}

/** A point with its place. */
export interface PlacedPoint {
  readonly point: ScatterPoint;
  readonly cx: number;
  readonly cy: number;
  readonly r: number;
  /** Where the selected part of it stands. */
  readonly part: Place | null;
  /** Names that have room, those furthest from the line first. */
  readonly label: {
    readonly text: string;
    readonly x: number;
    readonly y: number;
    readonly anchor: "start" | "end";
  } | null;
}

/** A scatter ready to draw. */
export interface ScatterLayout {
  readonly height: number;
  readonly least: number;
  readonly points: readonly PlacedPoint[];
  readonly plot: Box;
  readonly xTicks: readonly AxisTick[];
  readonly yTicks: readonly AxisTick[];
  /** The fitted line inside the plot. */
  readonly line: { readonly x1: number; readonly y1: number; readonly x2: number; readonly y2: number } | null;
  readonly quadrants: { readonly x: number | null; readonly y: number | null };
}

const MARGIN = { top: 24, right: 14, bottom: 36, left: 52 };
const LEAST_HEIGHT = 220;
const LEAST_R = 4;
const MOST_R = 15;
const TICKS = 5;
const LABEL_HEIGHT = 12;
const LONGEST_LABEL = 130;

/** Places points by their two KPIs. Pure: the same options give the same marks. */
export function layoutScatter({ data, part, width, height: room, xStyle, yStyle }: ScatterOptions): ScatterLayout {
  const height = Math.max(LEAST_HEIGHT, room);
  const plot: Box = {
    x: MARGIN.left,
    y: MARGIN.top,
    width: Math.max(40, width - MARGIN.left - MARGIN.right),
    height: Math.max(40, height - MARGIN.top - MARGIN.bottom),
  };
  const pairs = data.points.map((point) => ({ point, x: valueOf(point.x), y: valueOf(point.y) }));
  const parts = new Map(part?.points.map(({ key, x, y }) => [key, { x: valueOf(x), y: valueOf(y) }]));
  const { quadrants, line } = data;
  const inset = data.size ? MOST_R : LEAST_R + 3;
  const x = axis(
    [...[...pairs, ...parts.values()].map((pair) => pair.x), ...(quadrants ? [quadrants.x] : [])],
    [plot.x + inset, plot.x + plot.width - inset],
  );
  const y = axis(
    [...[...pairs, ...parts.values()].map((pair) => pair.y), ...(quadrants ? [quadrants.y] : [])],
    [plot.y + plot.height - inset, plot.y + inset],
  );
  const placeOf = (pair: { readonly x: number; readonly y: number } | undefined) =>
    pair && Number.isFinite(pair.x) && Number.isFinite(pair.y) ? { x: x(pair.x), y: y(pair.y) } : null;
  const sizes = data.points.map(({ size }) => (size && "value" in size ? Math.abs(size.value) : 0));
  const radius = scaleSqrt([0, Math.max(...sizes, 0) || 1], [2, MOST_R]);
  const placed = pairs.map((pair, i) => ({
    point: pair.point,
    cx: x(pair.x),
    cy: y(pair.y),
    r: data.size ? radius(sizes[i]!) : LEAST_R,
    part: placeOf(parts.get(pair.point.key)),
    off: line ? Math.abs(pair.y - (line.intercept + line.slope * pair.x)) : i,
  }));
  const labels = placeLabels(placed, plot);
  return {
    height,
    least: LEAST_HEIGHT,
    points: placed.map(({ point, cx, cy, r, part: weighed }, i) => ({
      point,
      cx,
      cy,
      r,
      part: weighed,
      label: labels.get(i) ?? null,
    })),
    plot,
    xTicks: ticksOf(x, xStyle, (texts) => Math.floor(plot.width / (Math.max(...texts.map(labelWidth)) + 8))),
    yTicks: ticksOf(y, yStyle, () => TICKS),
    line: line && clipped(line, x, y, plot),
    quadrants: { x: quadrants ? x(quadrants.x) : null, y: quadrants ? y(quadrants.y) : null },
  };
}

type Scale = ScaleLinear<number, number>;

function axis(values: readonly number[], range: [number, number]): Scale {
  const [low = 0, high = 1] = extent(values) as [number | undefined, number | undefined];
  const space = high === low ? Math.abs(high) * 0.1 || 1 : (high - low) * 0.04;
  return scaleLinear([low - space, high + space], range);
}

function ticksOf(scale: Scale, style: NumberStyle, most: (texts: readonly string[]) => number): AxisTick[] {
  const values = scale.ticks(TICKS);
  const gap = Math.abs(((values[1] ?? 1) - (values[0] ?? 0)) * style.factor);
  const decimals = gap >= 1 || gap === 0 ? 0 : Math.min(4, Math.ceil(-Math.log10(gap)));
  const ticks = values.map((value) => ({ at: scale(value), label: writeNumber(value, { ...style, decimals }) }));
  const every = Math.max(1, Math.ceil(ticks.length / Math.max(1, most(ticks.map(({ label }) => label)))));
  return ticks.filter((_, i) => i % every === 0);
}

/** The part of a line that lies inside the plot. */
function clipped(
  { slope, intercept }: NonNullable<ScatterAnswer["line"]>,
  x: Scale,
  y: Scale,
  plot: Box,
): ScatterLayout["line"] {
  const [x1, x2] = [plot.x, plot.x + plot.width];
  const at = (px: number) => y(intercept + slope * x.invert(px));
  const [top, bottom] = [plot.y, plot.y + plot.height];
  const [y1, y2] = [at(x1), at(x2)];
  const steep = (y2 - y1) / (x2 - x1);
  const within = (px: number, py: number) => {
    if (py < top) return { x: px + (top - py) / steep, y: top };
    if (py > bottom) return { x: px + (bottom - py) / steep, y: bottom };
    return { x: px, y: py };
  };
  const [from, to] = [within(x1, y1), within(x2, y2)];
  return from.x > to.x ? null : { x1: from.x, y1: from.y, x2: to.x, y2: to.y };
}

/** Names beside their points where they meet no other name or point; those furthest off the line come first. */
function placeLabels(
  points: readonly { point: ScatterPoint; cx: number; cy: number; r: number; off: number }[],
  plot: Box,
): Map<number, NonNullable<PlacedPoint["label"]>> {
  const taken: Box[] = points.map(({ cx, cy, r }) => ({ x: cx - r, y: cy - r, width: 2 * r, height: 2 * r }));
  const labels = new Map<number, NonNullable<PlacedPoint["label"]>>();
  const order = points.map((_, i) => i).sort((a, b) => points[b]!.off - points[a]!.off);
  for (const i of order) {
    const { point, cx, cy, r } = points[i]!;
    const text = shorten(point.name, LONGEST_LABEL);
    const width = labelWidth(text);
    for (const anchor of ["start", "end"] as const) {
      const x = anchor === "start" ? cx + r + 3 : cx - r - 3;
      const box = { x: anchor === "start" ? x : x - width, y: cy - LABEL_HEIGHT / 2, width, height: LABEL_HEIGHT };
      const isInside = box.x >= plot.x && box.x + width <= plot.x + plot.width;
      if (!isInside || taken.some((other, k) => k !== i && overlap(box, other))) continue;
      labels.set(i, { text, x, y: cy + 4, anchor });
      taken.push(box);
      break;
    }
  }
  return labels;
}

function overlap(a: Box, b: Box): boolean {
  return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
}

function valueOf(figure: ScatterPoint["x"]): number {
  return "value" in figure ? figure.value : NaN;
}
