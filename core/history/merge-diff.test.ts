import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { mergeDiff } from "./merge-diff.ts";
import { applyDiff, diffRecords, isEmptyDiff, isSame, reverseDiff } from "./records-diff.ts";

const setting = fc.integer({ min: 0, max: 2 });
const record = fc.record({
  look: fc.record({ a: setting, b: setting }),
  place: setting,
  list: fc.array(setting, { maxLength: 2 }),
});
const states = fc.dictionary(fc.constantFrom("p", "q", "r"), record, { maxKeys: 3 });
const isLoose = (path: string) => path === "place";

describe("merging a diff", () => {
  it("does what the diff says where nothing else changed, and nothing where it was done already", () => {
    fc.assert(
      fc.property(states, states, (before, after) => {
        const diff = diffRecords(before, after);
        expect(applyDiff(before, mergeDiff(before, diff).diff)).toEqual(after);
        const again = mergeDiff(after, diff);
        expect(again.conflicts).toEqual([]);
        expect(isEmptyDiff(again.diff)).toBe(true);
      }),
    );
  });
  it("keeps what others changed elsewhere, in whichever order the two come", () => {
    fc.assert(
      fc.property(states, states, states, (base, mine, theirs) => {
        const [own, other] = [diffRecords(base, mine), diffRecords(base, theirs)];
        const first = mergeDiff(mine, other);
        const second = mergeDiff(theirs, own);
        // Whether they meet does not depend on who comes first.
        expect(first.conflicts.length > 0).toBe(second.conflicts.length > 0);
        if (first.conflicts.length > 0) {
          expect(isEmptyDiff(first.diff)).toBe(true);
          return;
        }
        expect(isSame(applyDiff(mine, first.diff), applyDiff(theirs, second.diff))).toBe(true);
      }),
    );
  });
  it("takes a merged change back and leaves the other's", () => {
    fc.assert(
      fc.property(states, states, states, (base, mine, theirs) => {
        const merged = mergeDiff(theirs, diffRecords(base, mine));
        fc.pre(merged.conflicts.length === 0);
        const both = applyDiff(theirs, merged.diff);
        expect(isSame(applyDiff(both, mergeDiff(both, reverseDiff(merged.diff)).diff), theirs)).toBe(true);
      }),
    );
  });
  it("names the setting that both changed, and lets the last one decide a loose one", () => {
    const base = { p: { look: { a: 0, b: 0 }, place: 0, list: [0] } };
    const mine = { p: { look: { a: 1, b: 0 }, place: 1, list: [0] } };
    const theirs = { p: { look: { a: 2, b: 5 }, place: 2, list: [0] } };
    const { conflicts } = mergeDiff(theirs, diffRecords(base, mine), { isLoose });
    expect(conflicts.map((conflict) => [conflict.record, conflict.setting])).toEqual([["p", "look.a"]]);
    const apart = { p: { look: { a: 0, b: 5 }, place: 2, list: [0] } };
    const merged = mergeDiff(apart, diffRecords(base, mine), { isLoose });
    expect(applyDiff(apart, merged.diff)).toEqual({ p: { look: { a: 1, b: 5 }, place: 1, list: [0] } });
  });
  it("does not remove what another changed, unless only its place; nor change what is gone", () => {
    const base = { p: { look: { a: 0 }, place: 0 } };
    const removal = diffRecords(base, {});
    expect(mergeDiff({ p: { look: { a: 1 }, place: 0 } }, removal, { isLoose }).conflicts).toHaveLength(1);
    const moved = mergeDiff({ p: { look: { a: 0 }, place: 7 } }, removal, { isLoose });
    expect([moved.conflicts, applyDiff({ p: moved.diff.removed["p"] }, moved.diff)]).toEqual([[], {}]);
    expect(mergeDiff({}, removal).conflicts).toEqual([]);
    expect(mergeDiff({}, diffRecords(base, { p: { look: { a: 2 }, place: 0 } })).conflicts).toMatchObject([
      { record: "p", setting: "", found: undefined },
    ]);
  });
});
