import fc from "fast-check";
import { expect, it } from "vitest";
import { isWrittenZero, MONEY_UNITS, valueStyle, writeNumber, writeSigned, writeWithUnit } from "./number-words.ts";

const thousands = valueStyle({ kind: "money" }, 0, "thousand");

it("does not write zero for what is not zero, however large the unit is", () => {
  expect([130, 42, -1.3, 480].map((value) => writeWithUnit(value, thousands))).toEqual([
    "€ 0.1k",
    "€ 0.04k",
    "−€ 0.001k",
    "€ 0.5k",
  ]);
  expect([writeSigned(130, thousands), writeSigned(0, thousands)]).toEqual(["+€ 0.1k", "€ 0k"]);
  expect(writeNumber(0.4, valueStyle({ kind: "count", of: "tickets" }, 0, "units"))).toBe("0.4");
  // What calculating leaves is nothing, and what is too little to be written with its unit is worth no word.
  expect(writeWithUnit(1e-9, thousands)).toBe("€ 0k");
  expect([isWrittenZero(130, thousands), isWrittenZero(600, thousands)]).toEqual([true, false]);
});

it("writes zero as zero and everything else as what it was rounded to before", () => {
  fc.assert(
    fc.property(fc.integer({ min: -1e9, max: 1e9 }), fc.constantFrom(...MONEY_UNITS), (value, money) => {
      const style = valueStyle({ kind: "money" }, 0, money);
      const digits = writeNumber(value, style).replace(/[^0-9]/g, "");
      const least = 0.5 * 10 ** -(style.decimals + 3);
      const size = Math.abs(value * style.factor);
      // On the edge itself the last digit of a float decides.
      if (Math.abs(size / least - 1) > 1e-9) expect(/[1-9]/.test(digits)).toBe(size > least);
      if (!isWrittenZero(value, style))
        expect(digits.length).toBe(
          Math.abs(value * style.factor)
            .toFixed(style.decimals)
            .replace(".", "").length,
        );
    }),
  );
});
