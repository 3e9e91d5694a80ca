import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { profileColumns } from "../reading/column-profile.ts";
import { weighColumns } from "./column-evidence.ts";

const CALENDAR = { startMonth: 1 };
const weigh = (columns: readonly string[], rows: readonly (readonly string[])[]) => {
  const { apart, balances } = weighColumns(profileColumns(columns, rows, CALENDAR), { columns, rows });
  return { apart: Object.fromEntries([...apart].map(([name, { nature }]) => [name, nature])), balances: [...balances] };
};
const german = (value: number) => value.toFixed(2).replace(".", ",");

describe("which columns add up", () => {
  it("finds the price of a quantity and an amount, whatever they are called and in whatever order they stand", () => {
    const number = fc.integer({ min: 1, max: 60 });
    const price = fc.integer({ min: 101, max: 99_999 }).map((cents) => cents / 100);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(number, price), { minLength: 12, maxLength: 60 }),
        fc.shuffledSubarray(["x", "y", "z"], { minLength: 3, maxLength: 3 }),
        (lines, order) => {
          fc.pre(new Set(lines.map(([q]) => q)).size > 3 && new Set(lines.map(([, p]) => p)).size > 3);
          const rows = lines.map(([q, p]) => {
            const cells: Record<string, string> = { x: String(q), y: p.toFixed(2), z: (q * p).toFixed(2) };
            return order.map((key) => cells[key]!);
          });
          expect(weigh(order, rows).apart).toEqual({ y: "price" });
        },
      ),
      { numRuns: 60 },
    );
  });

  it("finds a discount between them, in a file with decimal commas", () => {
    const rows = Array.from({ length: 30 }, (_, i) => {
      const [q, p, d] = [1 + ((i * 7) % 13), 7.25 + (i % 5) * 3.1, [0, 5, 10, 0][i % 4]!];
      const net = Math.round(q * p * (100 - d)) / 100;
      return [String(q), german(p), String(d), german(net), german(net * 0.6)];
    });
    expect(weigh(["Menge", "Einzelpreis", "Rabatt %", "Netto", "Kosten"], rows).apart).toEqual({
      Einzelpreis: "price",
      "Rabatt %": "rate",
    });
  });

  it("keeps rates, differences, codes and opening balances apart, and knows balances", () => {
    const rows = Array.from({ length: 24 }, (_, i) => {
      const [visits, orders] = [2000 + i * 37, 40 + ((i * 11) % 17)];
      return [
        String(4711 + i),
        String(visits),
        String(orders),
        `${((orders / visits) * 100).toFixed(1)}%`,
        String(120 + i),
        String(i % 3),
        String(120 + i + (i % 3)),
        String(visits - 1900),
      ];
    });
    const found = weigh(
      ["Customer no", "Visits", "Orders", "Conversion", "Opening stock", "Received", "Closing stock", "Variance"],
      rows,
    );
    expect(found.apart).toEqual({
      "Customer no": "code",
      Conversion: "rate",
      "Opening stock": "opening",
      Variance: "difference",
    });
    expect(found.balances).toEqual(["Closing stock"]);
  });

  it("adds up what nothing speaks against: amounts side by side, also called alike", () => {
    const rows = Array.from({ length: 20 }, (_, i) => [
      String(5000 + i * 31),
      String(900 + i * 7),
      String(7 + (i % 5)),
      String(1000 - i),
    ]);
    expect(weigh(["Revenue", "Cost of sales", "Employees", "Gross margin"], rows).apart).toEqual({});
  });
});
