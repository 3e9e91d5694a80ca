import { isSeasonal, LONGEST_SEASON, repeatsItself, SHORT } from "../season-found.ts";
import { fitArima, type ArimaFit } from "./fit.ts";
import { differenced } from "./errors.ts";
import { differencesOf } from "./lags.ts";
import { nameOfOrder, type ArimaOrder } from "./order.ts";

const MOST = { p: 3, q: 3, seasonal: 1 };
/** KPSS, five per cent, of a level (Kwiatkowski, Phillips, Schmidt and Shin 1992). */
const NOT_LEVEL = 0.463;
const LEAST_TESTED = 8;

/** The model that was chosen, and those that were tried, the lowest AICc first. */
export interface ArimaChoice {
  readonly chosen: ArimaFit;
  readonly tried: readonly { readonly name: string; readonly aicc: number }[];
}

/** Seasons, or periods of a series without one, from which on there is enough to choose by. */
const LEAST = { seasons: SHORT, periods: 40 };

/**
 * The seasonal ARIMA model of the lowest AICc, looked for step by step (Hyndman and Khandakar 2008). Always of differences,
 * without a mean of their own: what wanders does not come back, and a drift learnt from a few years is carried on too far.
 * By season where the season shows, and once more by period where the level of a series without one does not keep still.
 * `null` where the series is too short.
 */
export function chooseArima(y: Float64Array, season: number): ArimaChoice | null {
  if (season > LONGEST_SEASON || y.length < (season > 1 ? LEAST.seasons * season : LEAST.periods)) return null;
  const bySeason = season > 1 && (isSeasonal(y, season) || repeatsItself(y, season)) ? 1 : 0;
  const isLog = isOfLogarithms(y, season, bySeason);
  const orderOf = ({ p, q, sp, sq }: Shape, d: number): ArimaOrder => ({
    p,
    d,
    q,
    seasonal: { p: sp, d: bySeason, q: sq },
    isLog,
  });
  const values = isLog ? y.map((value) => Math.log(value)) : y;
  const d = bySeason === 1 || isLevel(differenced(values, differencesOf(orderOf(NOTHING, 1), season))) ? 1 : 2;
  const known = new Map<string, ArimaFit | null>();
  let best: { shape: Shape; fit: ArimaFit } | undefined;
  const take = (shape: Shape): boolean => {
    const order = orderOf(shape, d);
    const name = nameOfOrder(order, season);
    if (known.has(name)) return false;
    const fit = fitArima(order, y, season);
    known.set(name, fit);
    if (!fit || (best && fit.aicc >= best.fit.aicc)) return false;
    best = { shape, fit };
    return true;
  };
  const [sp, sq] = season > 1 ? [1, 1] : [0, 0];
  for (const start of [{ p: 2, q: 2, sp, sq }, NOTHING, { p: 1, q: 0, sp, sq: 0 }, { p: 0, q: 1, sp: 0, sq }])
    take(start);
  while (best && neighbours(best.shape, season > 1).some(take));
  if (!best) return null;
  const tried = [...known.values()]
    .flatMap((fit) => (fit ? [{ name: fit.name, aicc: fit.aicc }] : []))
    .sort((a, b) => a.aicc - b.aicc);
  return { chosen: best.fit, tried };
}

/** How many terms of each kind. */
interface Shape {
  readonly p: number;
  readonly q: number;
  readonly sp: number;
  readonly sq: number;
}

const NOTHING: Shape = { p: 0, q: 0, sp: 0, sq: 0 };

/** The models one step from another. */
function neighbours(from: Shape, hasSeason: boolean): Shape[] {
  const { p, q, sp, sq } = from;
  const all: Shape[] = [
    ...(hasSeason
      ? [
          { ...from, sp: sp - 1 },
          { ...from, sq: sq - 1 },
          { ...from, sp: sp + 1 },
          { ...from, sq: sq + 1 },
        ]
      : []),
    { ...from, p: p - 1 },
    { ...from, q: q - 1 },
    { ...from, p: p + 1 },
    { ...from, q: q + 1 },
    { ...from, p: p - 1, q: q - 1 },
    { ...from, p: p + 1, q: q + 1 },
  ];
  const isIn = (value: number, most: number) => value >= 0 && value <= most;
  return all.filter(
    (own) => isIn(own.p, MOST.p) && isIn(own.q, MOST.q) && isIn(own.sp, MOST.seasonal) && isIn(own.sq, MOST.seasonal),
  );
}

/** Whether logarithms make a plain model of the series likelier, their change of scale counted. */
function isOfLogarithms(y: Float64Array, season: number, bySeason: number): boolean {
  if (!y.every((value) => Number.isNaN(value) || value > 0)) return false;
  const plain = (isLog: boolean): ArimaOrder => ({
    p: 0,
    d: 1,
    q: 1,
    seasonal: { p: 0, d: bySeason, q: bySeason },
    isLog,
  });
  const [straight, logged] = [fitArima(plain(false), y, season), fitArima(plain(true), y, season)];
  if (!straight || !logged) return false;
  let jacobian = 0;
  for (let t = logged.run.from; t < y.length; t += 1) if (!Number.isNaN(y[t]!)) jacobian += 2 * Math.log(y[t]!);
  return logged.aicc + jacobian < straight.aicc;
}

/** Whether a series keeps to one level: the KPSS test at five per cent. */
function isLevel(w: Float64Array): boolean {
  const n = w.length;
  if (n < LEAST_TESTED) return true;
  const mean = w.reduce((sum, value) => sum + value, 0) / n;
  const e = w.map((value) => value - mean);
  const most = Math.trunc(4 * (n / 100) ** 0.25);
  let variance = e.reduce((sum, value) => sum + value * value, 0) / n;
  for (let lag = 1; lag <= most; lag += 1) {
    let sum = 0;
    for (let t = lag; t < n; t += 1) sum += e[t]! * e[t - lag]!;
    variance += (2 * (1 - lag / (most + 1)) * sum) / n;
  }
  let [level, squares] = [0, 0];
  for (const value of e) {
    level += value;
    squares += level * level;
  }
  return !(variance > 0) || squares / (n * n * variance) < NOT_LEVEL;
}
