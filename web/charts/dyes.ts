/** How many members are told apart by colour. */
export const DYES = 8;

/** The colour of a member by its place among its like: the same on every panel. What is gathered has none. */
export function dyeOf(at: number | null): string {
  return at === null ? "var(--thread)" : `var(--dye-${(at % DYES) + 1})`;
}
