import { RATES_DATASET } from "#core/currency/rates-dataset.ts";
import type { Definition } from "#contract/intake.ts";
import type { EditableStructure } from "#contract/structure.ts";

/** The dataset that a file goes to, where it is there already; rates have one of their own. */
export function datasetOf(
  structure: EditableStructure,
  { dataset }: Pick<Definition["rules"]["mapping"], "dataset">,
): { readonly key: string; readonly name: string } | undefined {
  return dataset === RATES_DATASET.key ? RATES_DATASET : structure.datasets.find(({ key }) => key === dataset);
}
