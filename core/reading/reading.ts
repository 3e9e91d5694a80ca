import type { Encoding } from "./detect-encoding.ts";
import type { DecimalMark } from "./read-number.ts";

/** How a file is read before anything is changed. Every guess is here, so that it can be seen and changed. */
export interface Reading {
  /** Text files; ignored for workbooks. */
  readonly encoding: Encoding;
  readonly delimiter: string;
  /** Workbooks: the sheet's name; `null` for text files. */
  readonly sheet: string | null;
  /** The first header line, counted from 1, and how many lines the header has; 0: columns are numbered. */
  readonly headerLine: number;
  readonly headerRows: number;
  readonly decimalMark: DecimalMark;
}
