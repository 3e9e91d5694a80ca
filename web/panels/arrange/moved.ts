/** A list with one item at another place. */
export function moved<T>(items: readonly T[], from: number, to: number): T[] {
  return items.toSpliced(from, 1).toSpliced(to, 0, items[from]!);
}
