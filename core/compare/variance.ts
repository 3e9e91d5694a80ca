import { absent, combine, isPresent, present, type Figure } from "../figures/figure.ts";
import type { Direction, KpiDefinition, Tolerance } from "../kpis/kpi.ts";

/** How a variance is judged by the KPI's direction. */
export type Judgement = "favourable" | "unfavourable" | "on plan" | "neutral";

/** A variance Δ = actual − basis, always in that order. */
export interface Variance {
  /** In the KPI's unit; for percent KPIs a fraction, shown in points. */
  readonly delta: Figure;
  /** Δ / |basis| as a fraction. */
  readonly deltaPercent: Figure;
  /** `null` when there is no Δ to judge. */
  readonly judgement: Judgement | null;
}

/** Δ in percent of the basis: Δ / |basis|. A basis of 0 or none is "no base". */
export function percentOfBasis(delta: Figure, basis: Figure): Figure {
  if (!isPresent(basis)) return absent("no base", `There is nothing to compare with: ${basis.detail}`);
  if (basis.value === 0) return absent("no base", "The basis is zero: a percentage of it says nothing.");
  return combine(delta, basis, (d, b) => present(d / Math.abs(b)));
}

/** Judges Δ by direction and tolerance; the limits of the tolerance are inside it. */
export function judge(delta: number, basis: number, direction: Direction, tolerance: Tolerance): Judgement {
  if (direction === "neutral") return "neutral";
  if (Math.abs(delta) <= toleranceOf(tolerance, basis)) return "on plan";
  if (direction === "closest") return "unfavourable";
  return delta > 0 === (direction === "higher") ? "favourable" : "unfavourable";
}

/** Puts a variance together; `delta` is computed by the caller, exactly. */
export function varianceOf(
  delta: Figure,
  basis: Figure,
  kpi: Pick<KpiDefinition, "direction" | "tolerance">,
): Variance {
  const judgement =
    isPresent(delta) && isPresent(basis) ? judge(delta.value, basis.value, kpi.direction, kpi.tolerance) : null;
  return { delta, deltaPercent: percentOfBasis(delta, basis), judgement };
}

function toleranceOf(tolerance: Tolerance, basis: number): number {
  switch (tolerance.kind) {
    case "percent":
      return (tolerance.percent / 100) * Math.abs(basis);
    case "points":
      return tolerance.points / 100;
    case "amount":
      return tolerance.amount;
  }
}
