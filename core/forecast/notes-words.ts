import type { Accuracy } from "./accuracy.ts";
import { shareOf } from "./forecast.ts";
import type { Told, ToldForecast } from "./told.ts";

/** Fewer than this share by chance: the residuals are not noise. */
const SURPRISING = 0.05;
/** Intervals are honest where they held about what they say. */
const NEAR = 0.1;

/** A part of the notes: what it answers, and the answer. */
export interface NotesPart {
  readonly question: string;
  readonly answer: string;
}

/** How numbers of the series' own unit, and its periods, are written. */
export interface NotesStyle {
  readonly write: (value: number | null) => string;
  /** The name of a period, counted from the first of the series. */
  readonly periodName: (t: number | null) => string;
}

/**
 * The notes of a forecast as answers to what a data scientist asks first: why this model, how good it is beside the
 * naive ones, whether what is left is noise, whether the intervals are honest, what was left out.
 */
export function notesParts(forecast: ToldForecast, style: NotesStyle): NotesPart[] {
  const { model, notes } = forecast;
  return [
    { question: "Which model, and why?", answer: `${model.name}. ${notes.why}${triedWords(forecast)}` },
    { question: "Which parameters?", answer: settingWords(forecast) },
    { question: "How does it compare with naive methods?", answer: worthWords(forecast, style) },
    { question: "Are the residuals white noise?", answer: residualWords(forecast, style) },
    { question: "Do the intervals hold?", answer: intervalWords(forecast) },
    { question: "What was excluded or adjusted for?", answer: leftOutWords(forecast, style) },
  ];
}

/** The notes as text, to be sent to a colleague. */
export function notesText(title: string, forecast: ToldForecast, style: NotesStyle): string {
  const parts = notesParts(forecast, style).map(({ question, answer }) => `${question}\n${answer}`);
  return [title, ...parts].join("\n\n");
}

function triedWords({ notes: { tried, statistics } }: ToldForecast): string {
  if (!statistics) return "";
  const [best, ...others] = tried;
  const fit = ` The form of exponential smoothing has AICc ${rounded(statistics.aicc)} (AIC ${rounded(statistics.aic)}, BIC ${rounded(statistics.bic)}, log-likelihood ${rounded(statistics.logLikelihood)} up to a constant, ${statistics.parameterCount} parameters).`;
  if (!best || others.length === 0) return fit;
  const beaten = others.slice(0, 3).map(({ name, aicc }) => `${name} ${rounded(aicc)}`);
  return `${fit} Of ${tried.length} forms it is the lowest; next come ${beaten.join(", ")}.`;
}

function settingWords({ notes: { parameters } }: ToldForecast): string {
  const said = Object.entries(parameters).map(([name, value]) => `${name} ${rounded(value)}`);
  return said.length === 0 ? "It has no parameters." : `${said.join(", ")}.`;
}

function worthWords({ notes }: ToldForecast, { write }: NotesStyle): string {
  const inside = `Within the history, one step ahead: mean absolute error ${write(notes.inSample.mae)}, MASE ${rounded(notes.inSample.mase)}.`;
  if (!notes.backtest) return `The series is too short for backtests. ${inside}`;
  const { origins, horizon, rows } = notes.backtest;
  const [own, ...others] = rows;
  const worth = ({ mae, mase, rmse, smape }: Told<Accuracy>) =>
    `mean absolute error ${write(mae)}, RMSE ${write(rmse)}, sMAPE ${percent(smape)}, MASE ${rounded(mase)}`;
  const beside = others.map(({ name, mase }) => `${name} ${rounded(mase)}`);
  const verdict =
    notes.beatsSeasonalNaive === false
      ? " It is no more accurate than the same period of the season before: use the seasonal naive forecast."
      : "";
  return `In ${origins} backtest${origins === 1 ? "" : "s"}, up to ${horizon} ahead: ${worth(own!)}. MASE of other methods: ${beside.join(", ")}.${verdict} ${inside}`;
}

function residualWords({ notes: { residuals } }: ToldForecast, { write }: NotesStyle): string {
  const { n, mean, deviation, ljungBox } = residuals;
  const base = `${n} residuals of mean ${write(mean)} and standard deviation ${write(deviation)}.`;
  if (!ljungBox) return `${base} There are too few to test, or they do not vary.`;
  const { statistic, lags, p } = ljungBox;
  const test = `Ljung-Box over ${lags} lags: ${rounded(statistic)}, p ${p === null ? "none" : p < 0.001 ? "below 0.001" : p.toFixed(3)}`;
  return p !== null && p < SURPRISING
    ? `${base} No: ${test}; there is a pattern that the model misses.`
    : `${base} Nothing suggests otherwise: ${test}.`;
}

function intervalWords({ notes: { backtest } }: ToldForecast): string {
  if (!backtest) return "Unknown: the history is too short to measure their coverage in backtests.";
  const said = backtest.coverage.map(
    ({ level, share }) => `of ${percent(level === null ? null : shareOf(level))} covered ${percent(share)}`,
  );
  const isHonest = backtest.coverage.every(
    ({ level, share }) => share !== null && level !== null && Math.abs(share - shareOf(level)) <= NEAR,
  );
  return `In backtests, intervals ${said.join(", ")}. ${isHonest ? "Coverage is about right." : "They are based on few errors: use them with care."}`;
}

function leftOutWords({ notes: { leftOut, effects, warnings, n } }: ToldForecast, { periodName }: NotesStyle): string {
  const parts = [
    `Fitted to ${n} periods.`,
    ...(leftOut.length > 0 ? [`Excluded: ${leftOut.map(periodName).join(", ")}.`] : []),
    ...effects.map(({ name, coefficient, t }) => `${name}: ${rounded(coefficient)} (t ${rounded(t)}).`),
    ...warnings,
  ];
  return parts.join(" ");
}

function rounded(value: number | null): string {
  if (value === null || !Number.isFinite(value)) return "none";
  const size = Math.abs(value);
  const text = size >= 100 ? size.toFixed(1) : size >= 1 ? size.toFixed(2) : size.toPrecision(3);
  return value < 0 ? `−${text}` : text;
}

function percent(share: number | null): string {
  return share !== null && Number.isFinite(share) ? `${(share * 100).toFixed(share < 0.1 ? 1 : 0)}%` : "none";
}
