import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  fiscalPeriodOf,
  fiscalQuarterStart,
  fiscalYearName,
  fiscalYearOf,
  fiscalYearStart,
  monthsName,
  periodName,
  rangeName,
} from "./fiscal-calendar.ts";
import { daysInMonth, formatMonth, monthOf, monthsBetween, parseMonth } from "./month.ts";
import { formatSpan, parseSpan, priorPeriodShift, spanMonths, wholeSpanMonths, type Span } from "./span.ts";

const APRIL = { startMonth: 4 };
const anyMonth = fc.integer({ min: monthOf(1990, 1), max: monthOf(2060, 12) });
const anyCalendar = fc.integer({ min: 1, max: 12 }).map((startMonth) => ({ startMonth }));
const anySpan: fc.Arbitrary<Span> = fc.oneof(
  fc
    .constantFrom("month", "quarter", "quarter-to-date", "year-to-date", "full-year", "month-to-date")
    .map((kind) => ({ kind })),
  fc.integer({ min: 1, max: 120 }).map((periods): Span => ({ kind: "trailing", periods })),
);

describe("months", () => {
  it("reads what it writes", () => {
    fc.assert(
      fc.property(anyMonth, (month) => {
        expect(parseMonth(formatMonth(month))).toBe(month);
      }),
    );
  });
  it.each(["2026-13", "2026-00", "2026-1", "26-10", "banana", "2026-10-01", ""])("refuses %j", (text) => {
    expect(parseMonth(text)).toBeUndefined();
  });
  it("knows leap years", () => {
    expect([1900, 2000, 2023, 2024].map((year) => daysInMonth(monthOf(year, 2)))).toEqual([28, 29, 28, 29]);
  });
});

describe("the fiscal calendar", () => {
  it("names a year by the calendar year in which it ends", () => {
    expect(periodName(APRIL, monthOf(2026, 4))).toBe("April FY27");
    expect(periodName(APRIL, monthOf(2026, 3))).toBe("March FY26");
    expect(periodName({ startMonth: 1 }, monthOf(2026, 3))).toBe("March FY26");
    expect(fiscalYearName(2100)).toBe("FY00");
  });
  it("has twelve periods a year, in four quarters of three", () => {
    fc.assert(
      fc.property(anyCalendar, anyMonth, (calendar, month) => {
        const start = fiscalYearStart(calendar, fiscalYearOf(calendar, month));
        expect(month - start).toBeGreaterThanOrEqual(0);
        expect(month - start).toBeLessThan(12);
        expect(fiscalPeriodOf(calendar, month)).toBe(month - start + 1);
        expect((fiscalQuarterStart(calendar, month) - start) % 3).toBe(0);
      }),
    );
  });
  it("names ranges and broken sets of months", () => {
    expect(rangeName(APRIL, monthOf(2025, 11), monthOf(2026, 10))).toBe("November FY26–October FY27");
    expect(monthsName(APRIL, [monthOf(2026, 4), monthOf(2026, 5), monthOf(2026, 7)])).toBe(
      "April–May FY27 and July FY27",
    );
  });
});

describe("spans", () => {
  const october = monthOf(2026, 10);
  const months = (text: string, asOf = october) => spanMonths(APRIL, parseSpan(text)!, asOf).map(formatMonth);

  it("gathers the months of the definitions", () => {
    expect(months("month")).toEqual(["2026-10"]);
    expect(months("quarter", monthOf(2026, 9))).toEqual(["2026-07", "2026-08", "2026-09"]);
    expect(months("quarter-to-date", monthOf(2026, 9))).toEqual(["2026-07", "2026-08", "2026-09"]);
    expect(months("year-to-date")).toEqual([
      "2026-04",
      "2026-05",
      "2026-06",
      "2026-07",
      "2026-08",
      "2026-09",
      "2026-10",
    ]);
    expect(months("trailing-12")).toEqual(monthsBetween(monthOf(2025, 11), october).map(formatMonth));
  });
  it("holds no month after the as-of month, whatever the span", () => {
    expect(months("quarter")).toEqual(["2026-10"]);
    expect(months("full-year")).toEqual(months("year-to-date"));
    expect(wholeSpanMonths(APRIL, { kind: "full-year" }, october)).toHaveLength(12);
    fc.assert(
      fc.property(anyCalendar, anySpan, anyMonth, (calendar, span, asOf) => {
        expect(Math.max(...spanMonths(calendar, span, asOf))).toBe(asOf);
      }),
    );
  });
  it("begins and ends a fiscal year at its boundary", () => {
    expect(months("year-to-date", monthOf(2026, 4))).toEqual(["2026-04"]);
    expect(months("year-to-date", monthOf(2026, 3))).toHaveLength(12);
    expect(months("full-year", monthOf(2026, 3)).at(-1)).toBe("2026-03");
  });
  it("has year to date of the last month equal to the full year", () => {
    fc.assert(
      fc.property(anyCalendar, anyMonth, (calendar, month) => {
        const last = fiscalYearStart(calendar, fiscalYearOf(calendar, month)) + 11;
        expect(spanMonths(calendar, { kind: "year-to-date" }, last)).toEqual(
          spanMonths(calendar, { kind: "full-year" }, last),
        );
      }),
    );
  });
  it("steps back to a span of the same kind that ends just before it or a year before", () => {
    fc.assert(
      fc.property(anyCalendar, anySpan, anyMonth, (calendar, span, asOf) => {
        const shift = priorPeriodShift(span);
        const before = spanMonths(calendar, span, asOf).map((m) => m - shift);
        expect(before).toEqual(spanMonths(calendar, span, asOf - shift));
      }),
    );
  });
  it("reads what it writes and refuses the rest", () => {
    fc.assert(
      fc.property(anySpan, (span) => {
        expect(parseSpan(formatSpan(span))).toEqual(span);
      }),
    );
    expect(["", "ytd", "trailing-0", "trailing-121", "trailing-", "trailing-1.5"].map(parseSpan)).toEqual(
      Array(6).fill(undefined),
    );
  });
});
