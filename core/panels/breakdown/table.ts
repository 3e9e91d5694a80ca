import { cellOf, tableOf, unitText, whyAbsent, type ColumnOf, type PanelTable } from "../parts/panel-table.ts";
import type { BreakdownPart, BreakdownAnswer, BreakdownRow } from "./schema.ts";

/** The numbers behind a breakdown, a row a member, then the others and the total, without what it leaves out. */
export function breakdownTable(answer: BreakdownAnswer): PanelTable {
  const { frame, kpi, by, rows, others, total, shows, series } = answer;
  const { words } = frame;
  const has = (part: BreakdownPart) => shows.includes(part);
  const level = by.level.charAt(0).toUpperCase() + by.level.slice(1);
  return tableOf(
    [...rows, ...(others ? [others] : []), ...(has("total") ? [total] : [])],
    [
      { head: level, holds: "text", cell: ({ name }) => name },
      { head: "KPI", holds: "text", isForFiles: true, cell: () => kpi.name },
      { head: "Unit", holds: "text", isForFiles: true, cell: () => unitText(kpi.unit) },
      { head: "Period", holds: "text", isForFiles: true, cell: () => `${words.span}, ${words.spanMonths}` },
      { head: "Scope", holds: "text", isForFiles: true, cell: () => words.scope },
      { head: answer.frame.words.shown, holds: "value", scenario: "actual", cell: ({ row }) => cellOf(row.actual) },
      ...(has("basis")
        ? ([
            { head: "Basis name", holds: "text", isForFiles: true, cell: ({ row }) => row.basisName },
            { head: "Basis", holds: "value", scenario: frame.basisCode, cell: ({ row }) => cellOf(row.basis) },
          ] satisfies ColumnOf<BreakdownRow>[])
        : []),
      ...(has("delta")
        ? ([
            { head: "Variance", holds: "delta", cell: ({ row }) => cellOf(row.variance.delta) },
          ] satisfies ColumnOf<BreakdownRow>[])
        : []),
      ...(has("delta-percent")
        ? ([
            { head: "Variance of basis", holds: "percent", cell: ({ row }) => cellOf(row.variance.deltaPercent) },
            { head: "Tolerances", holds: "count", cell: ({ row }) => row.variance.tolerances },
          ] satisfies ColumnOf<BreakdownRow>[])
        : []),
      { head: "Judgement", holds: "text", cell: ({ row }) => row.variance.judgement },
      ...series.map(({ name, scenario }, i): ColumnOf<BreakdownRow> => ({
        head: name,
        holds: "value",
        ...(scenario === undefined ? {} : { scenario }),
        cell: ({ parts }) => cellOf(parts[i]),
      })),
      { head: "Why absent", holds: "text", isForFiles: true, cell: ({ row }) => whyAbsent(row.actual) },
    ],
  );
}
