import { describe, expect, it } from "vitest";
import { formatMonth } from "../../calendar/month.ts";
import { clashes, monthOfParts, readPeriodParts } from "./period-parts.ts";

const JULY = { startMonth: 7 };
const monthOf = (text: string, calendar = { startMonth: 1 }) => {
  const month = monthOfParts(readPeriodParts(text).parts, calendar);
  return month === undefined ? undefined : formatMonth(month);
};

describe("a text that says a time", () => {
  it.each([
    ["Jan 2025", "2025-01"],
    ["January 2025", "2025-01"],
    ["März 2025", "2025-03"],
    ["Jan-25", "2025-01"],
    ["Jan '25", "2025-01"],
    ["2025-01", "2025-01"],
    ["2025/03", "2025-03"],
    ["01.2025", "2025-01"],
    ["202511", "2025-11"],
    ["2025M07", "2025-07"],
    ["31.01.2025", "2025-01"],
    ["2025-01-31", "2025-01"],
    ["Q3 2025", "2025-07"],
    ["2025 Q3", "2025-07"],
    ["Q3/25", "2025-07"],
  ])("%s is of %s", (text, month) => {
    expect(monthOf(text)).toBe(month);
  });
  it.each([
    ["P07 FY25", "2025-01"],
    ["FY2025 P01", "2024-07"],
    ["2025.007", "2025-01"],
    ["Q1 FY25", "2024-07"],
  ])("%s is counted from the first month of the fiscal year", (text, month) => {
    expect(monthOf(text, JULY)).toBe(month);
  });
  it("may say a part only, and leaves what is of something else", () => {
    expect(readPeriodParts("FY25").parts).toEqual({ year: 2025, isFiscal: true });
    expect(readPeriodParts("2024/25").parts).toEqual({ year: 2025, isFiscal: true });
    expect(readPeriodParts("Actual Jan 2025 (k€)")).toEqual({
      parts: { year: 2025, month: 1 },
      rest: "Actual (k€)",
    });
    expect(readPeriodParts("Cost of sales")).toEqual({ parts: {}, rest: "Cost of sales" });
    expect(readPeriodParts("OPP-1000")).toEqual({ parts: {}, rest: "OPP-1000" });
  });
  it("is put together from several, unless they say different things of one part", () => {
    expect(monthOfParts({ ...readPeriodParts("Jan").parts, ...readPeriodParts("FY25").parts }, JULY)).toBe(
      monthOfParts({ year: 2025, month: 1 }, JULY),
    );
    expect(clashes({ year: 2024 }, { year: 2025, month: 1 })).toBe(true);
    expect(clashes({ year: 2025 }, { month: 1 })).toBe(false);
  });
});
