/** What is expected of a period to come. */
export interface Projection {
  readonly mean: number;
  /** The variance of what will be seen around it. */
  readonly variance: number;
}

/** A method fitted to a series. */
export interface Fitted {
  /** What it is called in notes, such as "ETS(M,A,M)" or "Seasonal naive". */
  readonly name: string;
  /** One step ahead, from what was known before each period; NaN where nothing could be said yet. */
  readonly fitted: readonly number[];
  readonly project: (horizon: number) => readonly Projection[];
  /** What it was fitted with, for those who judge it: numbers by their names. */
  readonly parameters: Readonly<Record<string, number>>;
}
