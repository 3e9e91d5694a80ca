import type { PanelComputation } from "../panel-kind.ts";
import { computeText } from "./compute.ts";
import { textTable } from "./table.ts";
import type { TextChoice, TextDefinition, TextAnswer } from "./schema.ts";

/** Words of the analyst's own, with figures that follow the frame. */
export const text: PanelComputation<TextDefinition, TextChoice, TextAnswer> = {
  compute: computeText,
  table: textTable,
};
