import { periodName, type FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import type { Month } from "../calendar/month.ts";
import { priorPeriodShift, type Span } from "../calendar/span.ts";
import type { CoverageMap, Scenario } from "../cube/coverage.ts";
import { absent } from "../figures/figure.ts";
import type { Basis } from "./frame.ts";
import type { Absence } from "../figures/schema.ts";

/** One side of a comparison: a scenario, read `shift` months before the frame's months. */
export interface Side {
  readonly scenario: string;
  readonly shift: number;
  readonly name: string;
  /** Whether it is what is looked at: a frame can put a version in its place. */
  readonly isShown?: true;
  /** What is read after the last closed month, where it is the outlook. */
  readonly then?: Remainder;
}

/** The months of an outlook that are not closed: the scenario that plans them. */
export interface Remainder {
  readonly scenario: string;
  readonly name: string;
  /** The last closed month, as the scenario itself counts months. */
  readonly after: Month;
  /** The first month that is not closed, where days of it are there: how many, and their share of the month. */
  readonly open: OpenDays | null;
}

/** The days of an open month that have figures. */
export interface OpenDays {
  readonly month: Month;
  readonly days: number;
  readonly share: number;
}

/** The actual, at the frame's own months. */
export const ACTUAL: Side = { scenario: "actual", shift: 0, name: "Actual" };

/** What is looked at: the actual, or the version that a frame puts in its place. */
export const SHOWN: Side = { ...ACTUAL, isShown: true };

/** What a frame puts in the place of the actual where it looks at years with their outlook. No scenario has such a key. */
export const WITH_OUTLOOK = "+outlook";

/** What the actual with its outlook is called. */
export const OUTLOOK_NAME = "Outlook";

/** The side that is read for another one: of what is looked at, the version in the place of the actual. */
export function readSide(side: Side, { coverage, shown }: { coverage: CoverageMap; shown?: string | undefined }): Side {
  if (!side.isShown || shown === undefined) return side;
  return { scenario: shown, shift: side.shift, name: coverage.scenarios.get(shown)?.name ?? shown };
}

/** Which scenarios a side's months are read from; more than one only of an outlook. */
export function sidePlaces(
  { scenario, then }: Side,
  months: readonly Month[],
): readonly { readonly scenario: string; readonly months: readonly Month[] }[] {
  if (!then) return [{ scenario, months }];
  return [
    { scenario, months: months.filter((month) => month <= then.after) },
    { scenario: then.scenario, months: months.filter((month) => month > then.after) },
  ].filter(({ months: own }) => own.length > 0);
}

/** The actual one year earlier. */
export const PRIOR_YEAR: Side = { scenario: "actual", shift: 12, name: "Prior year" };

/**
 * The latest forecast made by the end of the as-of month, for that fiscal year; `undefined` before the first. Versions
 * that are still open, and those that are retired, are none.
 */
export function latestForecast(coverage: CoverageMap, asOf: Month): Scenario | undefined {
  return forecastsBy(coverage, asOf)[0];
}

/** The forecasts made by the end of the as-of month, the latest first. */
export function forecastsBy(coverage: CoverageMap, asOf: Month): Scenario[] {
  return [...coverage.scenarios.values()]
    .filter((s) => s.kind === "forecast" && !s.isOpen && !s.isRetired && s.madeAfter !== null && s.madeAfter <= asOf)
    .sort((a, b) => b.madeAfter! - a.madeAfter!);
}

/** Turns a basis into a side, or says why there is none. */
export function basisSide({
  basis,
  span,
  asOf,
  coverage,
  calendar,
}: {
  basis: Basis;
  span: Span;
  asOf: Month;
  coverage: CoverageMap;
  calendar: FiscalCalendar;
}): Side | Absence {
  switch (basis.kind) {
    case "prior-year":
      return PRIOR_YEAR;
    case "prior-period":
      return { scenario: "actual", shift: priorPeriodShift(span), name: "Prior period" };
    case "latest-forecast": {
      const forecast = latestForecast(coverage, asOf);
      if (!forecast) return absent("not covered", `No forecast had been made by ${periodName(calendar, asOf)}.`);
      return { scenario: forecast.key, shift: 0, name: forecast.name };
    }
    case "scenario": {
      const scenario = coverage.scenarios.get(basis.scenario);
      return { scenario: basis.scenario, shift: 0, name: scenario?.name ?? basis.scenario };
    }
  }
}
