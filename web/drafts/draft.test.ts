import fc from "fast-check";
import { beforeEach, describe, expect, it } from "vitest";
import type { Definition } from "#contract/intake.ts";
import { useDraftHistories } from "./draft-history.ts";
import { changedRows } from "./step-changes.ts";
import { newStep, TIDY_KINDS, tidyStepSchema } from "#core/tidy/steps/index.ts";

describe("undo and redo of a draft", () => {
  const state = (n: number) => ({ n }) as unknown as Definition;
  beforeEach(() => useDraftHistories.setState({ byDraft: {} }));

  it("walk back and forth over any changes, and a new change ends the way forward", () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom("change", "undo", "redo"), { maxLength: 60 }), (acts) => {
        useDraftHistories.setState({ byDraft: {} });
        const { record, undo, redo } = useDraftHistories.getState();
        // The same, kept the slow way: all states ever current, and where one stands among them.
        let line = [state(0)];
        let at = 0;
        let now = line[0]!;
        for (const [i, act] of acts.entries()) {
          if (act === "change") {
            record(1, now);
            now = state(i + 1);
            line = [...line.slice(0, at + 1), now];
            at += 1;
          } else {
            now = (act === "undo" ? undo(1, now) : redo(1, now)) ?? now;
            at = act === "undo" ? Math.max(0, at - 1) : Math.min(line.length - 1, at + 1);
          }
          expect(now).toEqual(line[at]);
        }
      }),
    );
  });
  it("keep drafts apart", () => {
    const { record, undo } = useDraftHistories.getState();
    record(1, state(1));
    expect(undo(2, state(9))).toBeUndefined();
    expect(undo(1, state(2))).toEqual(state(1));
  });
});

describe("what a step changed", () => {
  const effect = (before: string[], after: string[][], columns = ["A", "B"]) => ({
    changed: 1,
    after: { rows: 1, totals: {}, unreadable: 0 },
    columns,
    examples: [{ line: 7, before, after }],
  });
  it("is shown cell by cell, with what was there", () => {
    expect(changedRows(effect(["x", "y"], [["x", "z"]]), ["A", "B"])).toEqual([
      { line: 7, cells: ["x", "z"], was: [null, "y"] },
    ]);
  });
  it("keeps a dropped row, marked", () => {
    expect(changedRows(effect(["Total", "9"], []), ["A", "B"])).toEqual([
      { line: 7, cells: ["Total", "9"], mark: "dropped" },
    ]);
  });
  it("shows cells of new columns as new, and one row for each a row became", () => {
    const rows = changedRows(
      effect(
        ["Fuel", "1", "2"],
        [
          ["Fuel", "Apr", "1"],
          ["Fuel", "May", "2"],
        ],
        ["Account", "Month", "Amount"],
      ),
      ["Account", "Apr", "May"],
    );
    expect(rows.map((r) => r.was)).toEqual([
      [null, "", ""],
      [null, "", ""],
    ]);
  });
});

describe("a step to start from", () => {
  it("is one the server takes, for every kind on the list", () => {
    for (const kind of TIDY_KINDS) {
      const step = newStep(kind, { first: "Account", thisYear: 2026 });
      expect(step.kind).toBe(kind);
      const { success, error } = tidyStepSchema.safeParse(step);
      // What a person has to fill in first may be missing; nothing else may be wrong.
      if (!success) expect(error.issues.every((i) => i.code === "too_small" || i.code === "custom")).toBe(true);
    }
  });
});
