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

/** By what, and how many of the last periods are judged; the level in percent. */
export interface RangeAsked {
  readonly grain: RangeGrain;
  readonly last: number;
  readonly level: number;
}

/** Why a series could not be judged; its history where there is one. */
export interface NotJudged {
  readonly notFitted: string;
  readonly placed: PlacedHistory | null;
}

/** Judges the last periods of a KPI's actual by what was known before each; says why where it cannot. */
export function judgeRange(
  kpi: CompiledKpi,
  { grain, last, level }: RangeAsked,
  context: MeasureContext,
): Judged | NotJudged {
  const placed = historyOf(kpi, grain, context, { measureOver });
  if (!placed) return { notFitted: `${kpi.definition.name} has no figures by ${grain} here.`, placed };
  return judgePlaced(placed, { grain, last, level });
}

/** The same of a history that is there already. */
export function judgePlaced(placed: PlacedHistory, { grain, last, level }: RangeAsked): Judged | NotJudged {
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
      ...(grain === "day" && day !== null
        ? { regressors: easterRegressors((t) => dayOfNumber(day + t)), origin: day }
        : {}),
    },
  );
  if ("notFitted" in found) return { ...found, placed };
  if (found.points.length === 0)
    return {
      notFitted: `No expected range yet: it starts with the ${grain} after the first ${values.length}.`,
      placed,
    };
  const most = placed.history.isShare && values.every((value) => value === null || value <= 1) ? 1 : Infinity;
  const points = found.points.map((point) => ({ ...point, upper: Math.min(most, point.upper) }));
  return { placed, model: found.model, points, events: found.events };
}
