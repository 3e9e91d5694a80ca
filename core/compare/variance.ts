import { absent, combine, isPresent, present } from "../figures/figure.ts";
import type { Figure, Judgement, Variance } from "../figures/schema.ts";
import type { Direction, Tolerance, KpiDefinition } from "../kpis/schema.ts";

/** Δ in percent of the basis: Δ / |basis|. A basis of 0 or none is "no base". */
export function percentOfBasis(delta: Figure, basis: Figure): Figure {
  if (!isPresent(basis)) return absent("no base", `There is nothing to compare with: ${basis.detail}`);
  if (basis.value === 0) return absent("no base", "The basis is zero, so there is no percentage.");
  return combine(delta, basis, (d, b) => present(d / Math.abs(b)));
}

/** Judges Δ by direction and tolerance; the limits of the tolerance are inside it. */
export function judge(delta: number, basis: number, direction: Direction, tolerance: Tolerance): Judgement {
  return judgementOf(tolerancesOf(delta, basis, tolerance), direction);
}

/** The judgement of so many whole tolerances, signed as Δ. */
export function judgementOf(tolerances: number, direction: Direction): Judgement {
  if (direction === "neutral") return "neutral";
  if (tolerances === 0) return "on plan";
  if (direction === "closest") return "unfavourable";
  return tolerances > 0 === (direction === "higher") ? "favourable" : "unfavourable";
}

/** How many whole tolerances Δ spans, signed as Δ; the limit of a tolerance is inside it. */
export function tolerancesOf(delta: number, basis: number, tolerance: Tolerance): number {
  const size = toleranceOf(tolerance, basis);
  if (Math.abs(delta) <= size) return 0;
  // 0.3 holds 0.1 three times, whatever its last bit says.
  return Math.sign(delta) * (size === 0 ? 1 : Math.max(1, Math.floor(Math.abs(delta) / size + 1e-9)));
}

/** Puts a variance together; `delta` is computed by the caller, exactly. */
export function varianceOf(
  delta: Figure,
  basis: Figure,
  kpi: Pick<KpiDefinition, "direction" | "tolerance">,
): Variance {
  const deltaPercent = percentOfBasis(delta, basis);
  if (!isPresent(delta) || !isPresent(basis)) return { delta, deltaPercent, judgement: null, tolerances: null };
  return {
    delta,
    deltaPercent,
    judgement: judge(delta.value, basis.value, kpi.direction, kpi.tolerance),
    tolerances: tolerancesOf(delta.value, basis.value, kpi.tolerance),
  };
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
