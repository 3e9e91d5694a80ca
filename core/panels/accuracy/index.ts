import type { PanelComputation } from "../panel-kind.ts";
import { computeAccuracy } from "./compute.ts";
import { accuracyTable } from "./table.ts";
import type { AccuracyChoice, AccuracyDefinition, AccuracyAnswer } from "./schema.ts";

/** How right the versions of a forecast were. */
export const accuracy: PanelComputation<AccuracyDefinition, AccuracyChoice, AccuracyAnswer> = {
  compute: computeAccuracy,
  table: accuracyTable,
};
