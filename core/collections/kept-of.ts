/** The items that pass; the list itself where all of them do, so that what is kept of many is kept once. */
export function keptOf<T>(items: readonly T[], passes: (item: T) => boolean): readonly T[] {
  return items.every(passes) ? items : items.filter(passes);
}
