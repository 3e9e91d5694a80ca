import { forecastHistory } from "#core/ahead/forecast-history.ts";
import type { KpiHistory } from "#core/ahead/kpi-history.ts";
import type { AheadSettings } from "#core/ahead/settings.ts";
import { told } from "#core/forecast/told.ts";

/** What the worker is asked: series by their histories, forecast anew under settings. */
export interface PreviewAsked {
  readonly number: number;
  readonly histories: readonly KpiHistory[];
  readonly settings: AheadSettings;
}

self.onmessage = ({ data: { number, histories, settings } }: MessageEvent<PreviewAsked>) => {
  self.postMessage({ number, forecasts: histories.map((history) => told(forecastHistory(history, settings))) });
};
