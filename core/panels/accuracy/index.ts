import type { PanelComputation } from "../panel-kind.ts";
import { computeAccuracy, type AccuracyAnswer } from "./compute.ts";
import type { AccuracyChoice, AccuracyDefinition } from "./definition.ts";
import { accuracyTable } from "./table.ts";

/** How right the versions of a forecast were. */
export const accuracy: PanelComputation<AccuracyDefinition, AccuracyChoice, AccuracyAnswer> = {
  compute: computeAccuracy,
  table: accuracyTable,
};
