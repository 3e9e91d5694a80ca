import { cellOf, tableOf, unitText, type PanelTable } from "../parts/panel-table.ts";
import type { OutlookAnswer } from "./schema.ts";

/** The numbers behind an outlook, a row a source. */
export function outlookTable({ kpi, rows, toDate, basis, basisName, gap }: OutlookAnswer): PanelTable {
  return tableOf(rows, [
    { head: "KPI", holds: "text", isForFiles: true, cell: () => kpi.name },
    { head: "Unit", holds: "text", isForFiles: true, cell: () => unitText(kpi.unit) },
    { head: "Source", holds: "text", cell: ({ name }) => name },
    { head: "To date", holds: "value", scenario: "actual", cell: () => cellOf(toDate) },
    { head: "Rest", holds: "value", scenario: "forecast", cell: ({ rest }) => cellOf(rest) },
    { head: "Full year", holds: "value", scenario: "forecast", cell: ({ figure }) => cellOf(figure) },
    { head: `Full year ${basisName}`, holds: "value", scenario: "budget", cell: () => cellOf(basis) },
    { head: "Variance", holds: "delta", cell: ({ variance }) => cellOf(variance.delta) },
    ...(kpi.unit.kind === "percent"
      ? []
      : [
          {
            head: "Variance of basis",
            holds: "percent",
            cell: ({ variance }: OutlookAnswer["rows"][number]) => cellOf(variance.deltaPercent),
          } as const,
        ]),
    { head: "Judgement", holds: "text", cell: ({ variance }) => variance.judgement },
    { head: "Made of", holds: "text", cell: ({ note }) => note },
    {
      head: "Needed in each month left",
      holds: "value",
      isForFiles: true,
      cell: () => (gap ? cellOf(gap.needed) : null),
    },
  ]);
}
