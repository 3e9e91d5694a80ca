/** A sample of a file's rows under their column names. */
export interface Sample {
  readonly columns: readonly string[];
  readonly rows: readonly (readonly string[])[];
  /** Rows from further below that have texts which those above do not; they do not follow each other. */
  readonly further?: readonly (readonly string[])[] | undefined;
}
