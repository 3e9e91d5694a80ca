import { describe, expect, it } from "vitest";
import { OCTOBER, run } from "../testing/small-company.ts";
import { questionOf } from "../testing/small-question.ts";
import { breakdown } from "./breakdown/index.ts";
import { fittedUnit, withFittedUnit } from "./fitted-unit.ts";
import type { BreakdownDefinition } from "./breakdown/schema.ts";

describe("the unit that fits", () => {
  it("is the usual one where the largest amount has two digits in it, else a smaller one", () => {
    expect(fittedUnit([130], "thousand")).toBe("units");
    expect(fittedUnit([9_999], "thousand")).toBe("units");
    expect(fittedUnit([-10_000, 3], "thousand")).toBe("thousand");
    expect(fittedUnit([99_000], "million")).toBe("thousand");
    expect(fittedUnit([100_000], "million")).toBe("million");
    expect(fittedUnit([7], "million")).toBe("units");
    expect(fittedUnit([0], "million")).toBe("million");
    expect(fittedUnit([], "thousand")).toBe("thousand");
  });

  const definition: BreakdownDefinition = {
    kind: "breakdown",
    key: "bars",
    kpis: ["turnover"],
    by: { dimension: "shop", level: null },
    cluster: null,
    stacking: "clustered",
    order: "set",
    isReversed: false,
    top: null,
  };
  const unitOf = (amount: number, unit?: string) =>
    withFittedUnit(
      (question) => breakdown.compute(definition, {}, question),
      breakdown.table,
      questionOf(
        run("actual", "bread", OCTOBER - 6, [0, 0, 0, 0, 0, 0, amount * 100]).map((fact) => ({
          ...fact,
          shop: "mill",
        })),
        unit === undefined ? {} : { unit },
      ),
    ).frame.unit;

  it("follows what a panel shows, unless the reader says one", () => {
    expect(unitOf(130)).toBe("units");
    expect(unitOf(130_000)).toBe("thousand");
    expect(unitOf(130, "thousand")).toBe("thousand");
  });
});
