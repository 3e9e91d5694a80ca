import {
  fiscalYearName,
  fiscalYearOf,
  periodName,
  rangeName,
  type FiscalCalendar,
} from "../calendar/fiscal-calendar.ts";
import { isOpenSpan, spanMonths, spanName, type Span } from "../calendar/span.ts";
import { monthName, type Month } from "../calendar/month.ts";

/** The months a frame speaks of, in words that cannot be taken for another span. */
export function spanWords(calendar: FiscalCalendar, span: Span, asOf: Month, throughDay?: number): string {
  const months = spanMonths(calendar, span, asOf);
  const range = rangeName(calendar, months[0]!, months.at(-1)!);
  switch (span.kind) {
    case "month":
      return periodName(calendar, asOf);
    case "month-to-date":
      return throughDay === undefined
        ? periodName(calendar, asOf)
        : `1–${throughDay} ${monthName(asOf)} ${fiscalYearName(fiscalYearOf(calendar, asOf))}`;
    case "full-year":
      return isOpenSpan(calendar, span, asOf)
        ? `${spanName(span, true)}, ${range}`
        : `full year ${fiscalYearName(fiscalYearOf(calendar, asOf))}`;
    default:
      return `${spanName(span)}, ${range}`;
  }
}
