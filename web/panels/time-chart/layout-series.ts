import type { Stacking } from "#core/panels/parts/stacking.ts";
import type { Box, Place } from "../../chart-kit/geometry.ts";
import type { ChartPart } from "#core/panels/time-chart/schema.ts";

/** Several series ready to draw: columns or lines, series by series and period by period. */
export interface SeriesLayout {
  readonly boxes: readonly (readonly (Box | null)[])[];
  readonly places: readonly (readonly (Place | null)[])[];
}

/** Where a period's columns have room. */
export interface SeriesRoom {
  readonly left: number;
  readonly width: number;
}

/** What the axis of several series must reach: each value, or what they amount to on top of each other; shares end at the whole. */
export function seriesExtent(parts: readonly ChartPart[], stacking: Stacking): number[] {
  if (stacking === "share") return [0, 1];
  if (stacking === "clustered")
    return parts.flatMap(({ figures }) => figures.flatMap((f) => ("value" in f ? [f.value] : [])));
  const periods = parts[0]?.figures.length ?? 0;
  return Array.from({ length: periods }, (_, i) => valuesAt(parts, i)).flatMap((values) => [
    values.reduce((sum, value) => sum + Math.max(0, value), 0),
    values.reduce((sum, value) => sum + Math.min(0, value), 0),
  ]);
}

/** Lays several series out over the same periods. Pure. */
export function layoutSeries(
  parts: readonly ChartPart[],
  stacking: Stacking,
  rooms: readonly SeriesRoom[],
  y: (value: number) => number,
): SeriesLayout {
  const zero = y(0);
  const height = (from: number, to: number) => ({ y: Math.min(from, to), height: Math.abs(from - to) });
  const beside = (place: number, i: number, value: number): Box => {
    const width = rooms[i]!.width / parts.length;
    return { x: rooms[i]!.left + place * width, width: Math.max(0.5, width * 0.92), ...height(zero, y(value)) };
  };
  const upon = (place: number, i: number, value: number): Box => {
    const whole = stacking === "share" ? valuesAt(parts, i).reduce((sum, own) => sum + own, 0) : 1;
    const below = parts
      .slice(0, place)
      .flatMap(({ figures }) => valueOf(figures[i]))
      .filter((own) => own < 0 === value < 0)
      .reduce((sum, own) => sum + own, 0);
    const of = (sum: number) => (whole === 0 ? zero : y(sum / whole));
    return { x: rooms[i]!.left, width: rooms[i]!.width, ...height(of(below), of(below + value)) };
  };
  return {
    boxes: parts.map(({ figures }, place) =>
      figures.map((figure, i) => {
        const [value] = valueOf(figure);
        if (value === undefined) return null;
        return stacking === "clustered" ? beside(place, i, value) : upon(place, i, value);
      }),
    ),
    places: parts.map(({ figures }) =>
      figures.map((figure, i) => {
        const [value] = valueOf(figure);
        return value === undefined ? null : { x: rooms[i]!.left + rooms[i]!.width / 2, y: y(value) };
      }),
    ),
  };
}

function valuesAt(parts: readonly ChartPart[], period: number): number[] {
  return parts.flatMap(({ figures }) => valueOf(figures[period]));
}

function valueOf(figure: ChartPart["figures"][number] | undefined): number[] {
  return figure && "value" in figure ? [figure.value] : [];
}
