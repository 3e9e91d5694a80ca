import type { PanelComputation } from "../panel-kind.ts";
import { computeChooser, type ChooserAnswer } from "./compute.ts";
import type { ChooserChoice, ChooserDefinition } from "./definition.ts";
import { chooserTable } from "./table.ts";

/** A part of other panels that the reader chooses for all of them together. */
export const chooser: PanelComputation<ChooserDefinition, ChooserChoice, ChooserAnswer> = {
  compute: computeChooser,
  table: chooserTable,
};
