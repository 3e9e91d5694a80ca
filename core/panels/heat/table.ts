import { cellOf, tableOf, unitText, whyAbsent, type PanelTable } from "../parts/panel-table.ts";
import type { HeatAnswer, HeatCell } from "./schema.ts";

interface Line {
  readonly row: string;
  readonly column: string;
  readonly cell: HeatCell;
}

/** The numbers behind a heat grid, a row a cell. */
export function heatTable({ kpi, frame, rows, columns, cells, basisName }: HeatAnswer): PanelTable {
  const lines = cells.flatMap((line, r) =>
    line.map((cell, c): Line => ({ row: rows.entries[r]!.name, column: columns.entries[c]!.name, cell })),
  );
  const head = (noun: string) => noun.charAt(0).toUpperCase() + noun.slice(1);
  return tableOf(lines, [
    { head: head(rows.noun), holds: "text", cell: ({ row }) => row },
    { head: head(columns.noun), holds: "text", cell: ({ column }) => column },
    { head: "KPI", holds: "text", isForFiles: true, cell: () => kpi.name },
    { head: "Unit", holds: "text", isForFiles: true, cell: () => unitText(kpi.unit) },
    { head: "Scope", holds: "text", isForFiles: true, cell: () => frame.words.scope },
    { head: frame.words.shown, holds: "value", scenario: "actual", cell: ({ cell }) => cellOf(cell.actual) },
    { head: "Basis name", holds: "text", isForFiles: true, cell: () => basisName },
    { head: "Variance", holds: "delta", cell: ({ cell }) => cellOf(cell.variance.delta) },
    { head: "Variance of basis", holds: "percent", cell: ({ cell }) => cellOf(cell.variance.deltaPercent) },
    { head: "Judgement", holds: "text", cell: ({ cell }) => cell.variance.judgement },
    { head: "Why absent", holds: "text", isForFiles: true, cell: ({ cell }) => whyAbsent(cell.actual) },
  ]);
}
