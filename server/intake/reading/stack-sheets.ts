import { freeName } from "#core/mapping/free-name.ts";
import { columnNames, detectHeader } from "#core/reading/header.ts";
import type { Reading, StackedSheet } from "#core/reading/reading.ts";
import type { Emit } from "#core/tidy/step-run.ts";
import type { TidyRow } from "#core/tidy/row.ts";

/** The column that says which sheet a row stands on. */
const SHEET_COLUMN = "Sheet";
/** Rows among which a sheet's header is looked for, and which tell its width. */
const HEADER_ROWS = 60;

type Header = Pick<Reading, "headerLine" | "headerRows">;

/** The rows of one sheet on their way into the stack. */
interface SheetFeed {
  take(row: TidyRow): void;
  end(): void;
}

/**
 * Puts the rows of sheets with the same columns one under the other: the first as it stands, of the others what stands
 * below their own header, each column under its name; a last column says the sheet. Lines are counted on.
 */
export class SheetStack {
  private columns: readonly string[] | undefined;

  constructor(
    private readonly header: Header,
    private readonly emit: Emit,
  ) {}

  /** Starts the next sheet, in the order of the stack. */
  begin(sheet: StackedSheet): SheetFeed {
    const waiting: TidyRow[] = [];
    let places: readonly number[] | undefined;
    const open = () => {
      const header = this.columns === undefined ? this.header : headerOf(waiting);
      const own = columnsBelow(waiting, header);
      const isFirst = this.columns === undefined;
      this.columns ??= own;
      places = own.map((name) => this.columns!.indexOf(name));
      let left = header.headerRows;
      for (const row of waiting) {
        if (row.line < header.headerLine) {
          if (isFirst) this.emit(row);
        } else if (left > 0) {
          left -= 1;
          if (isFirst) this.emit({ line: row.line, cells: this.beside(row.cells, this.sheetColumn()) });
        } else this.place(row, sheet, places);
      }
    };
    return {
      take: (row) => {
        if (places) this.place(row, sheet, places);
        else if (waiting.push(row) >= HEADER_ROWS) open();
      },
      end: () => {
        if (!places) open();
      },
    };
  }

  private place(row: TidyRow, { sheet, before }: StackedSheet, places: readonly number[]): void {
    const cells: string[] = [];
    row.cells.forEach((cell, i) => {
      const place = places[i];
      if (place !== undefined && place >= 0) cells[place] = cell;
    });
    this.emit({ line: before + row.line, cells: this.beside(cells, sheet) });
  }

  private beside(cells: readonly string[], last: string): string[] {
    return [...Array.from(this.columns!, (_, i) => cells[i] ?? ""), last];
  }

  private sheetColumn(): string {
    return freeName(SHEET_COLUMN, this.columns!);
  }
}

/** The columns of a sheet, by its first rows. */
export function columnsOfSheet(rows: readonly TidyRow[]): readonly string[] {
  const first = rows.slice(0, HEADER_ROWS);
  return columnsBelow(first, headerOf(first));
}

/** Where a sheet's own header stands, by its first rows. */
export function headerOf(rows: readonly TidyRow[]): Header {
  const place = detectHeader(rows.map((row) => row.cells));
  return { headerLine: rows[place.line - 1]?.line ?? 1, headerRows: place.rows };
}

function columnsBelow(rows: readonly TidyRow[], { headerLine, headerRows }: Header): readonly string[] {
  const below = rows.filter((row) => row.line >= headerLine);
  const header = below.slice(0, headerRows).map((row) => row.cells);
  const data = below.slice(headerRows, headerRows + 50);
  return columnNames(header, Math.max(0, ...[...header, ...data.map((row) => row.cells)].map((cells) => cells.length)));
}
