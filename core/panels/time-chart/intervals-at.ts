import type { AheadSeries } from "./answer.ts";

/** The interval of a step ahead, the narrowest first; none where there is none. */
export function intervalsAt(
  { forecast }: AheadSeries,
  step: number,
): { readonly level: number; readonly lower: number; readonly upper: number }[] {
  if (!("points" in forecast)) return [];
  return forecast.intervals.flatMap(({ level, lower, upper }) => {
    const [low, high] = [lower[step], upper[step]];
    return level === null || low === null || low === undefined || high === null || high === undefined
      ? []
      : [{ level, lower: low, upper: high }];
  });
}
