import { intervalsAt } from "#core/panels/time-chart/intervals-at.ts";
import type { Stacking } from "#core/panels/parts/stacking.ts";
import type { AheadAnswer, AheadSeries } from "#core/panels/time-chart/answer.ts";
import type { TimeMarks, ChartPart } from "#core/panels/time-chart/schema.ts";

/** What is not sure of a forecast: at each period ahead a stretch for every level, the widest first. */
export interface FanLayout {
  /** The series' key; empty for the whole. */
  readonly key: string;
  /** Whether stretches run together into areas; else each stands at its column. */
  readonly isArea: boolean;
  readonly steps: readonly FanStep[];
}

export interface FanStep {
  /** The place of the period among those that are shown. */
  readonly place: number;
  readonly x: number;
  readonly width: number;
  readonly stretches: readonly { readonly level: number; readonly top: number; readonly bottom: number }[];
}

/** The series whose intervals are drawn: of parts on top of each other none, since theirs do not add up. */
function fanned(
  ahead: AheadAnswer,
  parts: readonly ChartPart[],
  stacking: Stacking,
  marks: TimeMarks,
): readonly AheadSeries[] {
  if (parts.length === 0) return ahead.series.filter(({ key }) => key === "");
  return marks === "lines" && stacking === "clustered" ? ahead.series.filter(({ key }) => key !== "") : [];
}

/** What the axis must reach for the intervals. */
export function fanValues(
  ahead: AheadAnswer | null | undefined,
  parts: readonly ChartPart[],
  stacking: Stacking,
  marks: TimeMarks,
): number[] {
  if (!ahead) return [];
  return fanned(ahead, parts, stacking, marks).flatMap((series) => {
    const steps = "points" in series.forecast ? series.forecast.points.length : 0;
    return Array.from({ length: steps }, (_, step) => intervalsAt(series, step)).flatMap((intervals) =>
      intervals.flatMap(({ lower, upper }) => [lower, upper]),
    );
  });
}

/** Lays intervals out at their periods. Pure. */
export function layoutFans(
  ahead: AheadAnswer | null,
  parts: readonly ChartPart[],
  stacking: Stacking,
  marks: TimeMarks,
  {
    centres,
    width,
    y,
  }: { readonly centres: readonly number[]; readonly width: number; readonly y: (value: number) => number },
): FanLayout[] {
  if (!ahead) return [];
  return fanned(ahead, parts, stacking, marks).map((series) => ({
    key: series.key,
    isArea: marks === "lines",
    steps: centres.slice(ahead.from).flatMap((x, step): FanStep[] => {
      const stretches = intervalsAt(series, step)
        .toSorted((a, b) => b.level - a.level)
        .map(({ level, lower, upper }) => ({ level, top: y(upper), bottom: y(lower) }));
      return stretches.length === 0 ? [] : [{ place: ahead.from + step, x, width, stretches }];
    }),
  }));
}
