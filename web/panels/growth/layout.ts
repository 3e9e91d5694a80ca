import { scaleBand, scaleLinear } from "d3-scale";
import { writeSigned, writeSignedPercent, type NumberStyle } from "#core/formats/number-words.ts";
import type { Box } from "../../chart-kit/geometry.ts";
import { insideOf, labelWidth, standingApart, thinnedLabels } from "../../chart-kit/labels.ts";
import type { AxisTick } from "../../chart-kit/plain-axes.tsx";
import { shorten } from "../../chart-kit/shorten.ts";
import type { GrowthAnswer, GrowthPoint } from "#core/panels/growth/schema.ts";

/** What growth is laid out from. */
export interface GrowthOptions {
  readonly data: GrowthAnswer;
  /** The same of the part that is selected; nothing where none is. */
  readonly part?: GrowthAnswer | undefined;
  readonly width: number;
  readonly height: number;
  readonly deltaStyle: NumberStyle;
  readonly hasLabels: boolean;
}

/** A period's or member's bar: up where it grew, down where it fell. */
export interface GrowthBar {
  readonly point: GrowthPoint;
  readonly band: Box;
  readonly bar: Box | null;
  /** How much the selected part grew: a line across the bar's place. */
  readonly part: { readonly x1: number; readonly x2: number; readonly y: number } | null;
  readonly label: { readonly text: string; readonly x: number; readonly y: number } | null;
}

/** Growth ready to draw. */
export interface GrowthLayout {
  readonly height: number;
  readonly least: number;
  readonly bars: readonly GrowthBar[];
  readonly plot: Box;
  readonly zero: number;
  readonly ticks: readonly AxisTick[];
  /** Names below, as many as fit beside each other. */
  readonly names: readonly AxisTick[];
}

const MARGIN = { top: 16, right: 6, bottom: 24, left: 52 };
const LABEL_ROOM = 14;
const LEAST_HEIGHT = 160;

/** Lays gains up and losses down on one zero line. Pure: the same options give the same marks. */
export function layoutGrowth({ data, part, width, height: room, deltaStyle, hasLabels }: GrowthOptions): GrowthLayout {
  const height = Math.max(LEAST_HEIGHT, room);
  const plot: Box = {
    x: MARGIN.left,
    y: MARGIN.top,
    width: Math.max(20, width - MARGIN.left - MARGIN.right),
    height: Math.max(30, height - MARGIN.top - MARGIN.bottom),
  };
  const values = data.points.map(({ growth }) => ("value" in growth ? growth.value : undefined));
  const parts = data.points.map(({ key }) => {
    const own = part?.points.find((point) => point.key === key)?.growth;
    return own && "value" in own ? own.value : undefined;
  });
  const known = [...values, ...parts].filter((value) => value !== undefined);
  const [low, high] = [Math.min(0, ...known), Math.max(0, ...known)];
  const y = scaleLinear(
    [low, high === low ? low + 0.1 : high],
    [plot.y + plot.height - (low < 0 ? LABEL_ROOM : 0), plot.y + (high > 0 ? LABEL_ROOM : 0)],
  );
  const x = scaleBand<number>(
    data.points.map((_, i) => i),
    [plot.x, plot.x + plot.width],
  ).padding(0.18);
  const isPoints = data.kpi.unit.kind === "percent";
  const write = (value: number) => (isPoints ? writeSigned(value, deltaStyle) : writeSignedPercent(value));
  const labelled = hasLabels ? thinnedLabels(values, write, x.step()) : new Set<number>();
  const zero = y(0);
  const placed = data.points.map((point, i): GrowthBar => {
    const value = values[i];
    const left = x(i)!;
    const band = { x: left - (x.step() - x.bandwidth()) / 2, y: 0, width: x.step(), height };
    const own = parts[i];
    const weighed = own === undefined ? null : { x1: left - 2, x2: left + x.bandwidth() + 2, y: y(own) };
    if (value === undefined) return { point, band, bar: null, part: weighed, label: null };
    const end = y(value);
    const text = write(value);
    return {
      point,
      band,
      bar: {
        x: left,
        y: Math.min(zero, end),
        width: x.bandwidth(),
        height: Math.max(0.75, Math.abs(end - zero)),
      },
      part: weighed,
      label: labelled.has(i)
        ? {
            text,
            x: insideOf(plot, left + x.bandwidth() / 2, labelWidth(text)),
            y: value < 0 ? end + 11 : end - 4,
          }
        : null,
    };
  });
  const labels = standingApart(placed.map(({ label }) => label));
  const bars = placed.map((bar, i) => ({ ...bar, label: labels[i]! }));
  const shorts = data.points.map(({ short }) => shorten(short, Math.max(x.step() - 2, 24)));
  const every = Math.max(1, Math.ceil((Math.max(1, ...shorts.map(labelWidth)) + 3) / Math.max(1, x.step())));
  const names = shorts.map((text, i) =>
    i % every === 0 ? { text, x: insideOf({ x: 0, width }, x(i)! + x.bandwidth() / 2, labelWidth(text)) } : null,
  );
  return {
    height,
    least: LEAST_HEIGHT,
    bars,
    plot,
    zero,
    ticks: y.ticks(4).map((value) => ({
      at: y(value),
      label: isPoints
        ? writeSigned(value, { ...deltaStyle, prefix: "", suffix: "" })
        : `${Math.round(value * 1000) / 10}%`.replace("-", "−"),
    })),
    names: standingApart(names).flatMap((name) => (name ? [{ at: name.x, label: name.text }] : [])),
  };
}
