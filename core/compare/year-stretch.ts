import type { Month } from "../calendar/month.ts";
import type { Measurement } from "./measurement.ts";
import type { Figure } from "../figures/schema.ts";

/** The remaining months of a year as a source has them. */
export interface Rest {
  readonly inputs: readonly Figure[];
  /** The first remaining month alone; `null` where it is not asked for. */
  readonly first: readonly Figure[] | null;
  readonly monthly: readonly Figure[] | null;
  readonly whole: Figure | null;
}

/** A year in two stretches: what is closed, and what remains. */
export interface YearStretch {
  readonly year: readonly Month[];
  readonly closed: readonly Month[];
  readonly rest: readonly Month[];
  /** `null` where no month is closed. */
  readonly actual: Measurement | null;
}
