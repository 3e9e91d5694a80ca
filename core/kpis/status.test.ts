import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { absent, present } from "../figures/figure.ts";
import { bandProblems, statusOf } from "./status.ts";
import type { Band, StatusRule } from "./schema.ts";

const band = (from: number | null, to: number | null, grade: Band["grade"]): Band => ({ from, to, grade, word: grade });
const LIMITS = [band(null, 95, "poor"), band(95, 100, "fair"), band(100, null, "good")];
const rule = (against: StatusRule["against"]["kind"], bands = LIMITS): StatusRule => ({
  against: against === "kpi" ? { kind: "kpi", kpi: "plan" } : { kind: against },
  shownAs: "bands",
  bands,
});
const MONEY = { kind: "money" } as const;
const none = absent("no data", "Nothing.");

describe("bands", () => {
  it("that tile the line are sound, in whatever order they are written", () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer(), { maxLength: 6 }), fc.nat(), (limits, turn) => {
        const sorted = limits.sort((a, b) => a - b);
        const tiles = [null, ...sorted].map((from, i) => band(from, sorted[i] ?? null, "good"));
        const turned = tiles.map((_, i) => tiles[(i + turn) % tiles.length]!);
        expect(bandProblems(turned)).toEqual([]);
      }),
    );
  });
  it("show their hole, overlap or open end", () => {
    const kinds = (...bands: Band[]) => bandProblems(bands).map((p) => [p.kind, p.from, p.to]);
    expect(kinds(band(null, 90, "poor"), band(95, null, "good"))).toEqual([["hole", 90, 95]]);
    expect(kinds(band(null, 100, "poor"), band(95, null, "good"))).toEqual([["overlap", 95, 100]]);
    expect(kinds(band(null, null, "poor"), band(95, null, "good"))).toEqual([["overlap", 95, null]]);
    expect(kinds(band(0, 95, "poor"), band(95, 100, "good"))).toEqual([
      ["open", null, 0],
      ["open", 100, null],
    ]);
    expect(kinds(band(null, 5, "poor"), band(5, 5, "fair"), band(5, null, "good"))).toEqual([["empty", 5, 5]]);
    expect(kinds()).toHaveLength(1);
  });
});

describe("a status", () => {
  it("belongs to the band that begins at its limit", () => {
    const of = (value: number) => statusOf(rule("value"), present(value), none, MONEY);
    expect([94.999, 95, 99.999, 100].map((v) => (of(v) as { grade: string }).grade)).toEqual([
      "poor",
      "fair",
      "fair",
      "good",
    ]);
  });
  it("takes limits of a KPI in percent in percent, and is exact at its limits", () => {
    const grade = (value: number) =>
      (
        statusOf(rule("value", [band(null, 29, "poor"), band(29, null, "good")]), present(value), none, {
          kind: "percent",
        }) as { grade: string }
      ).grade;
    expect([grade(0.29), grade(0.2899999)]).toEqual(["good", "poor"]);
    const at57 = [band(null, 57, "poor"), band(57, null, "good")];
    expect(statusOf(rule("basis", at57), present(57), present(100), MONEY)).toMatchObject({ grade: "good" });
  });
  it("is by percent of target, basis or another KPI, and absent without a positive one", () => {
    expect(statusOf(rule("kpi"), present(190), present(200), MONEY)).toMatchObject({ grade: "fair" });
    expect(statusOf(rule("target"), present(190), none, MONEY)).toMatchObject({ absent: "no base" });
    expect(statusOf(rule("basis"), present(190), present(-5), MONEY)).toMatchObject({ absent: "no base" });
    expect(statusOf(rule("basis"), none, present(5), MONEY)).toBe(none);
  });
  it("finds exactly one band for every value, and its place runs the right way", () => {
    fc.assert(
      fc.property(
        fc.double({ noNaN: true, min: -1e6, max: 1e6 }),
        fc.double({ noNaN: true, min: 0, max: 100 }),
        (value, more) => {
          const [a, b] = [
            statusOf(rule("value"), present(value), none, MONEY),
            statusOf(rule("value"), present(value + more), none, MONEY),
          ];
          if ("absent" in a || "absent" in b) throw new Error("no band");
          expect(b.place).toBeGreaterThanOrEqual(a.place);
          expect(a.place).toBeGreaterThanOrEqual(0);
          expect(b.place).toBeLessThanOrEqual(1);
        },
      ),
    );
  });
});
