/** The dyer's colours, in their order. */
export const DYE_NAMES = ["sky", "orange", "plum", "moss", "aubergine", "rose", "violet", "umber"] as const;

/** How many members are told apart by colour. */
export const DYES = DYE_NAMES.length;

/** The colour at a place among the dyer's colours, which begin again after the last. What is gathered has none. */
export function dyeOf(at: number | null): string {
  return at === null ? "var(--thread)" : `var(--dye-${(at % DYES) + 1})`;
}

/** What a page keeps a colour under: a member of a dimension, or a KPI, whatever the dimensions are called. */
export function dyeKey(of: { readonly dimension: string; readonly member: string } | { readonly kpi: string }): string {
  return "kpi" in of ? `kpi:${of.kpi}` : `${of.dimension}/${of.member}`;
}
