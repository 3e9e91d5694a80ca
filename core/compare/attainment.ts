import { absent, combine, isPresent, present } from "../figures/figure.ts";
import type { Figure } from "../figures/schema.ts";
import type { Direction } from "../kpis/schema.ts";

/** How much of its basis a KPI reaches: actual ÷ basis. "No base" where the basis is not positive, since a share of it says nothing. */
export function attainmentOf(actual: Figure, basis: Figure): Figure {
  if (!isPresent(basis)) return absent("no base", basis.detail);
  if (basis.value <= 0) return absent("no base", "The basis is not positive, so there is no attainment.");
  return combine(actual, basis, (a, b) => present(a / b));
}

/**
 * A number by which attainments are ranked, higher for the better one: more of the basis where
 * higher is better, less of it where lower is, nearer to it where closest is. Neutral KPIs rank by
 * the share alone. `null` where there is nothing to rank.
 */
export function attainmentRank(attainment: Figure, direction: Direction): number | null {
  if (!isPresent(attainment)) return null;
  switch (direction) {
    case "lower":
      return -attainment.value;
    case "closest":
      return -Math.abs(attainment.value - 1);
    default:
      return attainment.value;
  }
}
