import { cellOf, tableOf, unitText, type PanelTable } from "../parts/panel-table.ts";
import type { MapAnswer } from "./schema.ts";

/** The numbers behind a map, a row a member. */
export function mapTable({ kpi, noun, places, frame }: MapAnswer): PanelTable {
  return tableOf(places, [
    { head: noun.charAt(0).toUpperCase() + noun.slice(1), holds: "text", cell: ({ name }) => name },
    { head: "Country", holds: "text", isForFiles: true, cell: ({ country }) => country },
    { head: "KPI", holds: "text", isForFiles: true, cell: () => kpi.name },
    { head: "Unit", holds: "text", isForFiles: true, cell: () => unitText(kpi.unit) },
    { head: "Period", holds: "text", isForFiles: true, cell: () => `${frame.words.span}, ${frame.words.spanMonths}` },
    { head: "Scope", holds: "text", isForFiles: true, cell: () => frame.words.scope },
    { head: frame.words.shown, holds: "value", scenario: "actual", cell: ({ row }) => cellOf(row.actual) },
    { head: "Basis name", holds: "text", isForFiles: true, cell: ({ row }) => row.basisName },
    { head: "Basis", holds: "value", scenario: frame.basisCode, cell: ({ row }) => cellOf(row.basis) },
    { head: "Variance", holds: "delta", cell: ({ row }) => cellOf(row.variance.delta) },
    { head: "Variance of basis", holds: "percent", cell: ({ row }) => cellOf(row.variance.deltaPercent) },
    { head: "Judgement", holds: "text", cell: ({ row }) => row.variance.judgement },
  ]);
}
