import { compareSides, type SidesCompared } from "../compare/compare-kpi.ts";
import type { MeasureContext } from "../compare/measure-ground.ts";
import { measureOver } from "../compare/measure.ts";
import { SHOWN, type Side } from "../compare/side.ts";
import { varianceOf } from "../compare/variance.ts";
import { absent, isPresent, present } from "../figures/figure.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import type { Grain } from "./grain.ts";
import type { Period } from "./periods.ts";
import type { Figure, Judgement } from "../figures/schema.ts";

/** How a KPI grew. */
export interface Grown {
  readonly now: Figure;
  readonly before: Figure;
  /** As a fraction of the value before; for KPIs in percent, the difference. */
  readonly growth: Figure;
  readonly judgement: Judgement | null;
}

/** How many months back the period before begins; days and weeks are no months. */
export const GRAIN_MONTHS: Readonly<Partial<Record<Grain, number>>> = { month: 1, quarter: 3, year: 12 };

/** The actual a number of months earlier, to grow from. */
export function sideBefore(shift: number): Side {
  return { scenario: "actual", shift, name: shift === 12 ? "Prior year" : "Period before" };
}

/** How much a KPI's actual grew on what it is compared with. */
export function grownOn(kpi: CompiledKpi, { actualInCommon, basis, variance }: SidesCompared): Grown {
  return {
    now: actualInCommon.figure,
    before: basis.figure,
    growth: kpi.definition.unit.kind === "percent" ? variance.delta : variance.deltaPercent,
    judgement: variance.judgement,
  };
}

/** A part of a period does not stand for it, and grows only on the same months of another year. */
const PART_ONLY = absent("not covered", "Part of a period is not compared with a whole one.");

/**
 * How much a KPI grew in a period: on the same one a year before, or on the one before it. `earlier` is that one where
 * the grain is no whole months: days and weeks are compared with the period before as it is.
 */
export function grownIn(
  kpi: CompiledKpi,
  period: Period,
  { grain, onYear, earlier }: { readonly grain: Grain; readonly onYear: boolean; readonly earlier: Period | undefined },
  context: MeasureContext,
): Grown {
  const shift = onYear ? 12 : GRAIN_MONTHS[grain];
  if (shift !== undefined) {
    const compared = compareSides(kpi, SHOWN, sideBefore(shift), period.window, context);
    const grown = grownOn(kpi, compared);
    const isPart = period.isPart === true || compared.compared.length < compared.asked.length;
    return isPart && shift % 12 !== 0 && isPresent(grown.growth)
      ? { ...grown, growth: PART_ONLY, judgement: null }
      : grown;
  }
  const now = measureOver(kpi, SHOWN, period.window, context).figure;
  const before = earlier
    ? measureOver(kpi, SHOWN, earlier.window, context).figure
    : ({ absent: "not covered", detail: "There is no period before it." } as const);
  const delta = isPresent(now) && isPresent(before) ? present(now.value - before.value) : isPresent(now) ? before : now;
  const variance = varianceOf(delta, before, kpi.definition);
  return {
    now,
    before,
    growth: kpi.definition.unit.kind === "percent" ? variance.delta : variance.deltaPercent,
    judgement: variance.judgement,
  };
}
