import type { Month } from "../calendar/month.ts";

/** One posted amount, by the keys of its scenario, account and members. */
export interface Fact {
  readonly scenario: string;
  readonly account: string;
  readonly month: Month;
  /** Day of the month; `null` where facts are not daily. */
  readonly day: number | null;
  /** By dimension. */
  readonly members: Readonly<Record<string, string>>;
  /** Whole minor units, positive in the account's own direction. */
  readonly amount: number;
  /** The document it came from. */
  readonly reference: string | null;
  /** What it was before it was converted to the company's currency. */
  readonly original?: OriginalAmount | undefined;
}

/** An amount as it was posted, in its own currency and in its account's direction. */
export interface OriginalAmount {
  /** An exact decimal, such as "-1204.50". */
  readonly amount: string;
  /** By its ISO 4217 code. */
  readonly currency: string;
}
