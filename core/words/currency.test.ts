import { expect, it } from "vitest";
import { currencySign, inCurrency, moneySign } from "./currency.ts";
import { moneyName, valueStyle, writeWithUnit } from "./number-words.ts";

it("writes money in the company's currency, by its sign or its code, and only while it is asked to", () => {
  const write = () => writeWithUnit(-212_400, valueStyle({ kind: "money" }, 0, "thousand"));
  expect(["EUR", "USD", "CHF"].map((code) => inCurrency(code, write))).toEqual(["−€ 212k", "−$ 212k", "−CHF 212k"]);
  expect(inCurrency("SEK", () => [moneyName("units"), moneyName("million")])).toEqual(["SEK", "SEK million"]);
  expect(() =>
    inCurrency("GBP", () => {
      throw new Error(inCurrency("JPY", moneySign));
    }),
  ).toThrow(currencySign("JPY"));
  expect(write()).toBe("−€ 212k");
});
