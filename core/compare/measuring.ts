import type { Month } from "../calendar/month.ts";
import type { MeasureContext, MeasureGround } from "./measure-ground.ts";
import type { Measurement, SideCoverage } from "./measurement.ts";
import type { Side } from "./side.ts";
import type { Window } from "./window.ts";
import type { Measured } from "./measured.ts";

/** How a formula is measured over what a side covers of a window. */
export interface MeasuringOver {
  readonly measureOver: (kpi: Measured, side: Side, window: Window, context: MeasureContext) => Measurement;
}

/** How formulas are measured; given, since measuring itself reads outlooks. */
export interface Measuring extends MeasuringOver {
  readonly coverSide: (kpi: Measured, side: Side, window: Window, frame: MeasureGround) => SideCoverage;
  readonly measure: (
    kpi: Measured,
    coverage: SideCoverage,
    months: readonly (readonly Month[])[],
    context: MeasureContext,
  ) => Measurement;
}
