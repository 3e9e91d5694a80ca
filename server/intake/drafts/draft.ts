import type { Reading, StackedSheet } from "#core/reading/reading.ts";
import type { LookupTable } from "#core/tidy/lookup-table.ts";
import type { TidyRow } from "#core/tidy/row.ts";
import type { Definition, Report } from "#contract/intake.ts";

/** What was found out about a draft's file. */
export interface Detected {
  readonly isWorkbook: boolean;
  readonly sheets: readonly string[];
  /** The first rows, as they are read with `reading`'s encoding, delimiter and sheet. */
  readonly head: readonly TidyRow[];
  /** Rows from further below with texts that the head does not have; drafts of earlier versions do not have it. */
  readonly further?: readonly TidyRow[];
  /** What the head was read with; drafts of earlier versions do not have it. */
  readonly readWith?: Pick<Reading, "encoding" | "delimiter" | "sheet" | "stack">;
  /** Sheets with the same columns, which can stand one under the other; drafts of earlier versions do not have it. */
  readonly stackable?: readonly StackedSheet[];
  /** Sheets that the workbook hides. */
  readonly hidden?: readonly string[];
}

/** A draft as it is stored. */
export interface DraftRecord {
  readonly id: number;
  readonly file: {
    readonly id: number;
    readonly name: string;
    readonly size: number;
    readonly uploadedAt: Date;
    readonly uploadedBy: string;
  };
  readonly intakeId: number | null;
  readonly intakeName: string;
  readonly definition: Definition;
  readonly detected: Detected;
  readonly version: number;
  readonly report: Report | null;
  /** The state of what it was checked against; `null` where it was not checked. */
  readonly checkedAgainst: string | null;
  readonly note: string | null;
  /** The tables that its steps look up in. */
  readonly tables: ReadonlyMap<string, LookupTable>;
}
