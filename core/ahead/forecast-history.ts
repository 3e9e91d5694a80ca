import { dayOfNumber } from "../calendar/days.ts";
import { isPresent, present } from "../figures/figure.ts";
import { evaluateFormula } from "../formula/evaluate.ts";
import { easterRegressors } from "../forecast/calendar-effects.ts";
import { drawForecast, type DrawnForecast } from "../forecast/drawn-forecast.ts";
import { shareOf, type ForecastInput, type ForecastOptions, type MadeForecast } from "../forecast/forecast.ts";
import { keptFit, WORKED_OUT, type FitOf } from "../forecast/kept-fits.ts";
import { forecastSeries } from "../forecast/forecast-series.ts";
import { drawTogether, quantileOf, spreadsOf } from "./joint.ts";
import type { KpiHistory, MadeOf } from "./kpi-history.ts";
import { USUAL_SEASON } from "./settings.ts";
import { type AheadSettings, horizonOf, levelsOf } from "./schema.ts";

/** What is expected in the periods to come, and how sure. */
export interface Expectation {
  readonly model: string;
  readonly points: readonly number[];
  readonly intervals: MadeForecast["intervals"];
  /** One step ahead within the history; `null` where nothing could be said. */
  readonly fitted: readonly (number | null)[];
  /** The forecasts it was computed from, by what they forecast; one of the series itself where it was modelled so. */
  readonly made: readonly { readonly name: string; readonly forecast: MadeForecast }[];
  readonly isByInputs: boolean;
}

export type KpiForecast = Expectation | { readonly notFitted: string };

/** Two years of days are the least to tell Easter from other days. */
const DAYS_FOR_EASTER = 730;

/**
 * Forecasts a KPI from its history: a rate of amounts by forecasting those and computing then, with an interval from
 * draws of them together; anything else as the series that it is. The same in browser and server.
 */
export function forecastHistory(history: KpiHistory, settings: AheadSettings): KpiForecast {
  const { made } = history;
  return keptFit<KpiForecast>(
    fitOfHistory("forecast 4", history, settings),
    () => (made && settings.way !== "itself" ? byInputs(history, made, settings) : byItself(history, settings)),
    { notFitted: WORKED_OUT },
  );
}

/** All that a forecast of a history follows from. */
export function fitOfHistory(kind: string, { values, made, ...rest }: KpiHistory, settings: AheadSettings): FitOf {
  const inputs = made?.inputs ?? [];
  return {
    kind,
    series: [values, ...inputs.flatMap((input) => [input.values, input.known ?? []])],
    settings: [rest, settings, made && { formula: made.formula.root, names: inputs.map(({ name }) => name) }],
  };
}

/** Whether a history is forecast by its inputs under some settings. */
export function isByInputs({ made }: KpiHistory, { way }: AheadSettings): boolean {
  return made !== null && way !== "itself";
}

function byItself(history: KpiHistory, settings: AheadSettings): KpiForecast {
  const forecast = forecastSeries(...questionOf(history.values, history, settings, levelsOf(settings)));
  if ("notFitted" in forecast) return forecast;
  return {
    model: forecast.model.name,
    points: forecast.points,
    intervals: forecast.intervals,
    fitted: forecast.fitted,
    made: [{ name: "", forecast }],
    isByInputs: false,
  };
}

function byInputs(history: KpiHistory, { formula, inputs }: MadeOf, settings: AheadSettings): KpiForecast {
  const { grain, values } = history;
  const horizon = horizonOf(settings, grain);
  const kept = values.length - (settings.without ?? 0);
  const made: { name: string; forecast: MadeForecast }[] = [];
  for (const { name, values: own, known } of inputs) {
    if (known) continue;
    const forecast = forecastSeries(...questionOf(own, { ...history, isShare: false }, settings, LEVELS_OF_INPUTS));
    if ("notFitted" in forecast) return { notFitted: `${name}: ${forecast.notFitted}` };
    made.push({ name, forecast });
  }
  const evaluate = (drawn: readonly number[], period: number): number | null => {
    let next = 0;
    const figures = inputs.map(({ known, values: own }) => {
      // Of periods that are left out at the end, what is known of the calendar is known from the history.
      const ahead = kept + period;
      if (known) return present(ahead < values.length ? (own[ahead] ?? known[0]!) : known[ahead - values.length]!);
      return present(drawn[next++]!);
    });
    const figure = evaluateFormula(formula, figures);
    return isPresent(figure) ? figure.value : null;
  };
  const points = Array.from({ length: horizon }, (_, i) =>
    evaluate(
      made.map(({ forecast }) => forecast.points[i]!),
      i,
    ),
  );
  if (!points.every((point) => point !== null))
    return { notFitted: "Its inputs are forecast, but its formula gives no figure of them, as where it divides by 0." };
  const draws = drawTogether(
    made.map(({ forecast }) => spreadsOf(forecast)),
    made.map(({ forecast }) => forecast.residuals),
    evaluate,
  );
  const most = history.isShare && values.every((value) => value === null || value <= 1) ? 1 : Infinity;
  const inside = (value: number) => Math.min(most, value);
  return {
    model: `Computed from ${made.length} forecasts`,
    points: points.map(inside),
    intervals: levelsOf(settings).map((level) => {
      const outside = (1 - shareOf(level)) / 2;
      const bound = (share: number) => draws.map((sorted, i) => inside(orPoint(quantileOf(sorted, share), points[i]!)));
      return { level, lower: bound(outside), upper: bound(1 - outside) };
    }),
    fitted: values.slice(0, kept).map((_, t) => {
      const own = made.map(({ forecast }) => forecast.fitted[t] ?? null);
      let next = 0;
      const figures = inputs.map(({ known, values: seen }) => (known ? seen[t] : own[next++]) ?? null);
      if (!figures.every((one) => one !== null)) return null;
      const figure = evaluateFormula(formula, figures.map(present));
      return isPresent(figure) && Number.isFinite(figure.value) ? figure.value : null;
    }),
    made,
    isByInputs: true,
  };
}

function orPoint(bound: number, point: number): number {
  return Number.isFinite(bound) ? bound : point;
}

/** The forecasts that a history's is computed from, each to be looked at: by inputs, or of the series itself. */
export function drawHistory(
  history: KpiHistory,
  settings: AheadSettings,
): { readonly name: string; readonly drawn: DrawnForecast | null }[] {
  const { made, values } = history;
  const draw = (name: string, own: readonly (number | null)[], of: KpiHistory, levels: readonly number[]) => ({
    name,
    drawn: drawForecast(...questionOf(own, of, settings, levels)),
  });
  if (!made || settings.way === "itself") return [draw("", values, history, levelsOf(settings))];
  return made.inputs.flatMap(({ name, values: own, known }) =>
    known ? [] : [draw(name, own, { ...history, isShare: false }, LEVELS_OF_INPUTS)],
  );
}

/** Inputs are forecast with one interval, from which they are drawn. */
const LEVELS_OF_INPUTS = [95];

/** What is asked to forecast a series of a history's periods, with what is known of its calendar. */
function questionOf(
  values: readonly (number | null)[],
  history: KpiHistory,
  settings: AheadSettings,
  levels: readonly number[],
): [ForecastInput, ForecastOptions] {
  const { grain, first, isShare, known } = history;
  const placesOf = (keys: readonly string[] | undefined) =>
    keys?.map((key) => history.keys.indexOf(key)).filter((place) => place >= 0);
  const leaveOut = placesOf(settings.leaveOut);
  const steps = placesOf(settings.steps);
  const firstDay = first.day;
  const options: ForecastOptions = {
    horizon: horizonOf(settings, grain),
    levels,
    method: settings.method,
    ignoreLast: settings.without ?? 0,
    log: settings.log,
    known: known.confirmed,
    usual: known.dismissed,
    ...(leaveOut && leaveOut.length > 0 ? { leaveOut } : {}),
    ...(steps && steps.length > 0 ? { steps } : {}),
    ...(grain === "day" && firstDay !== null && values.length >= DAYS_FOR_EASTER
      ? { regressors: easterRegressors((t) => dayOfNumber(firstDay + t)) }
      : {}),
    ...(isShare && values.every((value) => value === null || value <= 1) ? { bounds: { most: 1 } } : {}),
  };
  const season = settings.season ?? USUAL_SEASON[grain];
  return [{ values, season, ...(grain === "month" ? { firstMonth: first.month } : {}) }, options];
}
