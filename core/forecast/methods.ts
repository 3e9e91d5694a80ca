import { chooseArima } from "./arima/choose.ts";
import { fitArima, fittedByArima, namedCoefficients, projectArima, type ArimaFit } from "./arima/fit.ts";
import { fitHarmonics, harmonicsAt } from "./harmonics.ts";
import { fitCarriedSeason, fitDrift, fitGrownSeason, fitMean, fitNaive } from "./naive.ts";
import type { Fitted } from "./projection.ts";
import { chooseSmoothing } from "./smoothing/choose.ts";
import { fitSmoothing, type SmoothingFit } from "./smoothing/fit.ts";
import type { SmoothingForm } from "./smoothing/form.ts";
import { projectSmoothing } from "./smoothing/project.ts";
import type { Method } from "./method-names.ts";
import { LONGEST_SEASON } from "./season-found.ts";
import { fitTheta, seasonKind } from "./theta.ts";

/** A method fitted, and how it is fitted again to a shorter history of the same series. */
export interface MethodFit extends Fitted {
  readonly method: Method;
  /** The form of exponential smoothing that is in it; `null` in the others. */
  readonly smoothing: SmoothingFit | null;
  /** The forms or orders that were tried and their AICc, the best first; none where there was no choice. */
  readonly tried: readonly { readonly name: string; readonly aicc: number }[];
  readonly again: (y: Float64Array) => Fitted | null;
}

/** Days in a year, and weeks. */
const YEAR_OF = { days: 365.25, weeks: 365.25 / 7 };

/** How long the year is where the season given is not the year itself; `null` where it is, or is unknown. */
export function longSeason(season: number): number | null {
  if (season === 7) return YEAR_OF.days;
  if (season === 52 || season === 53) return YEAR_OF.weeks;
  return season > LONGEST_SEASON ? season : null;
}

/**
 * Fits a method to a series, NaN where nothing was observed; `null` where it does not hold for it. `form` is the
 * form of exponential smoothing that is asked for; the one of the lowest AICc where there is none.
 */
export function fitMethod(method: Method, y: Float64Array, season: number, form?: SmoothingForm): MethodFit | null {
  const short = season > LONGEST_SEASON ? 1 : season;
  const plain = (fit: (own: Float64Array) => Fitted | null): MethodFit | null => {
    const own = fit(y);
    return own && { ...own, method, smoothing: null, tried: [], again: fit };
  };
  switch (method) {
    case "smoothing": {
      const found = fitForm(y, short, form);
      return (
        found && {
          ...smoothingFitted(found.fit),
          method,
          smoothing: found.fit,
          tried: found.tried,
          again: (own) => refit(found.fit, own, short),
        }
      );
    }
    case "waves": {
      const period = longSeason(season);
      const own = period === null ? null : fitWaves(y, period, short, form);
      return own && { ...own, method };
    }
    case "arima": {
      const found = chooseArima(y, season);
      return (
        found && {
          ...arimaFitted(found.chosen),
          method,
          smoothing: null,
          tried: found.tried,
          again: (own) => {
            const near = fitArima(found.chosen.order, own, season, {
              near: found.chosen.free,
              limits: { leastGain: 1e-2, mostEvaluations: 15 },
            });
            return near && arimaFitted(near);
          },
        }
      );
    }
    case "theta":
      // Judged from earlier origins as the method that it is now: with its season, or without.
      return plain((own) => fitTheta(own, season, seasonKind(y, season)));
    case "seasonal-naive":
      return season > 1 ? plain((own) => fitNaive(own, season)) : null;
    case "carried-season":
      return season > 1 ? plain((own) => fitCarriedSeason(own, season)) : null;
    case "grown-season":
      return season > 1 ? plain((own) => fitGrownSeason(own, season)) : null;
    case "naive":
      return plain((own) => fitNaive(own));
    case "drift":
      return plain(fitDrift);
    case "mean":
      return plain(fitMean);
  }
}

function fitForm(
  y: Float64Array,
  season: number,
  form: SmoothingForm | undefined,
): { fit: SmoothingFit; tried: MethodFit["tried"] } | null {
  if (form) {
    const fit = fitSmoothing(form, y, season);
    return fit && { fit, tried: [] };
  }
  const choice = chooseSmoothing(y, season);
  return choice && { fit: choice.chosen, tried: choice.tried.map(({ name, aicc }) => ({ name, aicc })) };
}

function smoothingFitted(fit: SmoothingFit): Fitted {
  const { alpha, beta, gamma, phi, level, slope } = fit.parameters;
  const own = { alpha, beta, gamma, phi, "initial level": level, "initial slope": slope };
  return {
    name: fit.name,
    fitted: fit.fitted,
    project: (horizon) => projectSmoothing(fit, horizon),
    parameters: Object.fromEntries(
      Object.entries(own).flatMap(([name, value]) => (value === null ? [] : [[name, value]])),
    ),
  };
}

function arimaFitted(fit: ArimaFit): Fitted {
  return {
    name: fit.name,
    fitted: fittedByArima(fit),
    project: (horizon) => projectArima(fit, horizon),
    parameters: namedCoefficients(fit),
  };
}

/** The same form fitted to another length of the series, looked for near where it was. */
function refit(fit: SmoothingFit, y: Float64Array, season: number): Fitted | null {
  const near = fitSmoothing(fit.form, y, season, {
    near: fit.parameters,
    limits: { leastGain: 1e-2, mostEvaluations: 30 },
  });
  return near && smoothingFitted(near);
}

/** A long season as waves, and exponential smoothing of what they leave. */
function fitWaves(
  y: Float64Array,
  period: number,
  season: number,
  form: SmoothingForm | undefined,
): Omit<MethodFit, "method"> | null {
  const waves = fitHarmonics(y, period);
  if (!waves) return null;
  const left = y.map((value, t) => value - harmonicsAt(waves, t));
  const found = fitForm(left, season, form);
  if (!found) return null;
  const put = ({ name, fitted, project, parameters }: Fitted, own: typeof waves, n: number): Fitted => ({
    name: `Waves of the year and ${name}`,
    fitted: fitted.map((value, t) => value + harmonicsAt(own, t)),
    project: (horizon) => project(horizon).map((one, i) => ({ ...one, mean: one.mean + harmonicsAt(own, n + i) })),
    parameters: { ...parameters, waves: own.count },
  });
  return {
    ...put(smoothingFitted(found.fit), waves, y.length),
    smoothing: found.fit,
    tried: found.tried,
    again: (own) => {
      const shorter = fitHarmonics(own, period);
      if (!shorter) return null;
      const fit = refit(
        found.fit,
        own.map((value, t) => value - harmonicsAt(shorter, t)),
        season,
      );
      return fit && put(fit, shorter, own.length);
    },
  };
}
