import type { Stacking } from "#core/panels/parts/stacking.ts";

/** How the parts of a bar or column stand, in words. */
export const STACKING_WORDS: Readonly<Record<Stacking, string>> = {
  clustered: "beside each other",
  stacked: "on top of each other",
  share: "as shares of the whole",
};
