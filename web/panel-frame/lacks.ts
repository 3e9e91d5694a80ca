import type { NewPanel } from "./panel-view.ts";

/** Why there is no panel by members where the data have none; `null` where they have. */
export function lacksDimension({ dimensions }: NewPanel): string | null {
  return dimensions.length > 0
    ? null
    : "This panel needs a dimension, such as region or product, and the data has none yet.";
}
