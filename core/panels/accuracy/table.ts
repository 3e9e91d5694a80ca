import { tableOf, unitText, type PanelTable } from "../parts/panel-table.ts";
import type { AccuracyAnswer } from "./schema.ts";

/** The numbers behind an accuracy, a row a version. */
export function accuracyTable({ kpi, rows }: AccuracyAnswer): PanelTable {
  const aheads = [...new Set(rows.flatMap(({ byAhead }) => byAhead.map(({ ahead }) => ahead)))].sort((a, b) => a - b);
  return tableOf(rows, [
    { head: "KPI", holds: "text", isForFiles: true, cell: () => kpi.name },
    { head: "Unit", holds: "text", isForFiles: true, cell: () => unitText(kpi.unit) },
    { head: "Version", holds: "text", cell: ({ name }) => name },
    { head: "Judged by", holds: "text", cell: ({ over }) => over?.name ?? null },
    { head: "Months", holds: "text", cell: ({ months }) => String(months) },
    { head: "Mean absolute error", holds: "delta", cell: ({ mae }) => mae },
    { head: "Bias", holds: "delta", cell: ({ bias }) => bias },
    { head: "Error by what came", holds: "percent", cell: ({ share }) => share },
    ...aheads.map((ahead) => ({
      head: `${ahead} ahead`,
      holds: "percent" as const,
      cell: ({ byAhead }: AccuracyAnswer["rows"][number]) => byAhead.find((own) => own.ahead === ahead)?.share ?? null,
    })),
  ]);
}
