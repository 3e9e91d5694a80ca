import { describe, expect, it } from "vitest";
import { OCTOBER, run, type SmallFact } from "../testing/small-company.ts";
import { questionOf } from "../testing/small-question.ts";
import { resolveFrame } from "./resolve-frame.ts";

const months = (scenario: string, from: number, count: number): SmallFact[] =>
  run(scenario, "bread", from, Array<number>(count).fill(100));
/** The basis and unit of a frame in which neither is said. */
const usualOf = (facts: readonly SmallFact[], starts: Record<string, "units" | "thousand"> = {}) => {
  const { company } = questionOf(facts);
  const packStarts = new Map(
    Object.entries(starts).map(([pack, unit]) => [pack, { dataset: "ledger", basis: "prior-year", unit }]),
  );
  const { frame, unit } = resolveFrame({ asOf: "2026-10" }, { ...company, packStarts }, {});
  return { basis: frame.basis, unit };
};

describe("a frame of which nothing is said", () => {
  it("compares with the first basis that there are figures of", () => {
    const actual = months("actual", OCTOBER - 6, 7);
    expect(usualOf([...actual, ...months("budget", OCTOBER - 6, 12)]).basis).toEqual({
      kind: "scenario",
      scenario: "budget",
    });
    expect(usualOf([...actual, ...months("forecast-6-6", OCTOBER, 3)]).basis).toEqual({ kind: "latest-forecast" });
    expect(usualOf([...actual, ...months("target", OCTOBER - 6, 12)]).basis).toEqual({
      kind: "scenario",
      scenario: "target",
    });
    expect(usualOf(months("actual", OCTOBER - 14, 15)).basis).toEqual({ kind: "prior-year" });
    expect(usualOf(actual).basis).toEqual({ kind: "prior-period" });
  });
  it("is in the unit that reviews of the same data start from", () => {
    const actual = months("actual", OCTOBER - 6, 7);
    expect(usualOf(actual).unit).toBe("thousand");
    expect(usualOf(actual, { sales: "units" }).unit).toBe("units");
    expect(usualOf(actual, { sales: "units", ledger: "thousand" }).unit).toBe("thousand");
  });
});
