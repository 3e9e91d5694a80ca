import { cellOf, tableOf, unitText, type ColumnOf, type PanelTable } from "../parts/panel-table.ts";
import type { ScatterAnswer, ScatterPoint } from "./schema.ts";

/** The numbers behind a scatter, a row a point; its values are in the units of their own KPIs. */
export function scatterTable({ noun, x, y, size, points, frame }: ScatterAnswer): PanelTable {
  return tableOf(points, [
    { head: noun.charAt(0).toUpperCase() + noun.slice(1), holds: "text", cell: ({ name }) => name },
    { head: "Scope", holds: "text", isForFiles: true, cell: () => frame.words.scope },
    { head: x.name, holds: "value", of: x, cell: (point) => cellOf(point.x) },
    { head: "Unit", holds: "text", isForFiles: true, cell: () => unitText(x.unit) },
    { head: y.name, holds: "value", of: y, cell: (point) => cellOf(point.y) },
    { head: "Unit of it", holds: "text", isForFiles: true, cell: () => unitText(y.unit) },
    ...(size
      ? [
          {
            head: size.name,
            holds: "value",
            of: size,
            cell: (point) => cellOf(point.size),
          } satisfies ColumnOf<ScatterPoint>,
        ]
      : []),
  ]);
}
