import { fiscalYearOf, fiscalYearStart } from "../calendar/fiscal-calendar.ts";
import { daysInMonth, monthsBetween, type Month } from "../calendar/month.ts";
import { asOfDay } from "../cube/coverage.ts";
import { absent } from "../figures/figure.ts";
import { hasInputs } from "./has-inputs.ts";
import type { MeasureGround } from "./measure-ground.ts";
import type { SideCoverage } from "./measurement.ts";
import type { Measuring } from "./measuring.ts";
import { LATEST, type OutlookSource } from "../formula/outlook-source.ts";
import { ACTUAL, forecastsBy, type OpenDays, type Side } from "./side.ts";
import { rangeWindow, spanWindow } from "./window.ts";
import type { Measured } from "./measured.ts";
import type { Absence } from "../figures/schema.ts";

/**
 * The months of the fiscal year that count as closed as of a month: as far as the last one that the actual has. A gap
 * before it is no month to come.
 */
export function closedMonths(
  kpi: Measured,
  asOf: Month,
  ground: MeasureGround,
  { coverSide }: Pick<Measuring, "coverSide">,
): readonly Month[] {
  const start = fiscalYearStart(ground.calendar, fiscalYearOf(ground.calendar, asOf));
  const last = coverSide(kpi, ACTUAL, rangeWindow(monthsBetween(start, asOf)), ground).months.at(-1);
  return last === undefined ? [] : monthsBetween(start, last);
}

/** The scenario that plans the months that are not closed: the one asked for, or the latest that has all of a formula. */
export function planOfRest(source: OutlookSource, kpi: Measured, asOf: Month, ground: MeasureGround): Side | Absence {
  const { scenarios } = ground.coverage;
  if (source !== LATEST) {
    const found = scenarios.get(source);
    if (!found) return absent("not covered", `There is no scenario "${source}" to take the remaining months from.`);
    if (!hasInputs(kpi, source, ground)) return absent("not covered", `${found.name} does not have it.`);
    return { scenario: found.key, shift: 0, name: found.name };
  }
  const found = [...forecastsBy(ground.coverage, asOf), scenarios.get("budget")].find(
    (s) => s && hasInputs(kpi, s.key, ground),
  );
  return found
    ? { scenario: found.key, shift: 0, name: found.name }
    : absent("not covered", "Neither a forecast nor a budget has it.");
}

/** The days of a month that is not whole, where all that a formula reads is kept by day; `null` where it has none. */
export function openDays(
  kpi: Measured,
  month: Month,
  asOf: Month,
  ground: MeasureGround,
  { coverSide }: Pick<Measuring, "coverSide">,
): (OpenDays & { readonly coverage: SideCoverage }) | null {
  if (month > asOf) return null;
  // The days are the actual's own, whatever is looked at in its place.
  const window = spanWindow({ calendar: ground.calendar, coverage: ground.coverage }, { kind: "month-to-date" }, month);
  const coverage = coverSide(kpi, ACTUAL, window, ground);
  if (coverage.absence || !coverage.months.includes(month)) return null;
  const days = Math.min(asOfDay(ground.coverage, month), daysInMonth(month));
  return { month, days, share: days / daysInMonth(month), coverage };
}
