const MEGABYTE = 2 ** 20;

/**
 * The bytes in which facts may be kept: `HACKLE_MEMORY` in megabytes, 0 for none; a quarter of the machine's memory
 * where nothing is said. Throws an `Error` that names what was said where it is no number.
 */
export function readMemoryBudget(said: string | undefined, machineBytes: number): number {
  if (said === undefined || said.trim() === "") return Math.floor(machineBytes / 4);
  const megabytes = Number(said);
  if (!Number.isFinite(megabytes) || megabytes < 0)
    throw new Error(`HACKLE_MEMORY is "${said}"; it must be a number of megabytes, or 0 to keep no facts in memory.`);
  return megabytes * MEGABYTE;
}

/** Whoever keeps facts in memory. */
export interface MemoryOwner {
  /** When its facts were last asked for, by the clock that the budget is given. */
  readonly usedAt: number;
  /** Lets go of what it keeps; it may come back for it. */
  letGo(): void;
}

/** Facts that were asked for so recently stay where they are, whoever wants their place. */
const IN_USE_MS = 60_000;

/** One budget for all companies: what one keeps, the others may not; what was not asked for lately makes room. */
export class MemoryBudget {
  private readonly kept = new Map<MemoryOwner, number>();

  constructor(
    readonly bytes: number,
    private readonly now: () => number = () => performance.now(),
  ) {}

  /** Whether an owner may keep so many bytes, in the place of what it keeps; others make room where they can. */
  take(owner: MemoryOwner, bytes: number): boolean {
    const others = () => [...this.kept].filter(([other]) => other !== owner);
    const free = () => this.bytes - others().reduce((sum, [, own]) => sum + own, 0);
    const idle = others()
      .filter(([{ usedAt }]) => this.now() - usedAt > IN_USE_MS)
      .sort(([a], [b]) => a.usedAt - b.usedAt);
    if (bytes > free() + idle.reduce((sum, [, own]) => sum + own, 0)) return false;
    while (bytes > free()) {
      const [oldest] = idle.shift()!;
      this.kept.delete(oldest);
      oldest.letGo();
    }
    this.kept.set(owner, bytes);
    return true;
  }

  /** An owner keeps nothing any more. */
  giveBack(owner: MemoryOwner): void {
    this.kept.delete(owner);
  }
}
