import type { PanelComputation } from "../panel-kind.ts";
import { computeChooser } from "./compute.ts";
import { chooserTable } from "./table.ts";
import type { ChooserChoice, ChooserDefinition, ChooserAnswer } from "./schema.ts";

/** A part of other panels that the reader chooses for all of them together. */
export const chooser: PanelComputation<ChooserDefinition, ChooserChoice, ChooserAnswer> = {
  compute: computeChooser,
  table: chooserTable,
};
