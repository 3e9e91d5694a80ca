import { deserialize, serialize } from "node:v8";
import type { FitMemory } from "#core/forecast/kept-fits.ts";
import { RecentMap } from "#core/collections/recent-map.ts";

/** A fit as it is stored and sent between threads. */
export interface PackedFit {
  readonly key: string;
  readonly data: Uint8Array;
}

/** So many fits are at hand in a thread at least; those used longest ago go first. */
const ENOUGH = 6000;

/** The fits that a thread has at hand, whatever company they are of: they are found by what they were made from. */
export class FitStore implements FitMemory {
  onDeferred: (() => void) | undefined;
  private readonly fits = new RecentMap<string, { readonly result: unknown }>(ENOUGH);
  private made: PackedFit[] = [];

  find(key: string): unknown {
    return this.fits.get(key)?.result;
  }

  keep(key: string, result: unknown): void {
    this.fits.set(key, { result });
    this.made.push({ key, data: serialize(result) });
  }

  /** Takes over what others made. */
  take(fits: readonly PackedFit[]): void {
    for (const { key, data } of fits)
      if (this.fits.get(key) === undefined) this.fits.set(key, { result: deserialize(data) as unknown });
  }

  /** What was made here since this was asked last, for others to take over. */
  takeMade(): PackedFit[] {
    const { made } = this;
    this.made = [];
    return made;
  }
}
