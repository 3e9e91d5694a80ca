/** A sample of a file's rows under their column names. */
export interface Sample {
  readonly columns: readonly string[];
  readonly rows: readonly (readonly string[])[];
}
