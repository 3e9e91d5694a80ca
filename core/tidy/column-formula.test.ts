import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { columnKey, columnKeys, compileColumns, DIVIDED_BY_ZERO } from "./column-formula.ts";

const COLUMNS = ["Quantity", "Unit price", "Rabatt %", "Größe"];
const read = (formula: string) => {
  const result = compileColumns(formula, COLUMNS);
  if (!result.ok) throw new Error(result.problem.message);
  return result.value;
};
/** What a formula gives of whole numbers, by column. */
const of = (formula: string, values: Readonly<Record<string, number | null>>, decimals = 2) => {
  const compiled = read(formula);
  return compiled.evaluate(
    compiled.columns.map((name) => {
      const value = values[name];
      return value === null || value === undefined ? null : { units: Math.round(value * 1e4), decimals: 4 };
    }),
    decimals,
  );
};

describe("a formula over columns", () => {
  it("calls columns by their names in lower case", () => {
    expect([...columnKeys(COLUMNS)]).toEqual([
      ["quantity", "Quantity"],
      ["unit_price", "Unit price"],
      ["rabatt", "Rabatt %"],
      ["gro_e", "Größe"],
    ]);
    expect(columnKey(COLUMNS, "Unit price")).toBe("unit_price");
  });
  it("is exact until it is rounded once, halves away from zero", () => {
    expect(of("quantity * unit_price", { Quantity: 3, "Unit price": 0.335 })).toBe("1.01");
    expect(of("quantity * unit_price", { Quantity: -3, "Unit price": 0.335 })).toBe("-1.01");
    expect(of("quantity * unit_price * (1 - rabatt / 100)", { Quantity: 7, "Unit price": 19.9, "Rabatt %": 5 })).toBe(
      "132.34",
    );
    expect(of("quantity / 3 * 3", { Quantity: 1 })).toBe("1.00");
    expect(of("round(quantity / 3, 1)", { Quantity: 2 }, 3)).toBe("0.700");
    expect(of("12.5% * quantity", { Quantity: 8 }, 0)).toBe("1");
  });
  it("chooses, compares and falls back", () => {
    expect(of("if(quantity >= 10 and not unit_price = 0, 1, 0 - 1)", { Quantity: 10, "Unit price": 2 }, 0)).toBe("1");
    expect(of("if(quantity < 10 or unit_price <> 2, 1, 2)", { Quantity: 10, "Unit price": 2 }, 0)).toBe("2");
    expect(of("if_absent(quantity, 0) - if_absent(unit_price, 0)", { Quantity: null, "Unit price": 5 }, 0)).toBe("-5");
  });
  it("is missing where a number it needs is, and says where it divides by zero", () => {
    expect(of("quantity * unit_price", { Quantity: null, "Unit price": 5 })).toBeNull();
    expect(of("quantity / unit_price", { Quantity: 1, "Unit price": 0 })).toBe(DIVIDED_BY_ZERO);
    expect(of("if_absent(quantity / unit_price, 0)", { Quantity: 1, "Unit price": 0 })).toBe("0.00");
  });
  it("says what is wrong: the column meant, functions that rows do not have, broken text", () => {
    const problem = (formula: string) => {
      const result = compileColumns(formula, COLUMNS);
      return result.ok ? null : result.problem.message;
    };
    expect(problem("quantity * unit_prise")).toMatch(/There is no column "unit_prise" here\. Do you mean unit_price\?/);
    expect(problem("growth(quantity)")).toMatch(/"growth" does not work on rows/);
    expect(problem("quantity @ budget")).toMatch(/A row has no scenarios/);
    expect(problem("quantity *")).toMatch(/breaks off/);
    expect(problem("round(quantity, 12)")).toMatch(/from 0 to 9/);
  });
  it("adds up as exactly as its parts, in any order", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -1e9, max: 1e9 }), { minLength: 2, maxLength: 2 }), ([a, b]) => {
        const compiled = read("quantity + unit_price - quantity");
        const numbers = compiled.columns.map((name) => ({ units: name === "Quantity" ? a! : b!, decimals: 3 }));
        expect(Number(compiled.evaluate(numbers, 3))).toBe(b! / 1000);
      }),
    );
  });
});
