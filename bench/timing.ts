/** Runs work once and says how many milliseconds it took. */
export async function timed<T>(work: () => Promise<T>): Promise<{ value: T; ms: number }> {
  const start = performance.now();
  const value = await work();
  return { value, ms: performance.now() - start };
}

/** The median time of several runs in milliseconds, after two that warm up. */
export async function median(runs: number, work: () => Promise<unknown>): Promise<number> {
  const times: number[] = [];
  for (let i = -2; i < runs; i += 1) {
    const { ms } = await timed(work);
    if (i >= 0) times.push(ms);
  }
  return times.sort((a, b) => a - b)[Math.floor(times.length / 2)]!;
}
