import { forecastHistory, isByInputs } from "../../ahead/forecast-history.ts";
import { historyOf, type PlacedHistory } from "../../ahead/history.ts";
import { judgeWays } from "../../ahead/judge-ways.ts";
import { measureOver } from "../../compare/measure.ts";
import type { MeasureContext } from "../../compare/measure-ground.ts";
import { told } from "../../forecast/told.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import type { Grain } from "../../series/grain.ts";
import type { AheadSeries } from "./answer.ts";
import type { AheadSettings } from "../../ahead/schema.ts";

/** What is looked ahead: a KPI in a scope, as the whole or a part. */
export interface AheadOf {
  readonly key: string;
  readonly name: string;
  readonly kpi: CompiledKpi;
  readonly context: MeasureContext;
}

/** Forecasts series of one chart, one model each. Those without any figure have none. */
export function aheadSeries(all: readonly AheadOf[], grain: Grain, settings: AheadSettings): AheadSeries[] {
  return all.flatMap(({ key, name, kpi, context }): AheadSeries[] => {
    const placed: PlacedHistory | null = historyOf(kpi, grain, context, { measureOver });
    if (!placed) return [];
    const { history } = placed;
    const forecast = forecastHistory(history, settings);
    const judged = isByInputs(history, settings) ? judgeWays(history, settings) : null;
    return [{ key, name, history, forecast: told(forecast), judged: judged && told(judged) }];
  });
}
