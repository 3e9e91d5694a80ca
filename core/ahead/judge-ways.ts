import { accuracyOf, naiveError, type Accuracy } from "../forecast/accuracy.ts";
import { shareOf } from "../forecast/forecast.ts";
import { keptFit } from "../forecast/kept-fits.ts";
import { fitOfHistory, forecastHistory, isByInputs } from "./forecast-history.ts";
import type { KpiHistory } from "./kpi-history.ts";
import { AS_ITSELF } from "./ways.ts";
import { USUAL_SEASON } from "./settings.ts";
import { type AheadSettings, levelsOf } from "./schema.ts";

/** How near the ways to forecast a rate were, from earlier origins, and what share of what came the intervals held. */
export interface WaysJudged {
  readonly origins: number;
  readonly horizon: number;
  readonly rows: readonly (Accuracy & { readonly name: string })[];
  readonly coverage: readonly { readonly level: number; readonly share: number }[];
}

const MOST_ORIGINS = 3;
const LEAST_KNOWN = 12;
/** Forecasting days anew from several origins takes seconds and tells little of months. */
const LONGEST = 200;

/**
 * Forecasts a rate of amounts anew from earlier origins, by its inputs and as the series that it is, and compares both
 * with the same period of the season before and with what came. `null` where the history is too short, or too long for it.
 */
export function judgeWays(history: KpiHistory, settings: AheadSettings): WaysJudged | null {
  return keptFit<WaysJudged | null>(fitOfHistory("ways 4", history, settings), () => judge(history, settings), null);
}

function judge(history: KpiHistory, settings: AheadSettings): WaysJudged | null {
  const { values, grain } = history;
  if (!isByInputs(history, settings) || values.length > LONGEST) return null;
  const season = settings.season ?? USUAL_SEASON[grain];
  const horizon = Math.max(1, Math.min(6, season > 1 ? season : 3));
  const kept = values.length - (settings.without ?? 0);
  const origins = Array.from({ length: MOST_ORIGINS }, (_, i) => kept - (i + 1) * horizon).filter(
    (known) => known >= Math.max(LEAST_KNOWN, 2 * season + 1),
  );
  if (origins.length === 0) return null;
  const ways = { inputs: emptyPairs(), itself: emptyPairs(), naive: emptyPairs() };
  const held = levelsOf(settings).map((level) => ({ level, held: 0 }));
  let n = 0;
  for (const known of origins) {
    const own = { ...settings, horizon, without: values.length - known };
    const [inputs, itself] = (["inputs", "itself"] as const).map((way) => forecastHistory(history, { ...own, way }));
    for (let i = 0; i < horizon && known + i < kept; i += 1) {
      const seen = values[known + i] ?? null;
      if (seen === null) continue;
      if (inputs && !("notFitted" in inputs)) {
        n += 1;
        inputs.intervals.forEach(({ lower, upper }, l) => {
          held[l]!.held += seen >= lower[i]! && seen <= upper[i]! ? 1 : 0;
        });
        put(ways.inputs, seen, inputs.points[i]!);
      }
      if (itself && !("notFitted" in itself)) put(ways.itself, seen, itself.points[i]!);
      put(ways.naive, seen, values[known + i - season * Math.ceil((i + 1) / season)] ?? NaN);
    }
  }
  if (n === 0) return null;
  const y = Float64Array.from(values.slice(0, kept), (value) => value ?? NaN);
  const scale = naiveError(y, season) || naiveError(y, 1);
  const row = (name: string, { seen, said }: Pairs) => ({ name, ...accuracyOf(seen, said, scale) });
  return {
    origins: origins.length,
    horizon,
    rows: [
      row("By its inputs", ways.inputs),
      row(AS_ITSELF, ways.itself),
      row(season > 1 ? "Seasonal naive" : "Naive", ways.naive),
    ].filter((own) => own.n > 0),
    coverage: held.map(({ level, held: inside }) => ({ level: shareOf(level), share: inside / n })),
  };
}

interface Pairs {
  readonly seen: number[];
  readonly said: number[];
}

function emptyPairs(): Pairs {
  return { seen: [], said: [] };
}

function put({ seen, said }: Pairs, value: number, forecast: number): void {
  seen.push(value);
  said.push(forecast);
}
