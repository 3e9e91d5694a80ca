import { tableOf, unitText, type ColumnOf, type PanelTable } from "../parts/panel-table.ts";
import type { CrossMeasure, CrossSide, CrossTabAnswer } from "./schema.ts";

/** What each measure is called at the head of its column. */
export const HEADS: Readonly<Record<CrossMeasure, string>> = {
  value: "Value",
  basis: "Basis",
  delta: "Variance",
  "delta-percent": "Variance of basis",
  "share-of-row": "Share of row",
  "share-of-column": "Share of column",
  "share-of-total": "Share of total",
  rank: "Rank",
};

const HOLDS: Readonly<Record<CrossMeasure, "value" | "delta" | "percent" | "count">> = {
  value: "value",
  basis: "value",
  delta: "delta",
  "delta-percent": "percent",
  "share-of-row": "percent",
  "share-of-column": "percent",
  "share-of-total": "percent",
  rank: "count",
};

/** What stands at a place of a line; inside a total nothing more is named. */
export function placeName({ axes, lines }: CrossSide, line: number, depth: number): string {
  const at = lines[line]![depth];
  if (at !== null && at !== undefined) return axes[depth]!.entries[at]!.name;
  return lines[line]!.slice(0, depth).includes(null) ? "" : (axes[depth]!.totalName ?? "");
}

/** The measures that a column has figures of; the actual is not compared with itself. */
export function measuresOf({ measures, cells }: CrossTabAnswer, column: number): readonly CrossMeasure[] {
  return measures.filter(
    (shown) => shown === "value" || cells[column]!.figures[shown]!.values.some((value) => value !== null),
  );
}

/** A cross-tab as it stands: a column for each place of its rows, then one for each measure of each of its columns. */
export function crossTable(data: CrossTabAnswer): PanelTable {
  const { rows, columns, cells, measures, kpis, frame } = data;
  const head = (noun: string) => noun.charAt(0).toUpperCase() + noun.slice(1);
  const kpiOf = (line: readonly (number | null)[] | undefined, side: CrossSide) => {
    const axis = side.axes.findIndex(({ kind }) => kind === "kpi");
    const at = axis < 0 ? undefined : line?.[axis];
    return at === null || at === undefined
      ? undefined
      : kpis.find(({ key }) => key === side.axes[axis]!.entries[at]!.kpi);
  };
  const figures = columns.lines.flatMap((line, c): ColumnOf<number>[] =>
    measuresOf(data, c).map((shown) => {
      const names = line.map((_, depth) => placeName(columns, c, depth)).filter((name) => name !== "");
      const of = kpiOf(line, columns);
      return {
        head: [...names, ...(measures.length > 1 || names.length === 0 ? [headOf(shown, data)] : [])].join(", "),
        holds: HOLDS[shown],
        ...(of ? { of } : {}),
        cell: (r) => cells[c]!.figures[shown]!.values[r] ?? null,
      };
    }),
  );
  const unitOf = (r: number) => kpiOf(rows.lines[r], rows) ?? (kpis.length === 1 ? kpis[0] : undefined);
  return tableOf<number>(
    rows.lines.map((_, r) => r),
    [
      ...rows.axes.map((axis, depth): ColumnOf<number> => ({
        head: head(axis.noun),
        holds: "text",
        cell: (r) => placeName(rows, r, depth),
      })),
      { head: "KPI", holds: "text", isForFiles: true, cell: (r) => unitOf(r)?.name ?? null },
      {
        head: "Unit",
        holds: "text",
        isForFiles: true,
        cell: (r) => {
          const own = unitOf(r);
          return own ? unitText(own.unit) : null;
        },
      },
      { head: "Scope", holds: "text", isForFiles: true, cell: () => frame.words.scope },
      ...figures,
      {
        head: "Why absent",
        holds: "text",
        isForFiles: true,
        cell: (r) => [...new Set(whysOf(data, r))].join(" ") || null,
      },
    ],
  );
}

/** What a measure is called here: the basis by its own name. */
export function headOf(measure: CrossMeasure, { basisName }: Pick<CrossTabAnswer, "basisName">): string {
  return measure === "basis" ? basisName : HEADS[measure];
}

function whysOf({ cells, reasons, measures }: CrossTabAnswer, row: number): string[] {
  return cells.flatMap(({ figures }) => {
    const place = figures[measures[0]!]?.why?.[row] ?? 0;
    return place > 0 ? [reasons[place - 1]!] : [];
  });
}
