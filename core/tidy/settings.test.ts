import { describe, expect, it } from "vitest";
import { fieldOf } from "./settings.ts";
import { newStep, stepKind, TIDY_KINDS, tidyStepSchema } from "./steps/index.ts";

describe("the settings of tidy steps", () => {
  it("say how they are set, each with a label, or have a form of their own", () => {
    // What hangs together with other settings has a form of its own; see the client's.
    const OWN = ["filter", "flip-sign", "compute", "look-up", "turn", "make-period", "scale"];
    for (const kind of TIDY_KINDS.filter((own) => !OWN.includes(own))) {
      const { kind: _, ...settings } = stepKind(kind).schema.shape;
      for (const [name, setting] of Object.entries(settings))
        expect([kind, name, (fieldOf(setting)?.label ?? "").length > 2]).toEqual([kind, name, true]);
      // A step without settings says what it does instead.
      expect([kind, Object.keys(settings).length > 0 || stepKind(kind).about !== undefined]).toEqual([kind, true]);
    }
  });
  it("hold for a fresh step, and for nothing beyond their bounds", () => {
    for (const kind of TIDY_KINDS) {
      const step = newStep(kind, { first: "Amount", thisYear: 2026 });
      expect([kind, tidyStepSchema.safeParse(step).success]).toEqual([kind, true]);
    }
    const wrong = [
      { kind: "split", column: "a", at: " ", into: ["one"] },
      { kind: "to-decimal", columns: ["a"], decimals: 10 },
      { kind: "add-year", columns: ["a"], year: 1066 },
      { kind: "scale", columns: ["a"], by: 12 },
      { kind: "case", columns: ["a"], to: "sponge" },
      { kind: "no such step" },
      { kind: "trim", columns: "a" },
      { kind: "trim", columns: ["x".repeat(501)] },
    ];
    for (const step of wrong) expect([step.kind, tidyStepSchema.safeParse(step).success]).toEqual([step.kind, false]);
  });
  it("give every kind a name, a note and a sentence", () => {
    const names = TIDY_KINDS.map((kind) => stepKind(kind).name);
    expect(new Set(names).size).toBe(names.length);
    for (const kind of TIDY_KINDS) {
      const own = stepKind(kind);
      expect([kind, own.note.length > 3]).toEqual([kind, true]);
      expect(own.say(newStep(kind, { first: "Amount", thisYear: 2026 }))).toMatch(/^[A-Z]/);
    }
  });
});
