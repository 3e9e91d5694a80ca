import { monthOf } from "#core/calendar/month.ts";
import type { DatasetGrain, Scenario } from "#core/cube/coverage.ts";

/** The fiscal year opens in April. */
export const CALENDAR = { startMonth: 4 } as const;

/** First month with actuals, last closed month, and the last day of daily operations. */
export const FIRST_MONTH = monthOf(2023, 4);
export const LAST_CLOSED = monthOf(2026, 10);
export const LAST_DAY = { month: monthOf(2026, 11), day: 17 } as const;

export const SCENARIOS: readonly Scenario[] = [
  { key: "actual", name: "Actual", kind: "actual", madeAfter: null },
  { key: "budget", name: "Budget", kind: "budget", madeAfter: null },
  { key: "forecast-3-9", name: "Forecast 3+9", kind: "forecast", madeAfter: monthOf(2026, 6) },
  { key: "forecast-6-6", name: "Forecast 6+6", kind: "forecast", madeAfter: monthOf(2026, 9) },
  { key: "target", name: "Target", kind: "target", madeAfter: null },
];

/** A dataset with the dimensions its facts may carry. */
export interface SampleDataset extends DatasetGrain {
  readonly dimensions: readonly string[];
}

export const DATASETS: readonly SampleDataset[] = [
  {
    key: "management-accounts",
    name: "Management accounts",
    grain: "month",
    closes: true,
    dimensions: ["route", "service", "cost-centre", "vessel", "home-market"],
  },
  { key: "daily-operations", name: "Daily operations", grain: "day", dimensions: ["route"] },
  { key: "targets", name: "Targets", grain: "quarter", dimensions: ["route"] },
];
