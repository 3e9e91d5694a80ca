import { scaleLinear } from "d3-scale";
import type { Stacking } from "#core/panels/parts/stacking.ts";
import { writeNumber, writePercent, writeSigned, type NumberStyle } from "#core/formats/number-words.ts";
import type { Figure, Variance } from "#core/figures/schema.ts";
import type { Box } from "../../chart-kit/geometry.ts";
import { besideMark, labelWidth, type SideLabel } from "../../chart-kit/labels.ts";
import { barThickness, linePitch } from "../../chart-kit/line-pitch.ts";
import { shorten } from "../../chart-kit/shorten.ts";
import type { BreakdownAnswer, BreakdownRow } from "#core/panels/breakdown/schema.ts";

/** What a breakdown is laid out from. Values are in the KPI's own unit. */
export interface BreakdownOptions {
  readonly data: BreakdownAnswer;
  readonly width: number;
  /** The height there is; lines are drawn out to fill it. */
  readonly room?: number;
  readonly style: NumberStyle;
  readonly deltaStyle: NumberStyle;
  /** The same members of the part that is weighed, by their keys. */
  readonly parts?: ReadonlyMap<string, Figure>;
  /** What the bars' axis must reach besides, so that panels can be compared. */
  readonly extent?: readonly number[] | undefined;
}

/** One part of a bar. */
export interface BarSegment extends Box {
  /** Its place among the series; `null` where the bar is whole. */
  readonly series: number | null;
  /** Its own figure, where bars stand beside each other. */
  readonly label: SideLabel | null;
}

/** A member's line, with every place decided. */
export interface BarLine {
  readonly row: BreakdownRow;
  readonly kind: "member" | "others" | "total";
  /** The line's whole space, for pointing at. */
  readonly band: Box;
  readonly centre: number;
  readonly name: string;
  readonly segments: readonly BarSegment[];
  /** The part that is weighed. */
  readonly part: Box | null;
  /** Where the basis stands on the bar. */
  readonly basis: { readonly x: number; readonly y1: number; readonly y2: number } | null;
  /** The line's figure: at the end of its bar, or apart where its bar stands as several, which have their own. */
  readonly value: SideLabel | null;
  readonly delta: {
    readonly box: Box | null;
    readonly text: string;
    readonly x: number;
    readonly anchor: "start" | "end";
    readonly judgement: Variance["judgement"];
  } | null;
  readonly percent: { readonly text: string; readonly x: number } | null;
}

/** A breakdown ready to draw. */
export interface BreakdownLayout {
  readonly lines: readonly BarLine[];
  readonly height: number;
  /** The height that it needs. */
  readonly least: number;
  readonly zero: number;
  readonly deltaZero: number | null;
  /** Where the columns' heads stand. */
  readonly heads: { readonly total: number | null; readonly delta: number | null; readonly percent: number | null };
  readonly plot: Box;
}

const HEAD = 16;
const BOTTOM = 4;
const LINE = 25;
const CLUSTERED = 13;
const GAP = 12;
const LABEL_GAP = 4;
const NAME_SHARE = 0.32;
const LEAST_NAME = 46;
/** Below these widths Δ% and then Δ give way. */
const PERCENT_FROM = 470;
const DELTA_FROM = 330;
const PERCENT_WIDTH = 92;

/** All values that the bars' axis shows; the total is measured beside it. */
export function barValues({ rows, others, series, stacking, shows }: BreakdownAnswer): number[] {
  const isClustered = series.length > 0 && stacking === "clustered";
  return [...rows, ...(others ? [others] : [])].flatMap((row) =>
    reachOf(row, stacking, isClustered, shows.includes("basis")),
  );
}

/** Lays bars out by member with their basis, Δ on one zero line, and Δ%. Pure: the same options give the same marks. */
export function layoutBreakdown({
  data,
  width,
  room: height = 0,
  style,
  deltaStyle,
  parts,
  extent = [],
}: BreakdownOptions): BreakdownLayout {
  const { shows, series, stacking } = data;
  const hasTotal = shows.includes("total");
  const rows: { row: BreakdownRow; kind: BarLine["kind"] }[] = [
    ...data.rows.map((row) => ({ row, kind: "member" as const })),
    ...(data.others ? [{ row: data.others, kind: "others" as const }] : []),
    ...(hasTotal ? [{ row: data.total, kind: "total" as const }] : []),
  ];
  const isClustered = series.length > 0 && stacking === "clustered";
  const natural = isClustered ? Math.max(LINE, series.length * CLUSTERED + 8) : LINE;
  const lineHeight = linePitch(natural, rows.length, height - HEAD - BOTTOM);
  const thickness = isClustered ? lineHeight - 10 : barThickness(lineHeight);

  const longest = Math.max(0, ...rows.map(({ row }) => labelWidth(row.name)));
  const nameWidth = Math.min(Math.max(LEAST_NAME, longest + 4), Math.max(LEAST_NAME, width * NAME_SHARE));
  // Where no member is compared, the columns for it would stand empty.
  const isCompared = rows.some(({ row, kind }) => kind !== "total" && "value" in row.row.variance.delta);
  const percentWidth = isCompared && shows.includes("delta-percent") && width >= PERCENT_FROM ? PERCENT_WIDTH : 0;
  const hasDelta = isCompared && shows.includes("delta") && width >= DELTA_FROM;
  const deltaTexts = rows.map(({ row }) => deltaText(row, deltaStyle));
  const deltaLabel = hasDelta ? Math.max(0, ...deltaTexts.map(labelWidth)) + LABEL_GAP : 0;
  const deltaWidth = hasDelta ? deltaLabel * 2 + Math.max(30, width * 0.12) : 0;
  const valueTexts = rows.map(({ row }) => valueText(row.row.actual, style));
  const totalLabel = Math.max(0, ...valueTexts.map(labelWidth)) + LABEL_GAP;
  const partLabel = Math.max(
    0,
    ...rows.flatMap(({ row }) => row.parts.map((part) => labelWidth(valueText(part, style)))),
  );
  const valueLabel = isClustered ? partLabel + LABEL_GAP : totalLabel;
  // What members' parts make together is none of the parts: it has a column of its own.
  const isApart = isClustered && series.some(({ members }) => members !== undefined);
  const end = width - percentWidth - (percentWidth > 0 ? GAP : 0) - deltaWidth - (hasDelta ? GAP : 0);
  const right = isApart ? end - Math.max(totalLabel, labelWidth(TOTAL)) - GAP : end;
  const plot: Box = {
    x: nameWidth + GAP,
    y: HEAD,
    width: Math.max(20, right - nameWidth - GAP),
    height: rows.length * lineHeight,
  };

  const extents = [...barValues(data), ...extent];
  const [low, high] =
    stacking === "share" && series.length > 0 ? [0, 1] : [Math.min(0, ...extents), Math.max(0, ...extents)];
  const room = Math.min(valueLabel, plot.width * 0.45);
  const x = scaleLinear(
    [low, high === low ? low + 1 : high],
    [plot.x + (low < 0 ? room : 0), plot.x + plot.width - (high > 0 || low === 0 ? room : 0)],
  );
  const zero = x(0);

  const deltas = rows.filter(({ kind }) => kind !== "total").flatMap(({ row }) => valueOf(row.row.variance.delta));
  const largest = Math.max(0, ...deltas.map(Math.abs)) || 1;
  const deltaStart = end + GAP;
  const hasDown = deltas.some((delta) => delta < 0);
  const hasUp = deltas.some((delta) => delta > 0) || !hasDown;
  const downRoom = hasDown ? deltaLabel : 0;
  const upRoom = hasUp ? deltaLabel : LABEL_GAP;
  const dx = scaleLinear(
    [hasDown ? -largest : 0, hasUp ? largest : 0],
    [deltaStart + downRoom, deltaStart + deltaWidth - upRoom],
  );
  const deltaZero = hasDelta ? dx(0) : null;

  const lines = rows.map(({ row, kind }, i): BarLine => {
    const top = HEAD + i * lineHeight;
    const band: Box = { x: 0, y: top, width, height: lineHeight };
    const bar = { y: top + (lineHeight - thickness) / 2, height: thickness };
    const segments = kind === "total" ? [] : segmentsOf(row, { x, zero, bar, stacking, isClustered, plot, style });
    const basis =
      kind !== "total" && shows.includes("basis") && series.length === 0 ? valueOf(row.row.basis)[0] : undefined;
    const part =
      row.member && parts ? valueOf(parts.get(row.member.key) ?? { absent: "no data", detail: "" })[0] : undefined;
    const tip = endOf(segments, zero, valueOf(row.row.actual)[0] ?? 0);
    const isLeft = (valueOf(row.row.actual)[0] ?? 0) < 0;
    const basisX = basis === undefined ? undefined : x(basis);
    // A figure stands clear of its bar and of the basis' mark next to it.
    const clear =
      basisX !== undefined && !isLeft ? Math.max(tip, basisX) : basisX !== undefined ? Math.min(tip, basisX) : tip;
    const beside = besideMark(
      valueTexts[i]!,
      kind === "total" ? zero + LABEL_GAP : isLeft ? clear - LABEL_GAP : clear + LABEL_GAP,
      isLeft && kind !== "total",
      plot,
    );
    return {
      row,
      kind,
      band,
      centre: top + lineHeight / 2,
      name: shorten(row.name, nameWidth),
      segments,
      part: part === undefined || kind === "total" ? null : boxBetween(zero, x(part), bar),
      basis: basisX === undefined ? null : { x: basisX, y1: bar.y - 3, y2: bar.y + bar.height + 3 },
      value: isApart
        ? { text: valueTexts[i]!, x: end, anchor: "end" }
        : isClustered && kind !== "total" && segments.length > 0
          ? null
          : beside,
      delta:
        deltaZero === null
          ? null
          : deltaOf(row, kind, { dx, deltaZero, bar, text: deltaTexts[i]!, room: { down: hasDown, up: hasUp } }),
      percent: percentWidth === 0 ? null : { text: percentText(row), x: width },
    };
  });
  return {
    lines,
    height: HEAD + rows.length * lineHeight + BOTTOM,
    least: HEAD + rows.length * natural + BOTTOM,
    zero,
    deltaZero,
    heads: { total: isApart ? end : null, delta: deltaZero, percent: percentWidth > 0 ? width : null },
    plot,
  };
}

/** What the column of whole lines is headed, where their bars stand as several. */
export const TOTAL = "Total";

type Scale = (value: number) => number;

function deltaOf(
  { row }: BreakdownRow,
  kind: BarLine["kind"],
  {
    dx,
    deltaZero,
    bar,
    text,
    room,
  }: {
    dx: Scale;
    deltaZero: number;
    bar: Pick<Box, "y" | "height">;
    text: string;
    /** On which sides of the zero line figures have room. */
    room: { readonly down: boolean; readonly up: boolean };
  },
): BarLine["delta"] {
  const [delta] = valueOf(row.variance.delta);
  const { judgement } = row.variance;
  if (delta === undefined || kind === "total") {
    // Without a bar of its own it stands on the side where there is room for a figure.
    const isLeft = !room.up || (room.down && (delta ?? 0) < 0);
    return isLeft
      ? { box: null, text, x: deltaZero - LABEL_GAP, anchor: "end", judgement }
      : { box: null, text, x: deltaZero + LABEL_GAP, anchor: "start", judgement };
  }
  const end = dx(delta);
  const isDown = delta < 0 || (delta === 0 && !room.up);
  return {
    box: {
      ...boxBetween(deltaZero, end, { y: bar.y + 2, height: bar.height - 4 }),
      width: Math.max(0.75, Math.abs(end - deltaZero)),
    },
    text,
    x: isDown ? end - LABEL_GAP : end + LABEL_GAP,
    anchor: isDown ? "end" : "start",
    judgement,
  };
}

function segmentsOf(
  { row, parts }: BreakdownRow,
  {
    x,
    zero,
    bar,
    stacking,
    isClustered,
    plot,
    style,
  }: {
    x: Scale;
    zero: number;
    bar: Pick<Box, "y" | "height">;
    stacking: Stacking;
    isClustered: boolean;
    plot: Box;
    style: NumberStyle;
  },
): BarSegment[] {
  if (parts.length === 0) {
    const [value] = valueOf(row.actual);
    return value === undefined ? [] : [{ ...boxBetween(zero, x(value), bar), series: null, label: null }];
  }
  if (isClustered)
    return parts.flatMap((part, series) =>
      valueOf(part).map((value) => {
        const height = Math.max(2, bar.height / parts.length - 1);
        const box = boxBetween(zero, x(value), { y: bar.y + (series * bar.height) / parts.length, height });
        const isLeft = value < 0;
        const at = isLeft ? box.x - LABEL_GAP : box.x + box.width + LABEL_GAP;
        return { ...box, series, label: besideMark(valueText(part, style), at, isLeft, plot) };
      }),
    );
  const whole = parts.reduce((sum, part) => sum + Math.abs(valueOf(part)[0] ?? 0), 0);
  let [up, down] = [0, 0];
  return parts.flatMap((part, series) =>
    valueOf(part).map((raw) => {
      const value = stacking === "share" ? (whole === 0 ? 0 : raw / whole) : raw;
      const from = value < 0 ? down : up;
      if (value < 0) down += value;
      else up += value;
      return { ...boxBetween(x(from), x(from + value), bar), series, label: null };
    }),
  );
}

/** The values that a line's bar, its parts and its basis reach. */
function reachOf({ row, parts }: BreakdownRow, stacking: Stacking, isClustered: boolean, hasBasis: boolean): number[] {
  const own = [row.actual, ...(hasBasis && parts.length === 0 ? [row.basis] : [])].flatMap(valueOf);
  const values = parts.flatMap(valueOf);
  if (parts.length === 0 || stacking === "share") return own;
  if (isClustered) return values;
  return [
    values.filter((value) => value > 0).reduce((sum, value) => sum + value, 0),
    values.filter((value) => value < 0).reduce((sum, value) => sum + value, 0),
  ];
}

function endOf(segments: readonly BarSegment[], zero: number, value: number): number {
  const ends = segments.map((segment) => (value < 0 ? segment.x : segment.x + segment.width));
  return value < 0 ? Math.min(zero, ...ends) : Math.max(zero, ...ends);
}

function boxBetween(a: number, b: number, { y, height }: Pick<Box, "y" | "height">): Box {
  return { x: Math.min(a, b), y, width: Math.abs(b - a), height };
}

function valueText(figure: Figure, style: NumberStyle): string {
  return "value" in figure ? writeNumber(figure.value, style) : figure.absent;
}

function deltaText({ row: { variance } }: BreakdownRow, style: NumberStyle): string {
  return "value" in variance.delta
    ? writeSigned(variance.delta.value, { ...style, prefix: "", suffix: "" })
    : variance.delta.absent;
}

function percentText({ row: { kpi, variance } }: BreakdownRow): string {
  if (kpi.unit.kind === "percent" || !("value" in variance.deltaPercent)) return "";
  const text = writePercent(variance.deltaPercent.value);
  return variance.deltaPercent.value > 0 ? `+${text}` : text;
}

function valueOf(figure: Figure): number[] {
  return "value" in figure ? [figure.value] : [];
}
