import type { StatusRule } from "./status.ts";

/** How a KPI's value is shown and compared. Percent values are fractions: 0.25 is 25 %. */
export type KpiUnit =
  /** Money is written with the decimals of the reader's unit, where it has none of its own. */
  | { readonly kind: "money"; readonly decimals?: number | undefined }
  | { readonly kind: "money-per"; readonly per: string }
  | { readonly kind: "count"; readonly of: string }
  | { readonly kind: "percent" }
  | { readonly kind: "days" }
  | { readonly kind: "ratio"; readonly of: string };

/** Which way is good. `closest`: the nearer to the basis the better. */
export type Direction = "higher" | "lower" | "closest" | "neutral";

/** A variance inside the tolerance counts as on plan. An amount is in the KPI's own unit, whatever the span. */
export type Tolerance =
  | { readonly kind: "percent"; readonly percent: number }
  | { readonly kind: "points"; readonly points: number }
  | { readonly kind: "amount"; readonly amount: number };

/** A KPI as the library keeps it. */
export interface KpiDefinition {
  readonly key: string;
  readonly name: string;
  readonly formula: string;
  readonly unit: KpiUnit;
  readonly decimals: number;
  readonly direction: Direction;
  readonly tolerance: Tolerance;
  readonly owner: string;
  readonly description: string;
  /** How its values are graded; `null` where the variance says it. */
  readonly status: StatusRule | null;
  /** The scenario to compare with where the frame's basis does not have this KPI at all. */
  readonly fallbackBasis: string | null;
}
