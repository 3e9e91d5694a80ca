import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { RecentMap } from "./recent-map.ts";

describe("a map of what was used lately", () => {
  it("has what was set or found lately, with the value set last, and no more than twice as much", () => {
    const uses = fc.array(fc.record({ key: fc.nat(30), value: fc.option(fc.nat(9), { nil: undefined }) }));
    fc.assert(
      fc.property(uses, fc.integer({ min: 1, max: 8 }), (all, enough) => {
        const map = new RecentMap<number, number>(enough);
        const values = new Map<number, number>();
        let recent: number[] = [];
        for (const { key, value } of all) {
          if (value !== undefined) {
            map.set(key, value);
            values.set(key, value);
          } else if (map.get(key) === undefined) continue;
          recent = [...recent.filter((other) => other !== key), key].slice(-enough);
          expect(map.size).toBeLessThanOrEqual(2 * enough);
        }
        for (const key of recent.slice(1 - enough)) expect(map.get(key)).toBe(values.get(key));
      }),
    );
  });
});
