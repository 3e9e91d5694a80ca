import { monthsName, type FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import type { Month } from "../calendar/month.ts";
import { absent } from "../figures/figure.ts";
import type { Absence } from "../figures/schema.ts";

/** Why members have no figure outside their life. */
export function notInLife(names: readonly string[], calendar: FiscalCalendar, months: readonly Month[]): Absence {
  return absent("no data", `${names.join(" and ")} did not exist in ${monthsName(calendar, months)}.`);
}
