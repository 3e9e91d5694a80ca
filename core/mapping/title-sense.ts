import type { FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import type { Month } from "../calendar/month.ts";
import { readLabel, type Label } from "../reading/table/label.ts";
import { clashes, monthOfParts, type PeriodParts } from "../reading/table/period-parts.ts";
import { natureOfName } from "./measure-nature.ts";

/** What the title, the sheet's and the file's name say of all figures. */
export interface TitleSense {
  readonly period: PeriodParts;
  readonly scenario: Label | null;
  /** What is measured. */
  readonly measure: string | null;
}

/** Reads titles and names: of what, of which time and of which scenario all figures are. */
export function titleSense(texts: readonly string[]): TitleSense {
  let period: PeriodParts = {};
  let scenario: Label | null = null;
  let measure: string | null = null;
  for (const text of texts) {
    const label = readLabel(text.replace(/\.[a-z0-9]{2,5}$/i, "").replace(/_/g, " "));
    // A day is when it was printed.
    if (label.period.day === undefined && !clashes(period, label.period)) period = { ...label.period, ...period };
    scenario ??= label.scenario === null ? null : label;
    const rest = label.rest.replace(/\b(?:in|en)\s+\S+(?:\s\S+)?$/i, "").trim();
    if (measure === null && rest !== "" && rest.length <= 40 && natureOfName(rest) !== undefined) measure = rest;
  }
  return { period, scenario, measure };
}

/**
 * Times with the year that the title says, where they say none. A plain year is the calendar's, unless the months only
 * follow each other in the fiscal year of that number.
 */
export function withYear(
  parts: readonly PeriodParts[],
  title: PeriodParts,
  calendar: FiscalCalendar,
): readonly PeriodParts[] {
  if (title.year === undefined || parts.every(({ year }) => year !== undefined)) return parts;
  const as = (isFiscal: boolean) =>
    parts.map((own) =>
      own.year === undefined ? { ...own, year: title.year, isFiscal: isFiscal || own.ordinal !== undefined } : own,
    );
  if (title.isFiscal) return as(true);
  const [plain, fiscal] = [as(false), as(true)];
  return !isInOrder(plain, calendar) && isInOrder(fiscal, calendar) ? fiscal : plain;
}

/** Whether the year of a title could be the calendar's or the fiscal one, and the order of the months does not tell. */
export function yearIsOpen(parts: readonly PeriodParts[], title: PeriodParts, calendar: FiscalCalendar): boolean {
  if (title.year === undefined || title.isFiscal || calendar.startMonth === 1) return false;
  const bare = parts.filter(({ year, month }) => year === undefined && month !== undefined);
  if (bare.length === 0) return false;
  const as = (isFiscal: boolean) => bare.map((own) => ({ ...own, year: title.year, isFiscal }));
  const [plain, fiscal] = [as(false), as(true)];
  const differ = plain.some((own, i) => monthOfParts(own, calendar) !== monthOfParts(fiscal[i]!, calendar));
  return differ && isInOrder(plain, calendar) === isInOrder(fiscal, calendar);
}

/** Whether months come one after the other, each as often as it likes. */
function isInOrder(parts: readonly PeriodParts[], calendar: FiscalCalendar): boolean {
  const months = [...new Set(parts.map((own) => monthOfParts(own, calendar)))].filter(
    (month): month is Month => month !== undefined,
  );
  return months.every((month, i) => i === 0 || month > months[i - 1]!);
}
