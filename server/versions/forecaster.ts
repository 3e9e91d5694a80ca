import { parentPort } from "node:worker_threads";
import { forecastHistory, type KpiForecast } from "#core/ahead/forecast-history.ts";
import type { KpiHistory } from "#core/ahead/kpi-history.ts";
import type { AheadSettings } from "#core/ahead/schema.ts";

/** What a forecaster is told: one series. */
export interface ForecastTask {
  readonly place: number;
  readonly history: KpiHistory;
  readonly settings: AheadSettings;
}

/** What it says of it. */
export interface ForecastDone {
  readonly place: number;
  readonly forecast: KpiForecast;
}

/** A thread that forecasts series one after another, so that many of them do not keep the server from answering. */
parentPort?.on("message", ({ place, history, settings }: ForecastTask) => {
  parentPort!.postMessage({ place, forecast: forecastHistory(history, settings) } satisfies ForecastDone);
});
