import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { PANEL_KINDS } from "../panels/schemas.ts";
import { attemptPanel, fittingKinds } from "./fit.ts";
import { fits } from "../panels/attempt.ts";
import { readLine, type Vocabulary } from "./read-line.ts";

const VOCABULARY: Vocabulary = {
  kpis: [
    { words: "Fuel", means: "fuel" },
    { words: "Fuel in revenue", means: "fuel_share" },
    { words: "Revenue", means: "total_revenue" },
  ],
  levels: [
    { words: "vessel", means: { dimension: "vessel", level: null } },
    { words: "route", means: { dimension: "route", level: "Route" } },
  ],
  members: [{ words: "Northreach", means: { dimension: "route", member: "northreach" } }],
  kinds: [
    { words: "breakdown", means: "breakdown" },
    { words: "chart over time", means: "time-chart" },
  ],
  bases: [
    { words: "Budget", means: "budget" },
    { words: "prior year", means: "prior-year" },
  ],
  spans: [{ words: "full year", means: "full-year" }],
};

describe("a line of the palette", () => {
  it("is understood word by word, in any order of its clauses", () => {
    const whole = readLine("fuel by vessel as breakdown against prior year", VOCABULARY);
    expect(whole.asked).toEqual({
      kpis: ["fuel"],
      split: { dimension: "vessel", level: null },
      kind: "breakdown",
      basis: "prior-year",
      span: null,
      members: [],
    });
    expect(whole.rest).toBe("");
    expect(readLine("fuel against prior year as breakdown by vessel", VOCABULARY).asked).toEqual(whole.asked);
    expect(readLine("Revenue and Fuel in revenue for northreach over FULL YEAR", VOCABULARY).asked).toMatchObject({
      kpis: ["total_revenue", "fuel_share"],
      span: "full-year",
      members: [{ dimension: "route", member: "northreach" }],
    });
  });
  it("completes each word, and never beyond what it understands", () => {
    const complete = (line: string) => readLine(line, VOCABULARY).completions;
    expect(complete("fu")).toEqual(["Fuel", "Fuel in revenue"]);
    expect(complete("fuel ")).toEqual(["fuel by ", "fuel as ", "fuel against ", "fuel for ", "fuel over "]);
    expect(complete("fuel by v")).toEqual(["fuel by vessel"]);
    expect(complete("fuel by vessel a")).toEqual(["fuel by vessel as ", "fuel by vessel against "]);
    expect(readLine("fuel by moon", VOCABULARY)).toMatchObject({
      asked: { kpis: ["fuel"], split: null },
      rest: "by moon",
      completions: [],
    });
    expect(readLine("moon", VOCABULARY).asked).toBeNull();
  });
  it("made of a completion is understood further", () => {
    fc.assert(
      fc.property(fc.array(fc.nat(9), { maxLength: 8 }), (picks) => {
        let line = "";
        for (const pick of picks) {
          const { completions } = readLine(line, VOCABULARY);
          if (completions.length === 0) break;
          line = completions[pick % completions.length]!;
        }
        const { rest } = readLine(line, VOCABULARY);
        expect(["", "by", "as", "against", "for", "over"]).toContain(rest);
      }),
    );
  });
});

describe("the kinds for an attempt", () => {
  const kpis = fc.uniqueArray(fc.constantFrom("fuel", "crew", "total_revenue"), { minLength: 1 });
  const split = fc.constantFrom(null, { dimension: "route", level: null });
  it("are all there, the fittest first, the unfit last with their reason, and some kind always fits", () => {
    fc.assert(
      fc.property(kpis, split, fc.constantFrom(null, ...PANEL_KINDS), (own, by, kind) => {
        const kinds = fittingKinds({ kpis: own, split: by, kind });
        expect(kinds.map((one) => one.kind).sort()).toEqual([...PANEL_KINDS].sort());
        const ranks = kinds.map(({ fit }) => (fits(fit) ? fit.fitness : -1));
        expect(ranks).toEqual([...ranks].sort((a, b) => b - a));
        for (const { fit } of kinds) if (!fits(fit)) expect(fit.unfit).toMatch(/\.$/);
        const { panel, why } = attemptPanel({ kpis: own, split: by, kind });
        expect(why === null ? kind === null || panel.kind === kind : panel.kind !== kind).toBe(true);
      }),
    );
  });
  it("offer a breakdown first where members are asked for, and a chart over time where none are", () => {
    expect(fittingKinds({ kpis: ["fuel"], split: { dimension: "route", level: null }, kind: null })[0]!.kind).toBe(
      "breakdown",
    );
    expect(fittingKinds({ kpis: ["fuel"], split: null, kind: null })[0]!.kind).toBe("time-chart");
    expect(fittingKinds({ kpis: ["fuel", "crew"], split: null, kind: null })[0]!.kind).toBe("scorecard");
  });
});
