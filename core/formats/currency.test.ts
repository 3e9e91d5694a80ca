import { expect, it } from "vitest";
import { currencySign, moneySign } from "./currency.ts";
import {
  formatNumber,
  isWrittenZero,
  moneyName,
  valueStyle,
  writeSignedPercent,
  writeWithUnit,
} from "./number-words.ts";
import { inWriting, NUMBER_WRITINGS } from "./writing.ts";

const inCurrency = <T>(currency: string, compute: () => T): T =>
  inWriting({ currency, numbers: "1,234.5", dates: "30 November 2026" }, compute);

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

it("writes numbers as whoever reads them is used to, zeros without a sign", () => {
  const written = NUMBER_WRITINGS.map((numbers) =>
    inWriting({ currency: "EUR", numbers, dates: "30 November 2026" }, () => [
      formatNumber(-1_234_567.891, 2),
      formatNumber(-0.001, 1),
      writeSignedPercent(0.0004),
      writeSignedPercent(0.034),
      isWrittenZero(0.4, valueStyle({ kind: "count", of: "days" }, 0, "units")),
    ]),
  );
  expect(written).toEqual([
    ["−1,234,567.89", "0.0", "0.0%", "+3.4%", true],
    ["−1.234.567,89", "0,0", "0,0%", "+3,4%", true],
    ["−1\u00a0234\u00a0567,89", "0,0", "0,0%", "+3,4%", true],
    ["−1’234’567.89", "0.0", "0.0%", "+3.4%", true],
  ]);
});
