import { describe, expect, it } from "vitest";
import { monthOf } from "../calendar/month.ts";
import { contextOf, run, SHOPS, type SmallFact } from "../testing/small-company.ts";
import { askCoverage, isWhole, lastClosedMonth, lastDayOf, type CoverageQuestion } from "./coverage.ts";

const APRIL = monthOf(2026, 4);
const days = (count: number, from = 1): SmallFact[] =>
  Array.from({ length: count }, (_, i) => ({
    dataset: "daily",
    scenario: "actual",
    account: "loaves",
    month: APRIL,
    day: from + i,
    amount: 1,
  }));
const ask = (facts: readonly SmallFact[], question: Partial<CoverageQuestion>) => {
  const { coverage, calendar } = contextOf(facts);
  return askCoverage(coverage, calendar, [SHOPS], {
    name: "bread",
    leaves: ["bread"],
    scenario: "actual",
    months: [APRIL],
    scope: {},
    ...question,
  });
};

describe("coverage", () => {
  it("tells whole months of days from parts, and a gap from an end", () => {
    const entry = (facts: readonly SmallFact[]) => [...contextOf(facts).coverage.months.values()][0]!.get(APRIL)!;
    expect(isWhole(entry(days(30)))).toBe(true);
    expect([isWhole(entry(days(29))), lastDayOf(entry(days(29)))]).toEqual([false, 29]);
    const gap = entry([...days(10), ...days(19, 12)]);
    expect([isWhole(gap), lastDayOf(gap)]).toEqual([false, 30]);
  });
  it("does not count days beyond a gap as to date", () => {
    const loaves = { name: "loaves", leaves: ["loaves"] };
    expect(ask([...days(10), ...days(9, 12)], { ...loaves, daysIn: () => ({ from: 1, to: 20 }) }).covered).toEqual([]);
    expect(ask(days(20), { ...loaves, daysIn: () => ({ from: 1, to: 20 }) }).covered).toEqual([APRIL]);
  });
  it("closes a month only when every dataset with actuals has it whole", () => {
    const ledger = run("actual", "bread", APRIL - 1, [1, 1]);
    expect(lastClosedMonth(contextOf(ledger).coverage)).toBe(APRIL);
    const march = days(30)
      .map((f) => ({ ...f, month: APRIL - 1 }))
      .concat({ ...days(1)[0]!, month: APRIL - 1, day: 31 });
    expect(lastClosedMonth(contextOf([...ledger, ...march, ...days(17)]).coverage)).toBe(APRIL - 1);
    expect(lastClosedMonth(contextOf([]).coverage)).toBeUndefined();
  });
  it("means 0 by silence in a covered month, and absence elsewhere", () => {
    const facts = [...run("actual", "bread", APRIL, [5]), ...run("actual", "cake", APRIL + 1, [7])];
    expect(ask(facts, { months: [APRIL, APRIL + 1, APRIL + 2] }).covered).toEqual([APRIL, APRIL + 1]);
    expect(ask(facts, { months: [APRIL - 1] }).absence).toMatchObject({
      absent: "no data",
      detail: expect.stringContaining("It has April–May FY27") as string,
    });
    expect(ask(facts, { months: [APRIL + 2] }).absence).toMatchObject({ absent: "not closed yet" });
  });
});
