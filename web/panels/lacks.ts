import type { NewPanel } from "./panel-view.ts";

/** Why there is no panel by members where the data have none; `null` where they have. */
export function lacksDimension({ dimensions }: NewPanel): string | null {
  return dimensions.length > 0
    ? null
    : "It shows parts, and the data have none: load a file with a column such as region or product.";
}
