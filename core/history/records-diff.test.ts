import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { applyDiff, conflictsOf, diffRecords, isEmptyDiff, isSame, reverseDiff } from "./records-diff.ts";

const names = fc.constantFrom("a", "b", "c", "d");
const values = fc.oneof(
  fc.integer({ min: 0, max: 2 }),
  fc.record({ x: fc.integer({ min: 0, max: 1 }) }),
  fc.constant(null),
);
const states = fc.dictionary(names, values, { maxKeys: 4 });

describe("diffs of records", () => {
  it("lead from one state to the other and back", () => {
    fc.assert(
      fc.property(states, states, (before, after) => {
        const diff = diffRecords(before, after);
        expect(conflictsOf(before, diff)).toEqual([]);
        expect(applyDiff(before, diff)).toEqual(after);
        expect(applyDiff(after, reverseDiff(diff))).toEqual(before);
        expect(reverseDiff(reverseDiff(diff))).toEqual(diff);
        expect(isEmptyDiff(diff)).toBe(isSame(before, after));
      }),
    );
  });
  it("fit a record that has settings since, which nobody set", () => {
    const diff = diffRecords({ a: { name: "Aims" } }, { a: { name: "Targets" } });
    expect(conflictsOf({ a: { name: "Aims", days: null } }, diff)).toEqual([]);
    expect(conflictsOf({ a: { name: "Aims", days: "zero" } }, diff)).toHaveLength(1);
  });
  it("fit a state only where what they change is as it was, whatever else changed", () => {
    fc.assert(
      fc.property(states, states, states, (before, after, now) => {
        const diff = diffRecords(before, after);
        const touched = new Set(
          [...Object.keys(before), ...Object.keys(after)].filter((n) => !isSame(before[n], after[n])),
        );
        const inWay = [...touched].filter((n) => !isSame(now[n], before[n]));
        expect(
          conflictsOf(now, diff)
            .map((c) => c.record)
            .sort(),
        ).toEqual(inWay.sort());
      }),
    );
  });
  it("take no notice of the order of properties, nor of those that are undefined", () => {
    expect(isSame({ a: 1, b: [1, { c: 2 }] }, { b: [1, { c: 2 }], a: 1, d: undefined })).toBe(true);
    expect(isSame([1, 2], [2, 1])).toBe(false);
    expect(isSame([], {})).toBe(false);
    expect(isSame(null, {})).toBe(false);
  });
});
