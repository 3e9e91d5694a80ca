import { cellOf, tableOf, unitText, whyAbsent, type ColumnOf, type PanelTable } from "../parts/panel-table.ts";
import type { GrowthAnswer, GrowthPoint } from "./schema.ts";

/** The numbers behind growth, a row a period or a member. */
export function growthTable({ kpi, noun, points, frame, on, ranges }: GrowthAnswer): PanelTable {
  return tableOf(points, [
    { head: noun.charAt(0).toUpperCase() + noun.slice(1), holds: "text", cell: ({ name }) => name },
    { head: "KPI", holds: "text", isForFiles: true, cell: () => kpi.name },
    { head: "Unit", holds: "text", isForFiles: true, cell: () => unitText(kpi.unit) },
    { head: "Scope", holds: "text", isForFiles: true, cell: () => frame.words.scope },
    { head: frame.words.shown, holds: "value", scenario: "actual", cell: ({ now }) => cellOf(now) },
    {
      head: on === "prior-year" ? "Prior year" : "Before",
      holds: "value",
      scenario: "prior-year",
      cell: ({ before }) => cellOf(before),
    },
    { head: "Growth", holds: kpi.unit.kind === "percent" ? "delta" : "percent", cell: ({ growth }) => cellOf(growth) },
    { head: "Judgement", holds: "text", cell: ({ judgement }) => judgement },
    ...(ranges
      ? [
          {
            head: "Range",
            holds: "text",
            cell: ({ range }) => (range === null ? null : ranges[range]!.name),
          } satisfies ColumnOf<GrowthPoint>,
        ]
      : []),
    { head: "Why absent", holds: "text", isForFiles: true, cell: ({ growth }) => whyAbsent(growth) },
  ]);
}
