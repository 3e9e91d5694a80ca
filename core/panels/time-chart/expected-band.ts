import { judgeRange } from "../../ahead/judge-range.ts";
import { RANGE_GRAINS, type RangeGrain } from "../../ahead/settings.ts";
import type { MeasureContext } from "../../compare/measure-ground.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import type { Grain } from "../../series/grain.ts";

/** What was expected of a period one step ahead. */
export interface BandPoint {
  readonly expected: number;
  readonly lower: number;
  readonly upper: number;
  readonly score: number | null;
  readonly isOutside: boolean;
}

/** The range that history led one to expect of each period that came; `null` at periods of which nothing was. */
export interface ExpectedBand {
  /** In percent. */
  readonly level: number;
  readonly model: string;
  readonly points: readonly (BandPoint | null)[];
}

/** The expected range of a chart's periods, by their keys; or why there is none. */
export function expectedBand(
  kpi: CompiledKpi,
  { grain, level, keys }: { readonly grain: Grain; readonly level: number; readonly keys: readonly string[] },
  context: MeasureContext,
): ExpectedBand | { readonly notFitted: string } {
  if (!isRangeGrain(grain)) return { notFitted: `There are too few ${grain}s for an expected range.` };
  const found = judgeRange(kpi, { grain, last: keys.length, level }, context);
  if ("notFitted" in found) return { notFitted: `No expected range: ${found.notFitted}` };
  const { periods } = found.placed;
  const byKey = new Map(found.points.map(({ period, ...point }) => [periods[period]!.key, point]));
  return {
    level,
    model: found.model,
    points: keys.map((key) => {
      const point = byKey.get(key);
      if (!point) return null;
      const { expected, lower, upper, score, isOutside } = point;
      return { expected, lower, upper, score, isOutside };
    }),
  };
}

function isRangeGrain(grain: Grain): grain is RangeGrain {
  return (RANGE_GRAINS as readonly Grain[]).includes(grain);
}
