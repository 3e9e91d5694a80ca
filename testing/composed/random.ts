/** Draws from a seed, the same ones each time (Mulberry32, Ettinger 2017). */
export class Random {
  private state: number;
  constructor(seed: number) {
    this.state = seed >>> 0;
  }

  /** 0 to under 1. */
  number(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0;
    let t = this.state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  }

  whole(from: number, to: number): number {
    return from + Math.floor(this.number() * (to - from + 1));
  }

  chance(share: number): boolean {
    return this.number() < share;
  }

  pick<T>(from: readonly T[]): T {
    return from[Math.floor(this.number() * from.length)]!;
  }

  shuffled<T>(from: readonly T[]): T[] {
    const made = [...from];
    for (let i = made.length - 1; i > 0; i -= 1) {
      const k = this.whole(0, i);
      [made[i], made[k]] = [made[k]!, made[i]!];
    }
    return made;
  }

  some<T>(from: readonly T[], count: number): T[] {
    return this.shuffled(from).slice(0, count);
  }
}
