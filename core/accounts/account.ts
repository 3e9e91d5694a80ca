/** What an account is in the books. */
export type AccountKind = "income" | "expense" | "asset" | "liability" | "equity" | "statistic";

/** How an account gathers over time: flows are summed, balances close. */
export type TimeBehaviour = "flow" | "balance";

/** What the amounts of an account count: money, or things with a name. */
export type AccountUnit = { readonly kind: "money" } | { readonly kind: "count"; readonly of: string };

/** One line of the chart of accounts. Amounts are positive in the account's own direction. */
export interface Account {
  readonly key: string;
  readonly name: string;
  readonly parent: string | null;
  readonly kind: AccountKind;
  readonly behaviour: TimeBehaviour;
  readonly unit: AccountUnit;
  /** Decimals kept: amounts are whole multiples of 10^-decimals. */
  readonly decimals: number;
  /** Other names it goes by in files. */
  readonly aliases?: readonly string[];
  /** Keeps its history, but takes no new facts without a warning. */
  readonly isRetired?: boolean;
}
