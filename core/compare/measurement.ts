import type { Month } from "../calendar/month.ts";
import type { ViewCoverage } from "./cover-view.ts";
import type { Side } from "./side.ts";
import type { Figure } from "../figures/schema.ts";

/** A formula as one side covers it: its leading view, and all of them in the formula's order. */
export interface SideCoverage extends ViewCoverage {
  readonly views: readonly ViewCoverage[];
}

/** A formula on one side: its figure, the inputs it was made of, and the months that went in. */
export interface Measurement {
  readonly side: Side;
  readonly figure: Figure;
  /** Aggregated inputs in whole minor units of their accounts, in the formula's order. */
  readonly inputs: readonly Figure[];
  /** The months that went in by the leading view, as this side reads them. */
  readonly months: readonly Month[];
  /** The same for each view. */
  readonly viewMonths: readonly (readonly Month[])[];
  readonly coverage: SideCoverage;
}
