import type { KpiForecast } from "../../ahead/forecast-history.ts";
import type { KpiHistory } from "../../ahead/kpi-history.ts";
import type { WaysJudged } from "../../ahead/judge-ways.ts";
import type { Told } from "../../forecast/told.ts";
import type { SeriesPointAnswer } from "./schema.ts";
import type { AheadSettings } from "../../ahead/schema.ts";

/** A series looked ahead: what it was forecast from, what is expected, and what was tried to judge it. */
export interface AheadSeries {
  /** The part's key; empty for the whole. */
  readonly key: string;
  readonly name: string;
  readonly history: KpiHistory;
  readonly forecast: Told<KpiForecast>;
  readonly judged: Told<WaysJudged> | null;
}

/** The parts' forecasts added up, beside the forecast of the whole. */
export interface SumOfParts {
  readonly points: readonly number[];
  /** "The models of 3 sea areas add up to …" */
  readonly words: string;
}

/** What a chart over time has where it looks ahead. */
export interface AheadAnswer {
  readonly settings: AheadSettings;
  /** The place among the points of the first period that is forecast. */
  readonly from: number;
  /** The whole, then each part; one model each. */
  readonly series: readonly AheadSeries[];
  readonly sum: SumOfParts | null;
  /** What it says of itself on its face. */
  readonly words: string;
  /** Another way that was as near or nearer, to be taken instead; `null` where there was none. */
  readonly offer: AheadOffer | null;
  /** The periods after those that are shown, as far as one can look. */
  readonly beyond: readonly SeriesPointAnswer[];
}

/** A way to forecast that is offered, and how it is named. */
export interface AheadOffer {
  readonly name: string;
  readonly settings: Pick<AheadSettings, "method" | "way">;
}
