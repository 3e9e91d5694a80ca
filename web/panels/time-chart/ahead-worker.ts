import { drawHistory, forecastHistory } from "#core/ahead/forecast-history.ts";
import type { KpiHistory } from "#core/ahead/kpi-history.ts";
import { told } from "#core/forecast/told.ts";
import type { AheadSettings } from "#core/ahead/schema.ts";

/** What the worker is asked: series by their histories, forecast anew under settings, or drawn as they were. */
export interface AheadAsked {
  readonly number: number;
  readonly histories: readonly KpiHistory[];
  readonly settings: AheadSettings;
  readonly what: "forecast" | "draw";
}

self.onmessage = ({ data: { number, histories, settings, what } }: MessageEvent<AheadAsked>) => {
  self.postMessage({
    number,
    answers: histories.map((history) =>
      what === "draw" ? drawHistory(history, settings) : told(forecastHistory(history, settings)),
    ),
  });
};
