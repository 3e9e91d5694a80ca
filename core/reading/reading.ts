import type { Encoding } from "./detect-encoding.ts";
import type { DecimalMark } from "./read-number.ts";

/** A sheet among those whose rows stand one under the other, and how many lines stand on those before it. */
export interface StackedSheet {
  readonly sheet: string;
  readonly before: number;
}

/** How a file is read before anything is changed. Every guess is here, so that it can be seen and changed. */
export interface Reading {
  /** Text files; ignored for workbooks. */
  readonly encoding: Encoding;
  readonly delimiter: string;
  /** Workbooks: the sheet's name; `null` for text files. */
  readonly sheet: string | null;
  /** Workbooks: sheets whose rows stand one under the other, `sheet` the first of them; none: `sheet` alone. */
  readonly stack?: readonly StackedSheet[] | undefined;
  /** The first header line, counted from 1, and how many lines the header has; 0: columns are numbered. */
  readonly headerLine: number;
  readonly headerRows: number;
  readonly decimalMark: DecimalMark;
}
