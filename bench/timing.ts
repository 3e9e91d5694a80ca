/** Runs work once and says how many milliseconds it took. */
export async function timed<T>(work: () => Promise<T>): Promise<{ value: T; ms: number }> {
  const start = performance.now();
  const value = await work();
  return { value, ms: performance.now() - start };
}

/** The median time of several runs in milliseconds, after two that warm up. */
export async function medianTime(runs: number, work: () => Promise<unknown>): Promise<number> {
  const times: number[] = [];
  for (let i = -2; i < runs; i += 1) {
    const { ms } = await timed(work);
    if (i >= 0) times.push(ms);
  }
  return median(times);
}

/** The middle one of some values; with an even number of them the upper of the two in the middle. */
export function median(values: readonly number[]): number {
  return [...values].sort((a, b) => a - b)[values.length >> 1]!;
}
