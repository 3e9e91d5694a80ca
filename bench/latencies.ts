/** Times of many answers, in milliseconds. */
export class Latencies {
  private readonly times: number[] = [];

  add(ms: number): void {
    this.times.push(ms);
  }

  get count(): number {
    return this.times.length;
  }

  /** The time that a share of all answers kept within: `at(0.95)`. Not a number where there are none. */
  at(share: number): number {
    const sorted = this.times.toSorted((a, b) => a - b);
    return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? Number.NaN;
  }
}
