import type { PanelComputation } from "../panel-kind.ts";
import { computeExpectedRange } from "./compute.ts";
import { expectedRangeTable } from "./table.ts";
import type { ExpectedRangeChoice, ExpectedRangeDefinition, ExpectedRangeAnswer } from "./schema.ts";

/** A KPI's actual in the range that history led one to expect. */
export const expectedRange: PanelComputation<ExpectedRangeDefinition, ExpectedRangeChoice, ExpectedRangeAnswer> = {
  compute: computeExpectedRange,
  table: expectedRangeTable,
};
