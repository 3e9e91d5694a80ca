import { cellOf, tableOf, unitText, type ColumnOf, type PanelTable } from "../parts/panel-table.ts";
import type { BandPoint, ExpectedBand } from "./expected-band.ts";
import { intervalsAt } from "./intervals-at.ts";
import type { Grain } from "../../series/grain.ts";
import type { AheadAnswer } from "./answer.ts";
import type { ChartSeries, SeriesPointAnswer, TimeChartAnswer } from "./schema.ts";
import type { Figure } from "../../figures/schema.ts";

const GRAIN_HEADS: Readonly<Record<Grain, string>> = {
  day: "Day",
  week: "Week",
  month: "Month",
  quarter: "Quarter",
  year: "Year",
};

/** The numbers behind a chart over time, a row a period, without what the chart leaves out. */
export function timeChartTable({
  kpi,
  points,
  basisName,
  actualName,
  forecastName,
  shows,
  references,
  frame,
  grain,
  parts,
  right,
  moving,
  strip,
  ahead,
  band,
}: TimeChartAnswer): PanelTable {
  const series: Readonly<Record<ChartSeries, ColumnOf<SeriesPointAnswer>>> = {
    forecast: {
      head: forecastName ?? "Forecast",
      holds: "value",
      scenario: "forecast",
      cell: (point) => cellOf(point.forecast),
    },
    budget: { head: "Budget", holds: "value", scenario: "budget", cell: (point) => cellOf(point.budget) },
    target: { head: "Target", holds: "value", scenario: "target", cell: (point) => cellOf(point.target) },
    "prior-year": {
      head: "Prior year",
      holds: "value",
      scenario: "prior-year",
      cell: (point) => cellOf(point.priorYear),
    },
  };
  const drawn = shows.map((key) => series[key]).filter(({ cell }) => points.some((point) => cell(point) !== null));
  const places = new Map(points.map((point, i) => [point, i]));
  const along = (figures: readonly Figure[]) => (point: SeriesPointAnswer) => cellOf(figures[places.get(point)!]);
  const own: readonly ColumnOf<SeriesPointAnswer>[] = [
    ...parts.map((part): ColumnOf<SeriesPointAnswer> => ({
      head: part.name,
      holds: "value",
      of: part.kpi,
      cell: along(part.figures),
    })),
    ...(ahead ? boundsOf(ahead, parts, (point) => (places.get(point) ?? -1) - ahead.from) : []),
    ...(band ? bandColumns(band, (point) => band.points[places.get(point) ?? -1] ?? null) : []),
    ...(right ? [{ head: right.kpi.name, holds: "value", of: right.kpi, cell: along(right.figures) } as const] : []),
    ...(moving ? [{ head: moving.name, holds: "value", cell: along(moving.figures) } as const] : []),
    ...(strip && strip.kind.startsWith("growth")
      ? [
          {
            head: strip.name,
            holds: strip.isPercent ? "percent" : "delta",
            cell: along(strip.points.map(({ figure }) => figure)),
          } as const,
        ]
      : []),
  ];
  return tableOf(points, [
    { head: "KPI", holds: "text", isForFiles: true, cell: () => kpi.name },
    { head: "Unit", holds: "text", isForFiles: true, cell: () => unitText(kpi.unit) },
    { head: GRAIN_HEADS[grain], holds: "text", cell: (point) => point.name },
    { head: "Period", holds: "text", isForFiles: true, cell: (point) => point.period },
    { head: actualName, holds: "value", scenario: "actual", cell: (point) => cellOf(point.actual) },
    ...own,
    ...drawn,
    { head: "Basis name", holds: "text", isForFiles: true, cell: () => basisName },
    {
      head: "Basis",
      holds: "value",
      isForFiles: true,
      scenario: frame.basisCode,
      cell: (point) => cellOf(point.basis),
    },
    { head: "Variance", holds: "delta", cell: (point) => cellOf(point.variance.delta) },
    ...(kpi.unit.kind === "percent"
      ? []
      : [
          {
            head: "Variance of basis",
            holds: "percent",
            cell: (point: SeriesPointAnswer) => cellOf(point.variance.deltaPercent),
          } as const,
        ]),
    { head: "Judgement", holds: "text", cell: (point) => point.variance.judgement },
    ...references.map((line): ColumnOf<SeriesPointAnswer> => ({
      head: line.name,
      holds: "value",
      isForFiles: true,
      cell: () => cellOf(line.figure),
    })),
  ]);
}

/** What was expected of each period that came. */
function bandColumns(
  { level }: ExpectedBand,
  at: (point: SeriesPointAnswer) => BandPoint | null,
): ColumnOf<SeriesPointAnswer>[] {
  return [
    { head: "Expected", holds: "value", cell: (point) => at(point)?.expected ?? null },
    { head: `Expected from, ${level}%`, holds: "value", cell: (point) => at(point)?.lower ?? null },
    { head: `Expected to, ${level}%`, holds: "value", cell: (point) => at(point)?.upper ?? null },
    { head: "Outside", holds: "text", cell: (point) => (at(point)?.isOutside ? "outside" : null) },
  ];
}

/** The bounds of what is forecast: of the whole, and of each part. */
function boundsOf(
  { series }: AheadAnswer,
  parts: TimeChartAnswer["parts"],
  stepOf: (point: SeriesPointAnswer) => number,
): ColumnOf<SeriesPointAnswer>[] {
  return series.flatMap((own) => {
    const part = parts.find(({ key }) => key === own.key);
    const name = own.key === "" ? "" : `${own.name}, `;
    return intervalsAt(own, 0).flatMap(({ level }, l) =>
      (["lower", "upper"] as const).map((side): ColumnOf<SeriesPointAnswer> => ({
        head: `${name}${name === "" ? side.charAt(0).toUpperCase() + side.slice(1) : side} bound of ${level}%`,
        holds: "value",
        ...(part ? { of: part.kpi } : {}),
        cell: (point) => intervalsAt(own, stepOf(point))[l]?.[side] ?? null,
      })),
    );
  });
}
