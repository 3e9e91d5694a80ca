import type { Choice } from "../ui/choice-word.tsx";

/** How a file may be read, each with an example or a word. */
export const DELIMITERS: readonly Choice[] = [
  { key: ",", name: "commas" },
  { key: ";", name: "semicolons" },
  { key: "\t", name: "tabs" },
  { key: "|", name: "bars" },
];
export const ENCODINGS: readonly Choice[] = [
  { key: "utf-8", name: "UTF-8" },
  { key: "windows-1252", name: "Windows-1252", note: "older Western files" },
  { key: "utf-16le", name: "UTF-16 LE" },
  { key: "utf-16be", name: "UTF-16 BE" },
];
export const MARKS: readonly Choice[] = [
  { key: ".", name: "1,234.56" },
  { key: ",", name: "1.234,56" },
];
export const DATES: readonly Choice[] = [
  { key: "iso", name: "2026-11-30", note: "year first" },
  { key: "day-first", name: "30/11/2026", note: "day first" },
  { key: "month-first", name: "11/30/2026", note: "month first" },
  { key: "month-name", name: "November 2026", note: "month names" },
  { key: "fiscal-period", name: "P08 FY27", note: "fiscal periods" },
  { key: "quarter", name: "Q3 FY27", note: "quarters" },
  { key: "serial", name: "46356", note: "spreadsheet serials" },
];
export const SIGNS: readonly Choice[] = [
  { key: "own", name: "costs positive", note: "as Hackle shows them" },
  { key: "result", name: "by the result", note: "income +, expenses −" },
  { key: "debit", name: "by debit and credit", note: "expenses +, income −" },
  { key: "flipped", name: "reversed", note: "all signs flipped" },
];
