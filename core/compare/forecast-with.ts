import type { Month } from "../calendar/month.ts";
import type { Scenario } from "../cube/coverage.ts";
import type { Measured } from "./cover-view.ts";
import { hasInputs, viewHasInputs } from "./has-inputs.ts";
import type { MeasureGround } from "./measure-ground.ts";
import { forecastsBy } from "./side.ts";

/**
 * What "forecast" means for a figure: the latest one made by the end of a month that has all that a formula reads there,
 * or that one of its views does. Where none has it, the latest of all, which then is what does not have it; `undefined`
 * before the first.
 */
export function forecastWith(
  kpi: Measured,
  asOf: Month,
  ground: Pick<MeasureGround, "accounts" | "coverage">,
  view?: number,
): Scenario | undefined {
  const made = forecastsBy(ground.coverage, asOf);
  const has = ({ key }: Scenario) =>
    view === undefined ? hasInputs(kpi, key, ground) : viewHasInputs(kpi, view, key, ground);
  return made.find(has) ?? made[0];
}
