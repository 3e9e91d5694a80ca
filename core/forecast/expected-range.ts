import type { Regressor } from "./calendar-effects.ts";
import { shareOf, type ForecastInput } from "./forecast.ts";
import { fitHarmonics, harmonicsAt, type Harmonics } from "./harmonics.ts";
import { keptFit, WORKED_OUT, type FitOf } from "./kept-fits.ts";
import { longSeason } from "./methods.ts";
import { studentQuantile } from "./numerics/distributions.ts";
import { median } from "./outliers.ts";
import { chooseSmoothing } from "./smoothing/choose.ts";
import { fitSmoothing, type SmoothingFit } from "./smoothing/fit.ts";
import type { SmoothingForm } from "./smoothing/form.ts";

/** What of a range can be chosen. */
export interface RangeOptions {
  /** The first period that is judged, counted from the first of the series. */
  readonly from: number;
  /** The probability of the range, 95 percent where nothing is said. */
  readonly level?: number | undefined;
  /** Periods of events that are known: they are judged, and teach the model nothing. */
  readonly known?: readonly number[] | undefined;
  /** Periods that are how things are, outside or not: models that are fitted later learn from them. */
  readonly usual?: readonly number[] | undefined;
  /** What of the calendar is known of every day, such as Easter; of series that have a year as a season. */
  readonly regressors?: readonly Regressor[] | undefined;
  /** The first period's day, counted from 1 January 1970, which says what the regressors are; told where there are any. */
  readonly origin?: number | undefined;
}

/** A period beside what history led one to expect of it. */
export interface RangePoint {
  /** Counted from the first of the series. */
  readonly period: number;
  readonly value: number | null;
  readonly expected: number;
  readonly lower: number;
  readonly upper: number;
  /** The error in standard deviations of what was expected; `null` where nothing was seen. */
  readonly score: number | null;
  readonly isOutside: boolean;
}

/**
 * Periods outside the range that belong together. Of daily series a single day is one only where its like was rarer
 * than twice a year: what happens now and then is outside, and no news.
 */
export interface RangeEvent {
  readonly from: number;
  readonly to: number;
  /** One period alone; several, after which it was as before; or a level that stayed another one. */
  readonly kind: "outlier" | "run" | "shift";
  readonly side: "below" | "above";
  /** The score farthest out. */
  readonly worst: number;
  /** What was seen less what was expected, added up over the periods of the event. */
  readonly deviation: number;
}

/** The periods that were judged, and what stood out; or why there is no range. */
export type ExpectedRange =
  | { readonly model: string; readonly points: readonly RangePoint[]; readonly events: readonly RangeEvent[] }
  | { readonly notFitted: string };

/** A season has to be there so often before anything is expected of its next one. */
const LEAST_SEASONS = 2;
/** The longest history that is learned from. */
const MOST_HISTORY = 1_500;
const FREEDOM = 5;
/** Scores beyond this are left out of what the model learns before the first period that is judged. */
const FAR = 4;
/** Two flags with so few periods between them are one event. */
const GAP = 2;
/** A value at or below zero, on a logarithmic scale, is as far out as a hundredth of what was expected. */
const LEAST_SHARE = 0.01;

/**
 * The range of a period is what a model fitted to the periods before it expects one step ahead. What lies outside
 * teaches the model nothing, so that a storm does not become the new normal; only where a run of one side does not
 * end is the level taken for another one. Of daily series the week and the year are seasons together. Positive
 * series are seen as logarithms: what is usual is a share and not an amount.
 */
export function expectedRange(input: ForecastInput, options: RangeOptions): ExpectedRange {
  const { from, level, known = [], usual = [], regressors = [], origin } = options;
  const effects = origin === undefined ? regressors.map(({ at }) => input.values.map((_, t) => at(t))) : [];
  return keptFit(
    {
      kind: "expected range",
      series: [input.values, ...effects],
      settings: [input.season, from, level, known, usual, regressors.map(({ name }) => name), origin ?? null],
    },
    () => judgeExpected(input, options),
    { notFitted: WORKED_OUT },
  );
}

function judgeExpected(
  { values, season }: ForecastInput,
  { from, level = 0.95, known = [], usual = [], regressors = [] }: RangeOptions,
): ExpectedRange {
  if (!(shareOf(level) > 0 && shareOf(level) < 1))
    return { notFitted: "The level of a range lies between 0 and 1, such as 0.95, or is a percentage, such as 95." };
  if (!Number.isInteger(season) || season < 1) return { notFitted: `A season of ${season} periods is not possible.` };
  const end = Math.min(from, values.length);
  const least = leastHistory(season);
  const base = placeAfter(values, least);
  if (base > end) {
    const seen = values.slice(0, end).filter(isSeen).length;
    return {
      notFitted: `No expected range yet: it needs at least ${least} periods of history, and there are ${seen}.`,
    };
  }
  const span = season === 7 ? MOST_DAYS_BEFORE : MOST_BEFORE;
  const anchor = base + Math.floor((end - base) / span) * span;
  const judge = (start: number) =>
    judgedFrom(start, { values, season, level: shareOf(level), known, usual, regressors });
  // A series may not have varied yet where one would have begun.
  const found = judge(anchor) ?? judge(end);
  if (!found) return { notFitted: "The series does not vary, so there is no expected range." };
  return {
    model: found.model,
    points: found.points.filter(({ period }) => period >= end),
    events: found.events.filter(({ to }) => to >= end),
  };
}

/** Judging begins at most so many periods before the first that is asked for. */
const MOST_BEFORE = 60;
const MOST_DAYS_BEFORE = 182;

/** The place before which so many periods have a figure; one past the end where there are fewer. */
function placeAfter(values: ForecastInput["values"], count: number): number {
  let seen = 0;
  for (const [t, value] of values.entries()) {
    if (seen === count) return t;
    if (isSeen(value)) seen += 1;
  }
  return seen === count ? values.length : values.length + 1;
}

function isSeen(value: number | null): value is number {
  return value !== null && Number.isFinite(value);
}

/**
 * Judges everything from a place on. It begins at one of few places whichever periods are asked for, so that a period
 * has the same range wherever it is shown. `null` where the series does not vary before it.
 */
function judgedFrom(
  anchor: number,
  {
    values,
    season,
    level,
    known,
    usual,
    regressors,
  }: ForecastInput & {
    readonly level: number;
    readonly known: readonly number[];
    readonly usual: readonly number[];
    readonly regressors: readonly Regressor[];
  },
): Exclude<ExpectedRange, { notFitted: string }> | null {
  const first = Math.max(0, anchor - MOST_HISTORY);
  const raw = Float64Array.from(values.slice(first), (value) => (isSeen(value) ? value : NaN));
  const start = anchor - first;
  const isLog = raw.subarray(0, start).every((value) => !(value <= 0));
  const y = raw.map((value) => (isLog ? Math.log(value) : value));
  const knownPlaces = new Set(known.map((t) => t - first));
  for (const t of knownPlaces) if (t >= 0 && t < start) y[t] = NaN;
  const short = season > 24 ? 1 : season;
  const effects = regressors.map(({ name, at }) => ({ name, at: (t: number) => at(t + first) }));
  const learning = { short, long: longSeason(season), effects };
  const learned = learnFirst(y.slice(0, start), learning);
  if (!learned) return null;
  const { model, scores } = learned;
  const said = { known: knownPlaces, usual: new Set(usual.map((t) => t - first)) };
  const watch = watched(y, raw, start, { ...learning, ...said, model, isLog, reach: reachOf(level, scores) });
  const points = watch.map((point) => ({ ...point, period: point.period + first }));
  const rare = season === 7 ? (scores[Math.floor((USUAL_A_YEAR * scores.length) / 365.25)] ?? 0) : 0;
  return { model: nameOf(model, isLog), points, events: eventsOf(points, shiftAfter(season), rare) };
}

/** How many periods of history are the least to expect anything by. */
export function leastHistory(season: number): number {
  return season > 1 ? LEAST_SEASONS * season + 1 : 8;
}

/** How often in a year of days a single one may be so far out that another is no news. */
const USUAL_A_YEAR = 2;
/** With fewer scores of the past than this, its own quantiles say little. */
const LEAST_SCORES = 100;

/** How far out the periods of the history were, the farthest first, without sign. */
function pastScores(y: Float64Array, { waves, fit }: Model, effects: readonly Regressor[]): number[] {
  const deviation = Math.sqrt(fit.variance);
  return Array.from(
    y,
    (value, t) => Math.abs(value - (waves ? harmonicsAt(waves, t, effects) : 0) - fit.fitted[t]!) / deviation,
  )
    .filter(Number.isFinite)
    .sort((a, b) => b - a);
}

/**
 * How many standard deviations the range reaches: as many as heavy tails want, and where the history is long enough
 * as many as held that share of it, so that what happens every now and then is inside its share.
 */
function reachOf(level: number, scores: readonly number[]): number {
  const own = scores.length < LEAST_SCORES ? 0 : scores[Math.floor((1 - level) * scores.length)]!;
  return Math.max(studentQuantile(0.5 + level / 2, FREEDOM), own);
}

interface Model {
  readonly waves: Harmonics | null;
  readonly fit: SmoothingFit;
}

/** The model of a history, and how far out its periods were, the farthest first; `null` where the series does not vary. */
function learnFirst(y: Float64Array, learning: Learning): { model: Model; scores: readonly number[] } | null {
  return keptFit(fitOf("range", y, learning), () => {
    const model = learn(y, learning);
    return model && { model: slim(model), scores: pastScores(y, model, learning.effects) };
  });
}

/** The model fitted again, near where it was. */
function learnAgain(y: Float64Array, learning: Learning, near: Model): Model | null {
  const { form, parameters } = near.fit;
  return keptFit(fitOf("range again", y, learning, { form, parameters }), () => {
    const model = learn(y, learning, near);
    return model && slim(model);
  });
}

function fitOf(kind: string, y: Float64Array, { short, long, effects }: Learning, near: unknown = null): FitOf {
  const known = effects.map(({ at }) => y.map((_, t) => at(t)));
  return { kind, series: [y, ...known], settings: { short, long, effects: effects.map(({ name }) => name), near } };
}

/** A model without what only its fitting needs, so that many can be kept. */
function slim({ waves, fit }: Model): Model {
  return { waves, fit: { ...fit, fitted: [], innovations: [] } };
}

/** A model of a history: the waves of a long season, and exponential smoothing of the rest, without what lies far out. */
function learn(y: Float64Array, { short, long, effects }: Learning, near?: Model): Model | null {
  let own = y;
  let model: Model | null = null;
  for (let round = 0; round < 2; round += 1) {
    const waves = long === null ? null : fitHarmonics(own, long, effects);
    const left = waves ? own.map((value, t) => value - harmonicsAt(waves, t, effects)) : own;
    const fit = fitRest(left, short, near ?? model);
    if (!fit || !isVaried(fit)) return model;
    model = { waves, fit };
    if (near) return model;
    const spread = 1.4826 * median(fit.innovations.map(Math.abs));
    const far = fit.innovations.map((error) => Math.abs(error) > FAR * spread);
    if (!far.includes(true)) return model;
    own = own.map((value, t) => (far[t] ? NaN : value));
  }
  return model;
}

/** Daily series have a level and a week, and no trend to speak of from one day to the next. */
const DAILY: SmoothingForm = { error: "additive", trend: "none", season: "additive" };

function fitRest(y: Float64Array, season: number, near: Model | null): SmoothingFit | null {
  if (near) return fitSmoothing(near.fit.form, y, season, { near: near.fit.parameters, limits: QUICK });
  if (season === 7) return fitSmoothing(DAILY, y, season, { searches: 1, limits: QUICK });
  return chooseSmoothing(y, season, ({ error }) => error === "additive")?.chosen ?? null;
}

/** What varies by its last digits alone does not vary. */
function isVaried({ variance, parameters: { level } }: SmoothingFit): boolean {
  return Math.sqrt(variance) > 1e-9 * (1 + Math.abs(level));
}

const QUICK = { leastGain: 1e-2, mostEvaluations: 20 };

/** After so many periods the model is fitted again, near where it was. */
function refitAfter({ short, long }: Learning): number {
  if (long === null) return 3;
  return short === 7 ? 91 : 13;
}

/** A run of one side this long is no event that ends, but another level. */
function shiftAfter(season: number): number {
  return season === 7 ? 28 : season > 12 ? 8 : 4;
}

/** What is looked for in a history. */
interface Learning {
  readonly short: number;
  /** How long the year is; `null` where it is no season of its own. */
  readonly long: number | null;
  readonly effects: readonly Regressor[];
}

interface Watching extends Learning {
  readonly model: Model;
  readonly isLog: boolean;
  /** How many standard deviations the range reaches to either side. */
  readonly reach: number;
  /** Places that teach nothing, and others that later models learn from, wherever they lie. */
  readonly known: ReadonlySet<number>;
  readonly usual: ReadonlySet<number>;
}

/** Goes from period to period: expects, compares, and learns from what was inside. */
function watched(
  y: Float64Array,
  raw: Float64Array,
  start: number,
  { model: first, isLog, reach: z, known, usual, ...learning }: Watching,
): RangePoint[] {
  const back = (value: number) => (isLog ? Math.exp(value) : value);
  const history = y.slice();
  let model = first;
  let state = { ...model.fit.last, seasonal: [...model.fit.last.seasonal] };
  let missed = 0;
  let run: { t: number; error: number }[] = [];
  const points: RangePoint[] = [];
  const [again, longest] = [refitAfter(learning), shiftAfter(learning.short)];
  for (let t = start; t < y.length; t += 1) {
    if (t > start && (t - start) % again === 0) {
      model = learnAgain(history.slice(0, t), learning, model) ?? model;
      state = { ...model.fit.last, seasonal: [...model.fit.last.seasonal] };
      missed = 0;
    }
    const { fit, waves } = model;
    const { alpha, beta, gamma, phi } = fit.parameters;
    const place = t % fit.length;
    const base = state.level + (phi ?? 1) * state.slope;
    const effect = fit.form.season === "none" ? 0 : state.seasonal[place]!;
    const mean = base + effect + (waves ? harmonicsAt(waves, t, learning.effects) : 0);
    // What is fitted to few periods is not known for sure either: of k parameters and n periods, k / n of the variance.
    const deviation = Math.sqrt(fit.variance * (1 + missed * alpha * alpha + fit.parameterCount / fit.observed));
    const isMissing = Number.isNaN(raw[t]!);
    const value = isLog && raw[t]! <= 0 ? mean + Math.log(LEAST_SHARE) : y[t]!;
    const error = isMissing ? 0 : value - mean;
    const score = error / deviation;
    const isOutside = Math.abs(score) > z;
    points.push({
      period: t,
      value: isMissing ? null : raw[t]!,
      expected: back(mean),
      lower: back(mean - z * deviation),
      upper: back(mean + z * deviation),
      score: isMissing ? null : score,
      isOutside,
    });
    state.level = base;
    state.slope *= phi ?? 1;
    if (isMissing || isOutside || known.has(t)) {
      missed += 1;
      // What is usual is history for the models to come; it moves nobody's level at once.
      if (isOutside && usual.has(t)) continue;
      history[t] = NaN;
      if (isMissing || known.has(t)) continue;
      run = run.length > 0 && Math.sign(run[0]!.error) === Math.sign(error) ? [...run, { t, error }] : [{ t, error }];
      if (run.length < longest) continue;
      // It does not end: the level is another one, and was so since the run began.
      const by = median(run.map((one) => one.error));
      state.level += by;
      for (let k = 0; k < run[0]!.t; k += 1) history[k]! += by;
      for (const one of run) history[one.t] = y[one.t]!;
      [run, missed] = [[], 0];
      continue;
    }
    run = [];
    missed = Math.max(0, missed - 1);
    state.level += alpha * error;
    state.slope += (beta ?? 0) * error;
    if (fit.form.season !== "none") state.seasonal[place] = effect + (gamma ?? 0) * error;
  }
  return points;
}

/** Brings flags of one side that lie close together into one event each; single ones only where they are beyond what is usual. */
function eventsOf(points: readonly RangePoint[], longest: number, rare: number): RangeEvent[] {
  const runs: RangePoint[][] = [];
  for (const point of points) {
    if (!point.isOutside) continue;
    const last = runs.at(-1);
    const isNear = last && point.period - last.at(-1)!.period <= GAP + 1;
    if (isNear && Math.sign(last.at(-1)!.score!) === Math.sign(point.score!)) last.push(point);
    else runs.push([point]);
  }
  const news = runs.filter((run) => run.length > 1 || Math.abs(run[0]!.score!) > rare);
  return news.map((run): RangeEvent => {
    const [first, last] = [run[0]!, run.at(-1)!];
    const worst = run.reduce((far, { score }) => (Math.abs(score!) > Math.abs(far) ? score! : far), 0);
    return {
      from: first.period,
      to: last.period,
      kind: run.length === 1 ? "outlier" : run.length >= longest ? "shift" : "run",
      side: worst < 0 ? "below" : "above",
      worst,
      deviation: points
        .filter(({ period }) => period >= first.period && period <= last.period)
        .reduce((sum, { value, expected }) => sum + (value === null ? 0 : value - expected), 0),
    };
  });
}

function nameOf({ waves, fit }: Model, isLog: boolean): string {
  return `${waves ? "Waves of the year and " : ""}${fit.name}${isLog ? " of logarithms" : ""}`;
}
