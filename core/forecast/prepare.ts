import { LEVELS, shareOf, type ForecastInput, type ForecastOptions } from "./forecast.ts";
import { giantOutliers } from "./outliers.ts";
import { LONGEST_SEASON, repeatsItself } from "./season-found.ts";

/** Longer histories are cut to their last part: what is older says nothing more, and every fit ends in time. */
export const MOST_PERIODS = 3_000;
export const MOST_HORIZON = 1_500;
const LEAST_PERIODS = 3;

/** A series ready to be fitted. */
export interface Prepared {
  /** NaN where nothing was observed, or is left out. */
  readonly y: Float64Array;
  readonly season: number;
  /** How many of the first periods were cut off. */
  readonly cut: number;
  readonly leftOut: readonly number[];
  readonly warnings: readonly string[];
}

/** The series as it is fitted, or why it cannot be. */
export function prepare(
  { values, season: wanted }: ForecastInput,
  {
    horizon,
    ignoreLast = 0,
    interpolates = false,
    leaveOut,
    known = [],
    usual = [],
    log = false,
    levels = LEVELS,
  }: ForecastOptions,
): Prepared | { notFitted: string } {
  if (!Number.isInteger(horizon) || horizon < 1 || horizon > MOST_HORIZON)
    return { notFitted: `The horizon is ${horizon}: it has to be between 1 and ${MOST_HORIZON} periods.` };
  if (!Number.isInteger(wanted) || wanted < 1)
    return { notFitted: `A season of ${wanted} periods is not possible: give a whole number, or 1 for no season.` };
  if (!levels.every((level) => shareOf(level) > 0 && shareOf(level) < 1))
    return { notFitted: "The level of an interval lies between 0 and 1, such as 0.8, or is a percentage, such as 80." };
  if (!Number.isInteger(ignoreLast) || ignoreLast < 0)
    return { notFitted: `${ignoreLast} periods cannot be left out: give a whole number.` };
  const kept = values.slice(0, Math.max(0, values.length - ignoreLast));
  const first = kept.findIndex((value) => value !== null && Number.isFinite(value));
  if (first < 0)
    return { notFitted: ignoreLast > 0 ? "Every period with a figure is left out." : "No period has a figure." };
  const cut = Math.max(first, kept.length - MOST_PERIODS);
  const y = Float64Array.from(kept.slice(cut), (value) => (value !== null && Number.isFinite(value) ? value : NaN));
  const warnings = cut > first ? [`Only the last ${MOST_PERIODS.toLocaleString("en-GB")} periods were used.`] : [];
  if (interpolates) fillGaps(y);
  const seen = y.reduce((count, value) => (Number.isNaN(value) ? count : count + 1), 0);
  if (seen < LEAST_PERIODS)
    return {
      notFitted: `${seen === 1 ? "One period has" : `${seen} periods have`} a figure: ${LEAST_PERIODS} are the least.`,
    };
  if (seen < y.length / 2)
    return { notFitted: `More than half of the ${y.length} periods are missing: fill them, or begin later.` };
  if (seen < y.length)
    warnings.push(`${y.length - seen} missing ${y.length - seen === 1 ? "period was" : "periods were"} skipped.`);
  if (log && y.some((value) => value <= 0))
    return { notFitted: "The logarithm needs values above zero, and this series has others." };
  const isTwice = seen >= 2 * wanted + 1;
  // A short series whose periods go with those of the season before has a season, though it can't be tested for one.
  const isShort = !isTwice && wanted <= LONGEST_SEASON && repeatsItself(y, wanted);
  const season = isTwice || isShort ? wanted : 1;
  if (season < wanted) warnings.push(`A season needs at least two cycles of ${wanted} periods, so none was fitted.`);
  const leave = (places: readonly number[]) => {
    const there = places.filter((t) => t >= 0 && t < y.length && !Number.isNaN(y[t]!));
    for (const t of there) y[t] = NaN;
    return there;
  };
  const ofEvents = leave(known.map((t) => t - cut));
  if (ofEvents.length > 0)
    warnings.push(
      `${ofEvents.length === 1 ? "One period of a known event was" : `${ofEvents.length} periods of known events were`} left out.`,
    );
  // Where a season is hardly there twice, its peaks look like giants.
  const found = leaveOut || isShort ? [] : leave(giantsAmong(y, season, new Set(usual.map((t) => t - cut))));
  if (found.length > 0)
    warnings.push(
      `${found.length === 1 ? "One giant outlier was" : `${found.length} giant outliers were`} found and left out.`,
    );
  const leftOut = [...ofEvents, ...leave((leaveOut ?? []).map((t) => t - cut)), ...found].sort((a, b) => a - b);
  if (seen - leftOut.length < LEAST_PERIODS)
    return { notFitted: "Too many periods are left out: fewer than three remain." };
  return { y, season, cut, leftOut: leftOut.map((t) => t + cut), warnings };
}

/** Giant outliers that nobody called usual. */
function giantsAmong(y: Float64Array, season: number, usual: ReadonlySet<number>): number[] {
  return giantOutliers(y, season > LONGEST_SEASON ? 1 : season).filter((t) => !usual.has(t));
}

function fillGaps(y: Float64Array): void {
  for (let t = 1; t < y.length; t += 1) {
    if (!Number.isNaN(y[t]!)) continue;
    let next = t;
    while (next < y.length && Number.isNaN(y[next]!)) next += 1;
    if (next === y.length) return;
    const [from, to] = [y[t - 1]!, y[next]!];
    for (let k = t; k < next; k += 1) y[k] = from + ((to - from) * (k - t + 1)) / (next - t + 1);
  }
}
