import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { forecastWith } from "./forecast-with.ts";
import type { Frame } from "./frame.ts";
import { hasInputs } from "./has-inputs.ts";
import type { MeasureGround } from "./measure-ground.ts";
import { basisSide, type Side } from "./side.ts";
import type { Absence } from "../figures/schema.ts";

/**
 * What a KPI is compared with in a frame: the frame's basis, or its own where the frame's does not have it. "Forecast" is
 * the latest one that has the KPI.
 */
export function basisOf(
  kpi: CompiledKpi,
  frame: Frame,
  context: MeasureGround,
): { side: Side | Absence; isFallback: boolean } {
  const { coverage, calendar } = context;
  const side = basisSide({ ...frame, coverage, calendar });
  if (frame.basis.kind === "latest-forecast" && !("absent" in side)) {
    const own = forecastWith(kpi, frame.asOf, context)!;
    if (own.key !== side.scenario) return { side: { scenario: own.key, shift: 0, name: own.name }, isFallback: true };
  }
  const { fallbackBasis } = kpi.definition;
  if (fallbackBasis !== null && ("absent" in side || !hasInputs(kpi, side.scenario, context))) {
    const own = basisSide({ ...frame, basis: { kind: "scenario", scenario: fallbackBasis }, coverage, calendar });
    if (!("absent" in own)) return { side: own, isFallback: true };
  }
  return { side, isFallback: false };
}
