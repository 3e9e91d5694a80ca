import { PANEL_KINDS, type PanelKind } from "#core/panels/kinds.ts";
import { viewOf } from "../../panels/index.ts";

/**
 * What a kind of panel also shows, as somebody would look for it who does not know its name: views of it, and what can be
 * set in it. A kind that is forgotten here fails to compile.
 */
const ALSO: Readonly<Record<PanelKind, readonly string[]>> = {
  scorecard: ["several KPIs in a table", "status and trend by KPI", "actual, budget and variance by row"],
  tiles: ["one big number", "a number for each member", "cards"],
  "time-chart": [
    "columns or lines by month",
    "trend line",
    "moving average",
    "forecast",
    "the average of a chosen year as a line",
    "reference line",
    "variance below",
    "stacked over time",
    "several KPIs over time",
  ],
  bridge: ["waterfall", "from budget to actual", "from prior year to actual", "price, volume and mix"],
  breakdown: ["ranking", "sorted bars", "top 10", "clustered or stacked bars", "bars by member"],
  "cross-tab": ["pivot table", "rows and columns", "matrix with subtotals"],
  growth: ["change on the prior year", "change on the prior month", "growth by member"],
  season: [
    "this year against the average of earlier years",
    "years over each other",
    "least, most and average by month",
    "small charts by year",
    "seasonality",
  ],
  share: ["part of the whole", "ring or pie", "progress to target", "what is left to target", "attainment"],
  map: ["by country", "geography"],
  scatter: ["correlation", "two KPIs against each other", "fitted line"],
  heat: ["heat map", "weekday by month", "calendar of days"],
  "expected-range": ["anomalies", "outliers", "control limits"],
  outlook: ["year-end estimate", "gap to close", "run rate to the year's end"],
  accuracy: ["forecast against actual", "bias of forecasts"],
  text: ["comment", "note", "figures in a sentence"],
  chooser: ["filter", "switch the KPI or the scope"],
};

/** A kind that was found, and what of it was looked for where neither its name nor its question says so. */
export interface FoundKind {
  readonly kind: PanelKind;
  readonly has: string | null;
}

/** The kinds whose name, question or what they also show holds every word that is looked for; all where nothing is. */
export function findKinds(wanted: string): FoundKind[] {
  const words = wanted
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== "");
  const holds = (text: string) => words.every((word) => text.toLowerCase().includes(word));
  return PANEL_KINDS.flatMap((kind): FoundKind[] => {
    const { name, question } = viewOf(kind);
    if (holds(`${name} ${question}`)) return [{ kind, has: null }];
    const has = ALSO[kind].find(holds);
    return has === undefined ? [] : [{ kind, has }];
  });
}
