import type { NewPanel } from "./panel-view.ts";

/** Why there is no panel by members where the data have none; `null` where they have. */
export function lacksDimension({ dimensions }: NewPanel): string | null {
  return dimensions.length > 0 ? null : "It needs a dimension, such as region or product. The data has none yet.";
}
