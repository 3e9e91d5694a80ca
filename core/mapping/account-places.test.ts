import { describe, expect, it } from "vitest";
import { indentedPlaces, numberedPlaces, rangesOf } from "./account-places.ts";

describe("the tree that a file draws", () => {
  it("by indentation", () => {
    const places = indentedPlaces([
      "Revenue",
      "  Shop",
      "  Repairs",
      "Costs",
      "\tPeople",
      "\t  Wages",
      "Costs",
      "  Rent",
    ])!;
    expect([...places].map(([text, { above, isParent }]) => [text, above.join("/"), isParent])).toEqual([
      ["Revenue", "", true],
      ["Shop", "Revenue", false],
      ["Repairs", "Revenue", false],
      ["Costs", "", true],
      ["People", "Costs", true],
      ["Wages", "Costs/People", false],
      ["Rent", "Costs", false],
    ]);
    expect(indentedPlaces([" Sales", " Rent "])).toBeUndefined();
    expect(indentedPlaces(["  Sales", "Rent"])).toBeUndefined();
    expect(indentedPlaces([])).toBeUndefined();
  });

  it("by numbers that begin others", () => {
    const places = numberedPlaces(["4", "40", "4000", "4010", "5", "5100"])!;
    expect(places.get("4000")).toEqual({ above: ["4", "40"], isParent: false });
    expect(places.get("5")).toEqual({ above: [], isParent: true });
    expect(numberedPlaces(["4000", "4010", "5100"])).toBeUndefined();
    expect(numberedPlaces(["4", "40", "Sales"])).toBeUndefined();
  });

  it("by ranges of numbers of one length", () => {
    expect(rangesOf(["1000", "1200", "3000", "4000", "4120", "6000"])?.get("4120")).toBe("4000–4999");
    expect(rangesOf(["4000", "4120", "4130", "4140", "4150", "4160"])).toBeUndefined();
    expect(rangesOf(["1000", "4120", "600"])).toBeUndefined();
  });
});
