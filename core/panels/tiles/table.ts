import { outsideCell } from "../parts/outside-words.ts";
import { cellOf, tableOf, unitText, whyAbsent, type ColumnOf, type PanelTable } from "../parts/panel-table.ts";
import type { TileAnswer, TilesAnswer } from "./schema.ts";

/** The numbers behind tiles, a row a tile. */
export function tilesTable({ frame, figures, tiles, others }: TilesAnswer): PanelTable {
  const { words } = frame;
  const second = tiles.find((tile) => tile.second !== null)?.second ?? null;
  const hasOutside = tiles.some(({ row }) => row.outside !== null);
  return tableOf(
    [...tiles, ...(others ? [others.tile] : [])],
    [
      { head: "KPI", holds: "text", cell: ({ row }) => row.kpi.name },
      {
        head: "Member",
        holds: "text",
        cell: (tile) => tile.member?.name ?? (tile === others?.tile ? `The other ${others.count}` : null),
      },
      { head: "Unit", holds: "text", cell: ({ row }) => unitText(row.kpi.unit) },
      { head: "Period", holds: "text", isForFiles: true, cell: () => `${words.span}, ${words.spanMonths}` },
      { head: "Scope", holds: "text", isForFiles: true, cell: () => words.scope },
      { head: words.shown, holds: "value", scenario: "actual", cell: ({ row }) => cellOf(row.actual) },
      { head: "Basis name", holds: "text", cell: ({ row }) => row.basisName },
      { head: "Basis", holds: "value", scenario: frame.basisCode, cell: ({ row }) => cellOf(row.basis) },
      { head: "Variance", holds: "delta", cell: ({ row }) => cellOf(row.variance.delta) },
      { head: "Variance of basis", holds: "percent", cell: ({ row }) => cellOf(row.variance.deltaPercent) },
      { head: "Tolerances", holds: "count", cell: ({ row }) => row.variance.tolerances },
      { head: "Share of basis reached", holds: "percent", cell: ({ row }) => cellOf(row.attainment) },
      { head: "Judgement", holds: "text", cell: ({ row }) => row.variance.judgement },
      ...(second === null
        ? []
        : [
            {
              head: second.kpi.name,
              holds: "value",
              cell: (tile: TileAnswer) => cellOf(tile.second?.actual),
            } as const,
            {
              head: `Variance of ${second.kpi.name}`,
              holds: "delta",
              cell: (tile: TileAnswer) => cellOf(tile.second?.variance.delta),
            } as const,
          ]),
      ...figures.map(({ name }, i): ColumnOf<TileAnswer> => ({
        head: name,
        holds: "value",
        cell: (tile) => cellOf(tile.figures[i]?.figure),
      })),
      ...(hasOutside
        ? [
            {
              head: "Unusual",
              holds: "text",
              cell: ({ row }: TileAnswer) => outsideCell(row, frame.unit),
            } as const,
          ]
        : []),
      { head: "Why absent", holds: "text", isForFiles: true, cell: ({ row }) => whyAbsent(row.actual) },
    ],
  );
}
