import { isPresent } from "../../figures/figure.ts";
import type { Figure, KpiUnit } from "../../figures/schema.ts";
/** What a part is of its whole: so much of it, or, where a whole is no sum of its parts, a figure of its own. */
export type PartOf =
  | { readonly is: "share"; readonly share: number; readonly value: number }
  | { readonly is: "figure"; readonly value: number };

/** Units whose wholes are sums of their parts; a share of a percentage or of an average says nothing. */
const ADDITIVE: ReadonlySet<KpiUnit["kind"]> = new Set(["money", "count"]);

/** Whether a KPI's wholes are the sums of their parts. */
export function isAdditive({ kind }: KpiUnit): boolean {
  return ADDITIVE.has(kind);
}

/** What a part is of a whole; `null` where there is nothing to say. A part of nothing, or against its sign, is no share. */
export function partOf(unit: KpiUnit, whole: Figure, part: Figure | undefined): PartOf | null {
  if (!part || !isPresent(part)) return null;
  const { value } = part;
  if (!isAdditive(unit) || !isPresent(whole) || whole.value === 0) return { is: "figure", value };
  const share = value / whole.value;
  return share < 0 || share > 1 ? { is: "figure", value } : { is: "share", share, value };
}
