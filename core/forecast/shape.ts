import { calendarRegressor, regressorEffects, type Regressor } from "./calendar-effects.ts";
import type { ForecastInput, ForecastNotes, ForecastOptions } from "./forecast.ts";
import type { Prepared } from "./prepare.ts";

/** An effect of the calendar is taken of oneself only where it is beyond doubt. */
const BEYOND_DOUBT = 4;

/** How a series is turned into what is modelled, and back. */
export interface Shape {
  readonly into: (value: number, t: number) => number;
  readonly back: (value: number, t: number) => number;
  readonly effects: ForecastNotes["effects"];
}

/** Takes off what is known of the calendar, of regressors and of steps; a positive series has effects that multiply. */
export function shapeOf(
  { y, season, cut }: Prepared,
  { firstMonth }: ForecastInput,
  { log = false, calendar, regressors = [], steps = [] }: ForecastOptions,
): Shape {
  const isMonthly = Number.isInteger(firstMonth) && season === 12;
  const wanted = isMonthly ? (calendar ?? ["working-days" as const]) : [];
  const all: Regressor[] = [
    ...wanted.map((effect) => calendarRegressor(effect, firstMonth! + cut, y.length)),
    ...[...regressors, ...steps.map(stepAt)].map(({ name, at }) => ({ name, at: (t: number) => at(t + cut) })),
  ];
  const isMultiplied = log || y.every((value) => !(value <= 0));
  const own = isMultiplied ? y.map((value) => Math.log(value)) : y;
  const found = all.length === 0 ? null : regressorEffects(own, season, all);
  const effects = (found ?? []).filter(
    ({ t }, i) => calendar !== undefined || i >= wanted.length || Math.abs(t) > BEYOND_DOUBT,
  );
  const effectAt = (t: number) =>
    effects.reduce((sum, { regressor, coefficient }) => sum + coefficient * regressor.at(t), 0);
  const said = effects.map(({ regressor, coefficient, t }) => ({ name: regressor.name, coefficient, t }));
  if (log)
    return {
      into: (value, t) => Math.log(value) - effectAt(t),
      back: (value, t) => Math.exp(value + effectAt(t)),
      effects: said,
    };
  return isMultiplied
    ? {
        into: (value, t) => value / Math.exp(effectAt(t)),
        back: (value, t) => value * Math.exp(effectAt(t)),
        effects: said,
      }
    : { into: (value, t) => value - effectAt(t), back: (value, t) => value + effectAt(t), effects: said };
}

function stepAt(from: number): Regressor {
  return { name: `Level from period ${from + 1}`, at: (t) => (t >= from ? 1 : 0) };
}
