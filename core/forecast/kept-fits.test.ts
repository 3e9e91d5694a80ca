import { describe, expect, it } from "vitest";
import { expectedRange } from "./expected-range.ts";
import { keptFit, withFits, WORKED_OUT, type FitMemory } from "./kept-fits.ts";
import { randomOf } from "./numerics/random.ts";

class Memory implements FitMemory {
  readonly kept = new Map<string, unknown>();
  found = 0;
  onDeferred: (() => void) | undefined;
  find(key: string): unknown {
    const known = this.kept.get(key);
    if (known !== undefined) this.found += 1;
    return known;
  }
  keep(key: string, result: unknown): void {
    this.kept.set(key, structuredClone(result));
  }
}
const random = randomOf(3);
const values = Array.from(
  { length: 900 },
  (_, t) =>
    500 + 60 * Math.sin((2 * Math.PI * t) / 365.25) + 30 * Math.sin((2 * Math.PI * t) / 7) + 5 * random.normal(),
);
const judge = (last: number, until = values.length) =>
  expectedRange({ values: values.slice(0, until), season: 7 }, { from: until - last });

describe("kept fits", () => {
  it("give what fitting anew gives, to the last digit, and are made once", () => {
    const memory = new Memory();
    const anew = judge(61);
    const first = withFits(memory, () => judge(61));
    const made = memory.kept.size;
    const again = withFits(memory, () => judge(61));
    expect([first, again]).toEqual([anew, anew]);
    expect([memory.kept.size, memory.found > 0]).toEqual([made, true]);
  });
  it("serve the periods before, and those that come after, from the same places", () => {
    const memory = new Memory();
    withFits(memory, () => judge(61));
    const fits = memory.kept.size;
    withFits(memory, () => judge(40, 880));
    // Another stretch of the same history is judged by the models that are there: only the judging itself is new.
    expect(memory.kept.size).toBe(fits + 1);
  });
  it("are told apart by every number, by settings and by kind", () => {
    const memory = new Memory();
    const keys = () => memory.kept.size;
    withFits(memory, () => {
      for (const series of [
        [1, 2, 3],
        [1, 2, 4],
        [1, 2],
        [1, null, 3],
        [1, 2, 3, 0],
        [-1, 2, 3],
      ])
        keptFit({ kind: "a", series: [series], settings: null }, () => 1);
      keptFit({ kind: "b", series: [[1, 2, 3]], settings: null }, () => 1);
      keptFit({ kind: "a", series: [[1, 2, 3]], settings: { level: 80 } }, () => 1);
      keptFit({ kind: "a", series: [[1], [2, 3]], settings: null }, () => 1);
      keptFit({ kind: "a", series: [[1, 2, 3]], settings: null }, () => 1);
    });
    expect(keys()).toBe(9);
  });
  it("that were not made yet are left out where they are deferred, and nothing is made", () => {
    const memory = new Memory();
    let deferred = 0;
    memory.onDeferred = () => void (deferred += 1);
    expect(withFits(memory, () => judge(61))).toEqual({ notFitted: WORKED_OUT });
    expect([memory.kept.size, deferred]).toEqual([0, 1]);
    memory.onDeferred = undefined;
    const made = withFits(memory, () => judge(61));
    memory.onDeferred = () => void (deferred += 1);
    expect(withFits(memory, () => judge(61))).toEqual(made);
    expect(deferred).toBe(1);
  });
});
