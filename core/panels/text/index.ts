import type { PanelComputation } from "../panel-kind.ts";
import { computeText, type TextAnswer } from "./compute.ts";
import type { TextChoice, TextDefinition } from "./definition.ts";
import { textTable } from "./table.ts";

/** Words of the analyst's own, with figures that follow the frame. */
export const text: PanelComputation<TextDefinition, TextChoice, TextAnswer> = {
  compute: computeText,
  table: textTable,
};
