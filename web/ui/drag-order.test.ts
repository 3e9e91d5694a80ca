import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { movedOnto } from "./drag-order.ts";

describe("an item dragged onto another", () => {
  it("takes its place, and nothing is lost or doubled", () => {
    expect(movedOnto(["a", "b", "c", "d"], "a", "c")).toEqual(["b", "c", "a", "d"]);
    expect(movedOnto(["a", "b", "c", "d"], "d", "b")).toEqual(["a", "d", "b", "c"]);
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer(), { minLength: 1 }), fc.nat(), fc.nat(), (items, a, b) => {
        const [item, onto] = [items[a % items.length]!, items[b % items.length]!];
        const moved = movedOnto(items, item, onto);
        const ordered = (of: readonly number[]) => of.toSorted((a, b) => a - b);
        expect(ordered(moved)).toEqual(ordered(items));
        expect(moved.indexOf(item)).toBe(items.indexOf(onto));
      }),
    );
    expect(movedOnto(["a"], "x", "a")).toEqual(["a"]);
  });
});
