import { cellOf, tableOf, unitText, type PanelTable } from "../parts/panel-table.ts";
import type { ShareAnswer } from "./schema.ts";

/** The numbers behind shares, a row a part. */
export function shareTable({ kpi, noun, parts, frame }: ShareAnswer): PanelTable {
  return tableOf(parts, [
    { head: noun.charAt(0).toUpperCase() + noun.slice(1), holds: "text", cell: ({ name }) => name },
    { head: "KPI", holds: "text", isForFiles: true, cell: () => kpi.name },
    { head: "Unit", holds: "text", isForFiles: true, cell: () => unitText(kpi.unit) },
    { head: "Period", holds: "text", isForFiles: true, cell: () => `${frame.words.span}, ${frame.words.spanMonths}` },
    { head: "Scope", holds: "text", isForFiles: true, cell: () => frame.words.scope },
    { head: frame.words.shown, holds: "value", scenario: "actual", cell: ({ row }) => cellOf(row.actual) },
    { head: "Share", holds: "percent", cell: ({ share }) => cellOf(share) },
    { head: "Basis name", holds: "text", isForFiles: true, cell: ({ row }) => row.basisName },
    { head: "Basis", holds: "value", scenario: frame.basisCode, cell: ({ row }) => cellOf(row.basis) },
    { head: "Attainment", holds: "percent", cell: ({ row }) => cellOf(row.attainment) },
    { head: "Variance", holds: "delta", cell: ({ row }) => cellOf(row.variance.delta) },
    { head: "Left", holds: "text", cell: ({ left }) => left },
  ]);
}
