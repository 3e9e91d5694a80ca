import { dayNumber, daysOf, easterSunday, weekday, type Day } from "../calendar/days.ts";
import { daysInMonth, monthOfYear, yearOf, type Month } from "../calendar/month.ts";
import { leastSquares } from "./numerics/least-squares.ts";

/** What of the calendar a month's figure can depend on besides its place in the year. */
export const CALENDAR_EFFECTS = ["working-days", "days", "easter"] as const;
export type CalendarEffect = (typeof CALENDAR_EFFECTS)[number];

/** How many of what an effect counts are in a month. */
export function calendarCount(effect: CalendarEffect, month: Month): number {
  const days = daysInMonth(month);
  if (effect === "days") return days;
  if (effect === "working-days") return daysOf([month]).filter((day) => weekday(day) <= 5).length;
  // Good Friday to Easter Monday, of which some can lie in March: easter counts from the first of its month.
  const easter = easterSunday(yearOf(month));
  const around = [-2, -1, 0, 1].map((by) => easter.day + by);
  const own = around.filter((day) => day >= 1 && day <= daysInMonth(easter.month)).length;
  if (month === easter.month) return own;
  if (month === easter.month - 1) return around.filter((day) => day < 1).length;
  return month === easter.month + 1 ? around.filter((day) => day > daysInMonth(easter.month)).length : 0;
}

/** Something known of every period, those to come among them, that a series may depend on. */
export interface Regressor {
  readonly name: string;
  /** By period, counted from the first of the series. */
  readonly at: (t: number) => number;
}

/**
 * An effect of the calendar as a regressor of a monthly series: by how much a month differs from what its like has
 * over the years, so that the season is left to the season.
 */
export function calendarRegressor(effect: CalendarEffect, firstMonth: Month, periods: number): Regressor {
  const own = Array.from({ length: periods }, (_, t) => calendarCount(effect, firstMonth + t));
  const means = Array.from({ length: 12 }, (_, at) => {
    const alike = own.filter((__, t) => monthOfYear(firstMonth + t) === at + 1);
    return alike.reduce((sum, count) => sum + count, 0) / Math.max(1, alike.length);
  });
  const name = { "working-days": "Working days", days: "Days in the month", easter: "Easter" }[effect];
  return { name, at: (t) => calendarCount(effect, firstMonth + t) - means[monthOfYear(firstMonth + t) - 1]! };
}

/** The days before, over and after the weekend of Easter, which no season of weeks or years knows. */
const EASTER_DAYS = [
  { name: "Week before Easter", from: -8, to: -5 },
  { name: "Days before Easter", from: -4, to: -3 },
  { name: "Easter", from: -2, to: 1 },
  { name: "Days after Easter", from: 2, to: 4 },
  { name: "Week after Easter", from: 5, to: 8 },
] as const;

/** Easter as regressors of a daily series, of which `dayAt` names each day. */
export function easterRegressors(dayAt: (t: number) => Day): readonly Regressor[] {
  // Asked of every day many times while a model is fitted.
  const fromEaster: number[] = [];
  const daysFromEaster = (t: number): number => {
    const known = fromEaster[t];
    if (known !== undefined) return known;
    const day = dayAt(t);
    return (fromEaster[t] = dayNumber(day) - dayNumber(easterSunday(yearOf(day.month))));
  };
  return EASTER_DAYS.map(({ name, from, to }) => ({
    name,
    at: (t) => {
      const by = daysFromEaster(t);
      return by >= from && by <= to ? 1 : 0;
    },
  }));
}

/** How much a series changes with a regressor. */
export interface RegressorEffect {
  readonly regressor: Regressor;
  readonly coefficient: number;
  /** The coefficient by its standard error. */
  readonly t: number;
}

/**
 * The effects of regressors on a series, from its changes over one season: what stays the same from season to
 * season says nothing of them. `null` where there are too few changes to tell.
 */
export function regressorEffects(
  y: Float64Array,
  season: number,
  regressors: readonly Regressor[],
): readonly RegressorEffect[] | null {
  const changes = Array.from({ length: Math.max(0, y.length - season) }, (_, i) => i + season).filter(
    (t) => !Number.isNaN(y[t]! - y[t - season]!),
  );
  const n = changes.length;
  const k = regressors.length + 1;
  if (n < k + 10) return null;
  const rows = changes.map((t) => [1, ...regressors.map(({ at }) => at(t) - at(t - season))]);
  const values = changes.map((t) => y[t]! - y[t - season]!);
  const terms = leastSquares(rows, values);
  if (!terms) return null;
  const squares = rows.reduce(
    (sum, row, i) => sum + (values[i]! - row.reduce((all, own, j) => all + own * terms[j]!, 0)) ** 2,
    0,
  );
  return regressors.map((regressor, i) => {
    // The variance of one coefficient is what is left of its column after the others.
    const column = rows.map((row) => row[i + 1]!);
    const others = rows.map((row) => row.filter((_, j) => j !== i + 1));
    const by = leastSquares(others, column) ?? others[0]!.map(() => 0);
    const own = column.reduce(
      (sum, value, at) => sum + (value - others[at]!.reduce((all, x, j) => all + x * by[j]!, 0)) ** 2,
      0,
    );
    const error = Math.sqrt(squares / (n - k) / Math.max(own, 1e-12));
    return { regressor, coefficient: terms[i + 1]!, t: terms[i + 1]! / error };
  });
}
