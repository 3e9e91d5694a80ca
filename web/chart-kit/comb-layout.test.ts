import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { COMB_WIDTH, layoutComb, MOST_TEETH } from "./comb-layout.ts";

describe("a comb", () => {
  it("has a tooth for each tolerance: right when above, left when below, a dot inside", () => {
    expect(layoutComb(3)).toEqual({ zero: 23, teeth: [26.5, 30, 33.5], hasDot: false, count: null });
    expect(layoutComb(-2)).toMatchObject({ teeth: [19.5, 16], hasDot: false });
    expect(layoutComb(0)).toEqual({ zero: 23, teeth: [], hasDot: true, count: null });
  });
  it("counts what it has no teeth for, on the free side of the thread", () => {
    expect(layoutComb(6).count).toBeNull();
    expect(layoutComb(9)).toMatchObject({ count: { text: "×9", anchor: "end", x: 19.5 } });
    expect(layoutComb(-12)).toMatchObject({ count: { text: "×12", anchor: "start", x: 26.5 } });
    expect(layoutComb(40_000).count?.text).toBe(">999");
  });
  it("stays inside its width, mirrored for the other side, whatever the variance", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e9 }), (tolerances) => {
        const [above, below] = [layoutComb(tolerances), layoutComb(-tolerances)];
        expect(above.teeth.length).toBe(Math.min(tolerances, MOST_TEETH));
        for (const x of above.teeth) expect(x).toBeLessThan(COMB_WIDTH);
        expect(below.teeth).toEqual(above.teeth.map((x) => COMB_WIDTH - x));
      }),
    );
  });
});
