import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { apart, labelWidth, thinnedLabels } from "./labels.ts";

describe("labels along a row of marks", () => {
  it("are all there where they fit, and none is made for what is absent", () => {
    expect([...thinnedLabels([1, undefined, 3], String, 40)]).toEqual([0, 2]);
    expect(thinnedLabels([undefined, undefined], String, 5).size).toBe(0);
    expect(thinnedLabels([], String, 5).size).toBe(0);
  });
  it("keep the last, the largest and the smallest where there is room for few", () => {
    const values = Array.from({ length: 40 }, (_, i) => (i === 10 ? 999_999 : i === 20 ? 100_000 : 500_000 + i));
    const kept = thinnedLabels(values, String, 10);
    for (const i of [39, 10, 20]) expect(kept.has(i)).toBe(true);
  });
  it("never overlap, whatever the values and the room, and there is always one", () => {
    fc.assert(
      fc.property(
        fc.array(fc.option(fc.integer({ min: -1e9, max: 1e9 }), { nil: undefined }), { minLength: 1, maxLength: 400 }),
        fc.integer({ min: 1, max: 80 }),
        (values, step) => {
          const kept = [...thinnedLabels(values, String, step)].sort((a, b) => a - b);
          const widest = Math.max(...kept.map((i) => labelWidth(String(values[i]))));
          for (let i = 1; i < kept.length; i += 1)
            expect((kept[i]! - kept[i - 1]!) * step).toBeGreaterThanOrEqual(Math.min(widest, step) - 1);
          expect(kept.length > 0).toBe(values.some((value) => value !== undefined));
        },
      ),
    );
  });
});

describe("names of level lines", () => {
  it("stand above their lines, and apart where lines are close", () => {
    expect(apart([{ name: "A", y: 100 }])[0]).toMatchObject({ y: 100, labelY: 97 });
    fc.assert(
      fc.property(
        fc.array(fc.record({ name: fc.string(), y: fc.integer({ min: 0, max: 300 }) }), { maxLength: 8 }),
        (lines) => {
          const placed = apart(lines);
          expect(placed.map((line) => line.y)).toEqual(lines.map((line) => line.y).sort((a, b) => a - b));
          for (let i = 1; i < placed.length; i += 1)
            expect(placed[i]!.labelY - placed[i - 1]!.labelY).toBeGreaterThanOrEqual(12);
        },
      ),
    );
  });
});
