/** How strongly a colour is mixed into the panel at most: figures on it stay readable in both themes. */
const MOST = 48;
const LEAST = 4;

/** A colour mixed into the panel's, by a strength between 0 and 1. */
export function shadeOf(colour: string, strength: number): string {
  const share = LEAST + (MOST - LEAST) * Math.max(0, Math.min(1, strength));
  return `color-mix(in oklab, ${colour} ${share.toFixed(1)}%, var(--panel))`;
}

/** The size at which a shade is at its strongest: the largest, but for a few outliers that would make all others pale. */
export function strongest(sizes: readonly number[]): number {
  const sorted = sizes.filter((size) => size > 0).sort((a, b) => a - b);
  if (sorted.length === 0) return 0;
  return sorted.length < 20 ? sorted.at(-1)! : sorted[Math.floor((sorted.length - 1) * 0.97)]!;
}
