import { forecastWith } from "../../compare/forecast-with.ts";
import { planOfRest } from "../../compare/outlook-months.ts";
import { isEstimate, LATEST } from "../../formula/outlook-source.ts";
import type { MeasureGround } from "../../compare/measure-ground.ts";
import { ACTUAL, SHOWN, WITH_OUTLOOK, type Side } from "../../compare/side.ts";
import type { Month } from "../../calendar/month.ts";
import type { Measured } from "../../compare/measured.ts";

/** Which sides a chart over time draws: what is known, and what is expected after it; none where a version has its own. */
export interface ChartSides {
  readonly known: Side;
  readonly open: Side | undefined;
}

/**
 * The sides of a KPI over time: the actual and the latest forecast; the actual and what the year's outlook takes for
 * the rest; a version alone.
 */
export function chartSides(kpi: Measured, asOf: Month, ground: MeasureGround): ChartSides {
  if (ground.shown === WITH_OUTLOOK) {
    const source = ground.outlook ?? LATEST;
    const plan = isEstimate(source) ? undefined : planOfRest(source, kpi, asOf, ground);
    return { known: ACTUAL, open: plan && "scenario" in plan ? { ...SHOWN, name: plan.name } : undefined };
  }
  const latest = ground.shown === undefined ? forecastWith(kpi, asOf, ground) : undefined;
  return { known: SHOWN, open: latest && { scenario: latest.key, shift: 0, name: latest.name } };
}
