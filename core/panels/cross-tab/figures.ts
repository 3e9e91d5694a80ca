import { absent, isPresent, present } from "../../figures/figure.ts";
import { partOf } from "../parts/part-of.ts";
import type { CrossAxisEntries } from "./axis.ts";
import type { CellsOf } from "./cells.ts";
import { placeKey, wholeKey, type CrossLine } from "./lines.ts";
import type { CrossMeasure } from "./schema.ts";
import type { Figure } from "../../figures/schema.ts";

/** One measure down a column, row by row. */
export interface CrossFigures {
  readonly values: readonly (number | null)[];
  /** Where a value is absent, the place of its reason, from 1; `null` where none is. */
  readonly why: readonly number[] | null;
}

const NO_SHARE = absent("not covered", "No share: the KPI does not add up, or its parts have both signs.");

/** The lines that others are shares of. */
export interface Wholes {
  readonly rowOf: (row: CrossLine) => CrossLine | undefined;
  readonly columnOf: (column: CrossLine) => CrossLine | undefined;
}

/** The lines that are the whole of others. */
export function wholesOf(
  { rows, columns }: { readonly rows: readonly CrossLine[]; readonly columns: readonly CrossLine[] },
  axes: { readonly rows: readonly CrossAxisEntries[]; readonly columns: readonly CrossAxisEntries[] },
): Wholes {
  const [inRows, inColumns] = [rows, columns].map((lines) => new Map(lines.map((line) => [placeKey(line), line])));
  return {
    rowOf: (row) => inRows!.get(wholeKey(row, axes.rows)),
    columnOf: (column) => inColumns!.get(wholeKey(column, axes.columns)),
  };
}

/** What a measure says where a row and a column meet; of a rank, what it goes by. */
export function figureOf(
  measure: CrossMeasure,
  row: CrossLine,
  column: CrossLine,
  cellOf: CellsOf,
  { rowOf, columnOf }: Wholes,
): Figure {
  const { kpi, value, basis, variance } = cellOf(row, column);
  const shareIn = (wholeRow: CrossLine | undefined, wholeColumn: CrossLine | undefined): Figure => {
    if (!wholeRow || !wholeColumn) return NO_SHARE;
    const part = partOf(kpi.definition.unit, cellOf(wholeRow, wholeColumn).value, value);
    if (part === null) return value;
    return part.is === "share" ? present(part.share) : NO_SHARE;
  };
  switch (measure) {
    case "value":
    case "rank":
      return value;
    case "basis":
      return basis;
    case "delta":
      return variance.delta;
    case "delta-percent":
      return variance.deltaPercent;
    case "share-of-row":
      return shareIn(row, columnOf(column));
    case "share-of-column":
      return shareIn(rowOf(row), column);
    case "share-of-total":
      return shareIn(rowOf(row), columnOf(column));
  }
}

/** Reasons for what is absent, each written once. */
export class Reasons {
  readonly words: string[] = [];
  private readonly places = new Map<string, number>();

  figures(figures: readonly Figure[]): CrossFigures {
    const why = figures.map((figure) => (isPresent(figure) ? 0 : this.placeOf(figure.detail)));
    return {
      values: figures.map((figure) => (isPresent(figure) ? figure.value : null)),
      why: why.some((place) => place > 0) ? why : null,
    };
  }

  private placeOf(detail: string): number {
    const known = this.places.get(detail);
    if (known !== undefined) return known;
    this.words.push(detail);
    this.places.set(detail, this.words.length);
    return this.words.length;
  }
}
