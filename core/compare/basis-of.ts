import type { Absence } from "../figures/figure.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import type { Frame } from "./frame.ts";
import { hasInputs } from "./has-inputs.ts";
import type { MeasureGround } from "./measure-ground.ts";
import { basisSide, type Side } from "./side.ts";

/** What a KPI is compared with in a frame: the frame's basis, or its own where the frame's does not have it. */
export function basisOf(
  kpi: CompiledKpi,
  frame: Frame,
  context: MeasureGround,
): { side: Side | Absence; isFallback: boolean } {
  const { coverage, calendar } = context;
  const side = basisSide({ ...frame, coverage, calendar });
  const { fallbackBasis } = kpi.definition;
  if (fallbackBasis !== null && ("absent" in side || !hasInputs(kpi, side.scenario, context))) {
    const own = basisSide({ ...frame, basis: { kind: "scenario", scenario: fallbackBasis }, coverage, calendar });
    if (!("absent" in own)) return { side: own, isFallback: true };
  }
  return { side, isFallback: false };
}
