/** A row on its way in: the line of the file it came from, and its cells as texts. */
export interface TidyRow {
  readonly line: number;
  readonly cells: readonly string[];
}

/** Rows under their columns' names. */
export interface TidyTable {
  readonly columns: readonly string[];
  readonly rows: readonly TidyRow[];
}
