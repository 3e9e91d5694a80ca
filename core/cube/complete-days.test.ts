import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { daysInMonth, monthOf } from "../calendar/month.ts";
import { completeLists } from "./complete-days.ts";
import { isWhole, lastDayOf, type MonthCoverage, type DaysWithoutLines } from "./coverage.ts";

const JANUARY = monthOf(2025, 1);
const entry = (month: number, days: readonly number[]): MonthCoverage => ({
  dataset: "orders",
  scenario: "actual",
  month: JANUARY + month,
  dayMask: days.reduce((mask, day) => mask + 2 ** (day - 1), 0),
});
const every = (month: number, to = daysInMonth(JANUARY + month)) =>
  entry(
    month,
    Array.from({ length: to }, (_, i) => i + 1),
  );
const complete = (months: readonly MonthCoverage[], isOfBalances = false, said: DaysWithoutLines | null = null) =>
  completeLists(months, { keepsBalances: () => isOfBalances, said: () => said }).months;
const taken = (months: readonly MonthCoverage[], said: DaysWithoutLines | null = null) =>
  completeLists(months, { keepsBalances: () => false, said: () => said }).taken.get("orders");

describe("a list by day", () => {
  it("is complete to its last line's month, though none lies after a 28th", () => {
    const months = Array.from({ length: 22 }, (_, i) => entry(i, [2, 9, 17, 23 + (i % 6)]));
    expect(complete(months).filter(isWhole)).toHaveLength(22);
  });
  it("is open in its last month where that ends earlier than others do", () => {
    const months = [entry(0, [3, 12, 27]), entry(1, [1, 8, 26]), entry(2, [2, 11, 14])];
    const [first, second, third] = complete(months);
    expect([first, second, third].map((own) => isWhole(own!))).toEqual([true, true, false]);
    expect(lastDayOf(third!)).toBe(14);
  });
  it("has months in which nothing happened, and days of working weeks only", () => {
    expect(complete([entry(0, [5, 20]), entry(3, [7, 27])]).map(({ month }) => month - JANUARY)).toEqual([0, 1, 2, 3]);
    const workdays = [1, 2, 3, 6, 7, 8, 9, 10, 13, 14, 15, 16, 17, 20, 21, 22, 23, 24, 27, 28, 29, 30, 31];
    expect(complete([entry(0, workdays)]).every(isWhole)).toBe(true);
  });
  it("begins where its first lines lie late in their month", () => {
    const [first, second] = complete([entry(0, [17, 25]), entry(1, [2, 27])]);
    expect([isWhole(first!), isWhole(second!)]).toEqual([false, true]);
  });
});

describe("figures that come every day", () => {
  it("keep their gaps, since something is missing there", () => {
    const gap = entry(
      1,
      Array.from({ length: 28 }, (_, i) => i + 1).filter((day) => day !== 9),
    );
    const months = [every(0), gap, every(2), every(3), every(4, 17)];
    expect(complete(months)).toEqual(months);
    expect(complete([every(0, 17)])).toEqual([every(0, 17)]);
  });
  it("are balances, or not by day at all: they stay as they are", () => {
    const months = [entry(0, [3, 12]), entry(1, [1, 26])];
    expect(complete(months, true)).toEqual(months);
    const monthly = months.map((own) => ({ ...own, dayMask: null }));
    expect(complete(monthly)).toEqual(monthly);
  });
});

it("never takes a day away that has a line", () => {
  const days = fc.uniqueArray(fc.integer({ min: 1, max: 28 }), { minLength: 1, maxLength: 28 });
  fc.assert(
    fc.property(fc.array(days, { minLength: 1, maxLength: 14 }), (all) => {
      const months = all.map((own, month) => entry(month, own));
      const found = new Map(complete(months).map((own) => [own.month, own]));
      for (const { month, dayMask } of months)
        expect(BigInt(found.get(month)!.dayMask!) & BigInt(dayMask!)).toBe(BigInt(dayMask!));
    }),
  );
});

describe("days without a line", () => {
  const gappy = Array.from({ length: 12 }, (_, i) => (i % 2 === 0 ? every(i) : entry(i, [3, 9, 21, 28])));

  it("leave a doubt where about half of the months have each day, or a first month has most", () => {
    expect(taken(gappy)).toEqual({ as: "missing", isClear: false });
    expect(taken([every(0), every(1), every(2), every(3, 17)])).toEqual({ as: "missing", isClear: true });
    expect(taken([0, 1, 2, 3].map((i) => entry(i, [5, 20])))).toEqual({ as: "zero", isClear: true });
    expect(taken([entry(0, [3, 12, 27])])).toEqual({ as: "zero", isClear: true });
    expect(taken([every(0, 25), entry(1, [1, 2, 3, 5, 6, 7, 8, 10])])?.isClear).toBe(false);
  });
  it("are what somebody says they are", () => {
    expect(taken(gappy, "zero")).toEqual({ as: "zero", isClear: true });
    expect(complete(gappy, false, "zero").every(isWhole)).toBe(true);
    const list = [entry(0, [5, 20]), entry(1, [7, 27]), entry(2, [4, 26])];
    expect(complete(list, false, "missing")).toEqual(list);
    expect(complete(list).every(isWhole)).toBe(true);
  });
});
