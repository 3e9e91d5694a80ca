import type { DateFormat } from "../reading/read-date.ts";

/** How a row is told by the text in a column. */
export type RowTest = "is" | "is not" | "contains" | "begins with" | "is empty" | "is not empty";

/** What amounts written in a unit of many are multiplied by. */
export const SCALES = [100, 1000, 1_000_000, 1_000_000_000] as const;
export type Scale = (typeof SCALES)[number];

/** One change made to a file's rows on the way in. */
export type TidyStep =
  | { readonly kind: "trim"; readonly columns: readonly string[] }
  | { readonly kind: "case"; readonly columns: readonly string[]; readonly to: "upper" | "lower" | "title" }
  | {
      readonly kind: "replace";
      readonly columns: readonly string[];
      readonly find: string;
      readonly with: string;
      /** Whether the whole cell must be `find`, or only a part of it. */
      readonly whole: boolean;
    }
  | { readonly kind: "fill-down"; readonly columns: readonly string[] }
  | { readonly kind: "split"; readonly column: string; readonly at: string; readonly into: readonly string[] }
  | { readonly kind: "join"; readonly columns: readonly string[]; readonly with: string; readonly into: string }
  | {
      readonly kind: "filter";
      readonly keep: boolean;
      readonly column: string;
      readonly test: RowTest;
      readonly values: readonly string[];
    }
  | { readonly kind: "skip-totals"; readonly words: readonly string[] }
  | {
      readonly kind: "flip-sign";
      readonly columns: readonly string[];
      /** Only rows whose `column` has one of the values; all rows when `null`. */
      readonly where: { readonly column: string; readonly values: readonly string[] } | null;
    }
  /** Columns whose numbers have another decimal mark than the rest of the file. */
  | { readonly kind: "number-format"; readonly columns: readonly string[]; readonly mark: "." | "," }
  /** Bare names of months, of one fiscal year. */
  | { readonly kind: "add-year"; readonly columns: readonly string[]; readonly year: number }
  /** A new column of one text. */
  | { readonly kind: "constant"; readonly into: string; readonly value: string }
  /** A new column by a formula over the others, rounded to decimals. */
  | { readonly kind: "compute"; readonly into: string; readonly formula: string; readonly decimals: number }
  /** New columns from another table's row whose column `by` has the same text as `column`. */
  | {
      readonly kind: "look-up";
      /** The table's key, and what it is called. */
      readonly table: string;
      readonly named: string;
      readonly column: string;
      readonly by: string;
      readonly take: readonly { readonly column: string; readonly into: string }[];
    }
  /** Amounts that are written in thousands or millions, in full. */
  | { readonly kind: "scale"; readonly columns: readonly string[]; readonly by: Scale }
  | {
      readonly kind: "unpivot";
      readonly columns: readonly string[];
      readonly nameInto: string;
      readonly valueInto: string;
    }
  | { readonly kind: "skip-notes" }
  /** Rows that are the sums of those above, in all of the columns. */
  | { readonly kind: "skip-sums"; readonly columns: readonly string[] }
  /** Durations, such as 1:30:00, as numbers. */
  | { readonly kind: "duration"; readonly columns: readonly string[]; readonly in: "hours" | "minutes" | "seconds" }
  /** A new column: what figures that run on add from row to row. */
  | { readonly kind: "difference"; readonly column: string; readonly by: readonly string[]; readonly into: string }
  | { readonly kind: "drop-doubles" }
  | { readonly kind: "merge-duplicates"; readonly sum: readonly string[] }
  | { readonly kind: "to-text"; readonly columns: readonly string[] }
  | { readonly kind: "to-decimal"; readonly columns: readonly string[]; readonly decimals: number }
  | { readonly kind: "to-whole"; readonly columns: readonly string[] }
  | { readonly kind: "to-date"; readonly columns: readonly string[]; readonly format: DateFormat };

/** The steps' kinds. */
export type TidyKind = TidyStep["kind"];

/** A step of one kind. */
export type StepOf<K extends TidyKind> = Extract<TidyStep, { kind: K }>;
