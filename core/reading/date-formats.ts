import type { DateFormat } from "./read-date.ts";

/** The ways dates are written in files, each by an example and in words. */
export const DATE_FORMAT_NAMES: readonly (readonly [value: DateFormat, name: string])[] = [
  ["iso", "2026-11-30, year first"],
  ["day-first", "30/11/2026, day first"],
  ["month-first", "11/30/2026, month first"],
  ["month-name", "November 2026, month names"],
  ["fiscal-period", "P08 FY27, fiscal periods"],
  ["quarter", "Q3 FY27, quarters"],
  ["serial", "46356, spreadsheet serials"],
];
