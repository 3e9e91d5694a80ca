import { periodName } from "../calendar/fiscal-calendar.ts";
import { daysInMonth, formatMonth, type Month } from "../calendar/month.ts";
import { isWhole, lastClosedMonth, lastDayOf, monthsOf, type DatasetGrain } from "../cube/coverage.ts";
import type { Company } from "./company.ts";

/** What a dataset has of the month that is open. */
export interface OpenDataset {
  readonly key: string;
  readonly name: string;
  readonly has: "all" | "part" | "nothing";
  /** "to day 17 of 30", "nothing yet", "there": what it has, in words. */
  readonly words: string;
  /** Whether the month counts as closed only once this one has it whole. */
  readonly closes: boolean;
}

/** The month after the last closed one, and what of it is there. */
export interface OpenMonth {
  readonly month: string;
  readonly name: string;
  readonly datasets: readonly OpenDataset[];
}

/** Datasets that brought nothing for longer are of the past: no month waits for them. */
const STALE_MONTHS = 3;

/** The open month and what it still lacks; `null` where nothing is closed yet. */
export function openMonth({ coverage, calendar }: Company): OpenMonth | null {
  const closed = lastClosedMonth(coverage);
  if (closed === undefined) return null;
  const open = closed + 1;
  const datasets = [...coverage.datasets.values()].flatMap((dataset) => {
    const actuals = monthsOf(coverage, dataset.key, "actual");
    const last = actuals.at(-1);
    if (!last || last.month < closed - STALE_MONTHS) return [];
    return [
      describe(
        dataset,
        actuals.find((entry) => entry.month === open),
        open,
      ),
    ];
  });
  return { month: formatMonth(open), name: periodName(calendar, open), datasets };
}

function describe(
  { key, name, closes = false }: DatasetGrain,
  entry: ReturnType<typeof monthsOf>[number] | undefined,
  month: Month,
): OpenDataset {
  const base = { key, name, closes };
  if (!entry) return { ...base, has: "nothing", words: "nothing yet" };
  if (isWhole(entry)) return { ...base, has: "all", words: "there" };
  return { ...base, has: "part", words: `to day ${lastDayOf(entry)} of ${daysInMonth(month)}` };
}
