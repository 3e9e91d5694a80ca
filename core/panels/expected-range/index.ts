import type { PanelComputation } from "../panel-kind.ts";
import { computeExpectedRange, type ExpectedRangeAnswer } from "./compute.ts";
import type { ExpectedRangeChoice, ExpectedRangeDefinition } from "./definition.ts";
import { expectedRangeTable } from "./table.ts";

/** A KPI's actual in the range that history led one to expect. */
export const expectedRange: PanelComputation<ExpectedRangeDefinition, ExpectedRangeChoice, ExpectedRangeAnswer> = {
  compute: computeExpectedRange,
  table: expectedRangeTable,
};
