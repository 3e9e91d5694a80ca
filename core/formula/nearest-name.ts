/** The name closest to a mistyped one by edit distance, or `undefined` when none is close. */
export function nearestName(mistyped: string, names: readonly string[]): string | undefined {
  let best: string | undefined;
  let bestDistance = Math.max(2, Math.floor(mistyped.length / 3)) + 1;
  for (const name of names) {
    const distance = editDistance(mistyped, name);
    if (distance < bestDistance) [best, bestDistance] = [name, distance];
  }
  return best;
}

/** Insertions, deletions and replacements that turn one text into the other (Wagner and Fischer 1974). */
export function editDistance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i += 1) {
    const next = [i];
    for (let j = 1; j <= b.length; j += 1) {
      next.push(Math.min(row[j]! + 1, next[j - 1]! + 1, row[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1)));
    }
    row = next;
  }
  return row[b.length]!;
}
