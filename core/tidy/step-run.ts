import type { FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import type { DecimalMark } from "../reading/read-number.ts";
import type { LookupTable } from "./lookup-table.ts";
import type { TidyRow } from "./row.ts";

/** What steps read numbers and dates by, and the tables that they look up in, by key. */
export interface TidyContext {
  readonly mark: DecimalMark;
  readonly calendar: FiscalCalendar;
  readonly tables?: ReadonlyMap<string, LookupTable> | undefined;
}

/** What rows looked for and did not find: on how many lines, and the first texts. */
export interface MissedTexts {
  readonly lines: number;
  readonly texts: readonly string[];
}

/** Where a step hands its rows on to. */
export type Emit = (row: TidyRow) => void;

/**
 * A step at work. Rows go through one by one in the file's order, so that the same
 * step runs over a preview's few rows and over millions; an unchanged row is handed
 * on as the same object.
 */
export interface StepRun {
  /** The columns of the rows it hands on. */
  readonly columns: readonly string[];
  take(row: TidyRow, emit: Emit): void;
  /** After the last row; steps that gather rows hand them on now. */
  end?(emit: Emit): void;
  readonly missed?: () => MissedTexts;
}

/** A run that rewrites the cells of some columns; `undefined` from `rewrite` leaves the cell. */
export function rewriteCells(
  columns: readonly string[],
  chosen: readonly string[],
  rewrite: (text: string) => string | undefined,
): StepRun {
  const places = placesOf(columns, chosen);
  return {
    columns,
    take(row, emit) {
      let cells: string[] | undefined;
      for (const place of places) {
        const before = row.cells[place] ?? "";
        const after = rewrite(before);
        if (after !== undefined && after !== before) (cells ??= [...row.cells])[place] = after;
      }
      emit(cells ? { line: row.line, cells } : row);
    },
  };
}

/** The places of the chosen columns. */
export function placesOf(columns: readonly string[], chosen: readonly string[]): number[] {
  return chosen.map((name) => columns.indexOf(name));
}

/** "Amount", "Amount and Units", "Amount, Units and 3 more" for sentences. */
export function nameColumns(columns: readonly string[]): string {
  if (columns.length <= 1) return columns[0] ?? "no column";
  if (columns.length === 2) return `${columns[0]} and ${columns[1]}`;
  return `${columns[0]}, ${columns[1]} and ${columns.length - 2} more`;
}
