import { outsideCell } from "../parts/outside-words.ts";
import { cellOf, tableOf, unitText, whyAbsent, type ColumnOf, type PanelTable } from "../parts/panel-table.ts";
import type { ScorecardColumn, ScorecardAnswer } from "./schema.ts";
import type { KpiRow } from "../parts/schema.ts";

interface Entry {
  readonly group: string;
  readonly row: KpiRow;
}

/** The numbers behind a scorecard: the columns it shows, with what each row is of. */
export function scorecardTable({ frame, columns, groups }: ScorecardAnswer): PanelTable {
  const { words } = frame;
  const entries = groups.flatMap((group) => group.rows.map((row): Entry => ({ group: group.title, row })));
  const hasOutside = entries.some(({ row }) => row.outside !== null);
  return tableOf(entries, [
    { head: "Group", holds: "text", cell: ({ group }) => group },
    { head: "KPI", holds: "text", cell: ({ row }) => row.kpi.name },
    { head: "Unit", holds: "text", cell: ({ row }) => unitText(row.kpi.unit) },
    { head: "Period", holds: "text", isForFiles: true, cell: () => `${words.span}, ${words.spanMonths}` },
    { head: "Scope", holds: "text", isForFiles: true, cell: () => words.scope },
    ...columns.flatMap((column) => COLUMNS[column](frame)),
    ...(hasOutside
      ? [
          {
            head: "Unusual",
            holds: "text",
            cell: ({ row }: Entry) => outsideCell(row, frame.unit),
          } as const,
        ]
      : []),
    { head: "Why absent", holds: "text", isForFiles: true, cell: ({ row }) => whyAbsent(row.actual) },
  ]);
}

type Maker = (frame: ScorecardAnswer["frame"]) => readonly ColumnOf<Entry>[];

const COLUMNS: Readonly<Record<ScorecardColumn, Maker>> = {
  actual: ({ words }) => [
    { head: words.shown, holds: "value", scenario: "actual", cell: ({ row }) => cellOf(row.actual) },
  ],
  basis: ({ basisCode }) => [
    { head: "Basis name", holds: "text", cell: ({ row }) => row.basisName },
    { head: "Basis", holds: "value", scenario: basisCode, cell: ({ row }) => cellOf(row.basis) },
  ],
  delta: () => [{ head: "Variance", holds: "delta", cell: ({ row }) => cellOf(row.variance.delta) }],
  "delta-percent": () => [
    { head: "Variance of basis", holds: "percent", cell: ({ row }) => cellOf(row.variance.deltaPercent) },
    { head: "Tolerances", holds: "count", cell: ({ row }) => row.variance.tolerances },
  ],
  status: () => [
    { head: "Judgement", holds: "text", cell: ({ row }) => row.variance.judgement },
    {
      head: "Status",
      holds: "text",
      cell: ({ row: { status } }) => (status && "word" in status ? status.word : null),
    },
  ],
  "prior-year": () => [
    { head: "Prior year", holds: "value", scenario: "prior-year", cell: ({ row }) => cellOf(row.priorYear) },
  ],
  growth: () => [{ head: "Growth on prior year", holds: "percent", cell: ({ row }) => cellOf(row.growth) }],
  "to-date": () => [
    { head: "Year to date", holds: "value", scenario: "actual", cell: ({ row }) => cellOf(row.toDate?.actual) },
  ],
  "to-date-delta": () => [
    { head: "Variance year to date", holds: "delta", cell: ({ row }) => cellOf(row.toDate?.variance.delta) },
  ],
  outlook: () => [
    { head: "Outlook", holds: "value", scenario: "forecast", cell: ({ row }) => cellOf(row.outlook?.actual) },
  ],
  "outlook-delta": () => [
    { head: "Variance full year", holds: "delta", cell: ({ row }) => cellOf(row.outlook?.variance.delta) },
  ],
  // A row's months are those of a chart over time, which has them as a table of its own.
  trend: () => [],
  words: () => [{ head: "In words", holds: "text", cell: ({ row }) => row.words }],
};
