import type { LineRule } from "../mapping/line-rule.ts";
import type { NameProposal } from "../reading/names.ts";

/** How grave a finding is: a stop must be answered before posting, a warning should be read, a note informs. */
export type Severity = "stop" | "warn" | "note";

/** Every rule that a file is checked by. */
export type CheckRule =
  | LineRule
  | "nothing-to-post"
  | "already-posted"
  | "kept-elsewhere"
  | "control-total"
  | "rates"
  | "converted"
  | "repeated-line"
  | "posted-double"
  | "missing-period"
  | "silent-account"
  | "outlier"
  | "retired"
  | "rounded"
  | "running-balance"
  | "not-found"
  | "new-member"
  | "new-account"
  | "kind-unknown"
  | "left-out"
  | "doubt"
  | "adds-up";

/** A line that a rule speaks of. */
export interface FoundLine {
  readonly line: number;
  readonly column: string;
  readonly value: string;
  readonly cells: readonly string[];
}

/** A name the structure does not have, and what it may mean. */
export interface FoundName {
  /** The account column's, a dimension's key, or "scenario". */
  readonly thing: "account" | "scenario" | { readonly dimension: string };
  readonly text: string;
  readonly lines: number;
  readonly proposals: readonly NameProposal[];
}

/** What a rule found, as a sentence with the values in it. */
export interface Finding {
  readonly rule: CheckRule;
  readonly severity: Severity;
  readonly message: string;
  /** Lines concerned; 0 where the rule speaks of the whole file. */
  readonly count: number;
  readonly lines: readonly FoundLine[];
  readonly names: readonly FoundName[];
  /** What a person already decided about it; `null` while nothing was. */
  readonly answer: string | null;
  /** Of a question: which. */
  readonly doubt?: string | undefined;
  /** Of several ways to answer, the one that the figures speak for. */
  readonly likely?: "restate" | "beside" | undefined;
}

/** What each rule looks for, for the list of rules and for file headers. */
export const RULE_NAMES: Readonly<Record<CheckRule, string>> = {
  "unknown-account": "Unknown account",
  "parent-account": "Account that has accounts below it",
  "unknown-scenario": "Unknown scenario",
  "unknown-member": "Unknown member",
  "no-period": "No period",
  "unreadable-period": "Period that cannot be read",
  "no-amount": "No amount",
  "unreadable-amount": "Amount that cannot be read",
  fraction: "Fraction of a whole unit",
  "too-large": "Amount too large to be stored exactly",
  "foreign-currency": "Amount in another currency, without a rate",
  "two-currencies": "Amount in two currencies",
  "foreign-movement": "Movement of a balance in another currency",
  "second-rate": "Second rate of a month",
  "no-rate": "Rate that is not above 0",
  rates: "Currency rates",
  converted: "Converted amounts",
  "movement-of-balance": "Movement of an account that keeps a balance",
  "rejected-name": "Name that was rejected",
  "rejected-line": "Line that was rejected",
  "nothing-to-post": "Nothing to post",
  "already-posted": "Period that is posted already",
  "kept-elsewhere": "Account that belongs to another dataset",
  "control-total": "Control total",
  "repeated-line": "Line that appears twice in the file",
  "posted-double": "Possible duplicate of something posted",
  "missing-period": "Missing period",
  "silent-account": "Account without its usual postings",
  outlier: "Unusual amount",
  retired: "Retired account or member",
  rounded: "Rounded amounts",
  "running-balance": "Balances added up from movements",
  "not-found": "Text that another table does not know",
  "new-member": "New members",
  "new-account": "New accounts",
  "kind-unknown": "Accounts that may be income or costs",
  "left-out": "Columns that are left out",
  "adds-up": "Columns that do not add up",
  doubt: "Questions about the file",
};
