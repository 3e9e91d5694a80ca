import { cellOf, tableOf, unitText, type ColumnOf, type PanelTable } from "../parts/panel-table.ts";
import type { SeasonAnswer } from "./schema.ts";

/** The numbers behind a season, a row a month of the year. */
export function seasonTable({ kpi, frame, monthNames, years, statistics }: SeasonAnswer): PanelTable {
  const rows = monthNames.map((_, i) => i);
  const statistic = (head: string, of: "mean" | "least" | "most"): ColumnOf<number> => ({
    head,
    holds: "value",
    cell: (i) => statistics[i]?.[of] ?? null,
  });
  return tableOf(rows, [
    { head: "Month", holds: "text", cell: (i) => monthNames[i]! },
    { head: "KPI", holds: "text", isForFiles: true, cell: () => kpi.name },
    { head: "Unit", holds: "text", isForFiles: true, cell: () => unitText(kpi.unit) },
    { head: "Scope", holds: "text", isForFiles: true, cell: () => frame.words.scope },
    ...years.map(({ key, values }): ColumnOf<number> => ({
      head: key,
      holds: "value",
      cell: (i) => cellOf(values[i]),
    })),
    statistic("Average", "mean"),
    statistic("Least", "least"),
    statistic("Most", "most"),
    { head: "Years", holds: "count", cell: (i) => statistics[i]?.n ?? 0 },
  ]);
}
