import { historyOf, type PlacedHistory } from "./history.ts";
import { USUAL_SEASON, type RangeGrain } from "./settings.ts";
import { dayOfNumber } from "../calendar/days.ts";
import { measureOver } from "../compare/measure.ts";
import type { MeasureContext } from "../compare/measure-ground.ts";
import { easterRegressors } from "../forecast/calendar-effects.ts";
import { expectedRange, leastHistory, type RangeEvent, type RangePoint } from "../forecast/expected-range.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";

/** A series with what was expected of it. */
export interface Judged {
  readonly placed: PlacedHistory;
  readonly model: string;
  readonly points: readonly RangePoint[];
  readonly events: readonly RangeEvent[];
}

/** Judges the last periods of a KPI's actual by what was known before each; says why where it cannot. */
export function judgeRange(
  kpi: CompiledKpi,
  { grain, last, level }: { readonly grain: RangeGrain; readonly last: number; readonly level: number },
  context: MeasureContext,
): Judged | { readonly notFitted: string } {
  const placed = historyOf(kpi, grain, context, { measureOver });
  if (!placed) return { notFitted: `No ${grain} of ${kpi.definition.name} has a figure here.` };
  const { values, first, known } = placed.history;
  const { day } = first;
  const found = expectedRange(
    { values, season: USUAL_SEASON[grain] },
    {
      // What came too early to be expected is shown without a range.
      from: Math.min(values.length, Math.max(values.length - last, leastHistory(USUAL_SEASON[grain]))),
      level,
      known: known.confirmed,
      usual: known.dismissed,
      ...(grain === "day" && day !== null ? { regressors: easterRegressors((t) => dayOfNumber(day + t)) } : {}),
    },
  );
  if ("notFitted" in found) return found;
  const most = placed.history.isShare && values.every((value) => value === null || value <= 1) ? 1 : Infinity;
  const points = found.points.map((point) => ({ ...point, upper: Math.min(most, point.upper) }));
  return { placed, model: found.model, points, events: found.events };
}
