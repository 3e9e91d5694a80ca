/** How the parts of a whole stand: beside each other, on top of each other, or as shares of the whole. */
export const STACKINGS = ["clustered", "stacked", "share"] as const;
export type Stacking = (typeof STACKINGS)[number];
