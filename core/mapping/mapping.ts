import type { Account, AccountKind } from "../accounts/account.ts";
import type { RateSide } from "../currency/rate.ts";
import type { Grain } from "../cube/coverage.ts";
import type { DateFormat } from "../reading/read-date.ts";
import type { TidyStep } from "../tidy/steps/index.ts";

/** What a column of a file stands for. */
export type Meaning =
  | { readonly as: "ignore" | "period" | "scenario" | "account" | "reference" | "currency" }
  | { readonly as: "dimension"; readonly dimension: string }
  /**
   * An amount. With an account or a scenario of its own where columns are laid out by
   * them; a quantity without one belongs to the row's account when that counts things.
   */
  | {
      readonly as: "amount" | "quantity";
      readonly account: string | null;
      readonly scenario: string | null;
      /** Of a trial balance: what was posted to either side, or what there is at the end. */
      readonly side?: LedgerSide | undefined;
      /** The currency that the column's head says its amounts are in, where it is not that of the file. */
      readonly currency?: string | undefined;
    };

/** The columns of a trial balance: debits, credits, and the balance at the end of the period. */
export type LedgerSide = "debit" | "credit" | "closing";

/** The meaning of a column with values to post. */
export type ValueMeaning = Extract<Meaning, { as: "amount" | "quantity" }>;

/** What a person decided about a name that the structure does not have. */
export type NameDecision =
  | { readonly to: string }
  | { readonly reject: true }
  | { readonly create: { readonly name: string; readonly parent: string | null } };

/** Decisions by the name as it stands in the file, letters' case and spaces apart. */
export type NameDecisions = Readonly<Record<string, NameDecision>>;

/** How the file signs its amounts. Facts are positive in their account's own direction. */
export type SignRule =
  /** As they are to be kept. */
  | "own"
  | "flipped"
  /** Income and assets positive; expenses, liabilities and equity negative. */
  | "result"
  /** Debits positive: expenses and assets; income, liabilities and equity negative. */
  | "debit";

/** An account that a load brings with it. */
export type NewAccount = Pick<Account, "key" | "name" | "behaviour" | "unit" | "decimals"> & {
  readonly kind: AccountKind;
  /** The account that sums it, brought by the same load; none where it is left out. */
  readonly parent?: string | null | undefined;
  /** Whether nothing says what kind it is: a person does. */
  readonly isGuess?: boolean | undefined;
};

/** A column that does not add up: why, and of which columns it is a ratio where that is known. */
export interface ApartColumn {
  readonly why: string;
  readonly ratio?: { readonly amount: string; readonly count: string; readonly isPercent: boolean } | undefined;
}

/** What a load brings with it besides facts. */
export interface NewStructure {
  readonly dataset: { readonly name: string; readonly grain: Grain } | null;
  readonly dimensions: readonly { readonly key: string; readonly name: string }[];
  readonly accounts: readonly NewAccount[];
}

/** Something about a file that its own words and figures leave open: asked before it is posted. */
export interface Doubt {
  readonly key: string;
  /** The question, with what each answer would post. */
  readonly text: string;
  readonly ways: readonly DoubtWay[];
  /** The name of the way that a person chose; `null` until then. */
  readonly settled: string | null;
}

/** One answer, and what it changes. */
export interface DoubtWay {
  readonly name: string;
  readonly sign?: SignRule | undefined;
  readonly steps?: readonly TidyStep[] | undefined;
}

/** From a file's columns to facts. */
export interface Mapping {
  /** The dataset's key; `creates.dataset` describes it when there is none of this key yet. */
  readonly dataset: string;
  /** By column name; a column that is not named is ignored. */
  readonly columns: Readonly<Record<string, Meaning>>;
  readonly dateFormat: DateFormat;
  /** What holds for all rows, where no column says it. */
  readonly fixed: {
    readonly scenario: string | null;
    readonly account: string | null;
    readonly month: string | null;
    /** The company's own where it is left out. */
    readonly currency?: string | null | undefined;
  };
  readonly sign: SignRule;
  /** What becomes of digits beyond those an account keeps. */
  readonly fractions: "stop" | "round";
  /** What becomes of lines that say what moved a balance: a stop, or the balances that they add up to. */
  readonly movements?: "stop" | "accumulate" | undefined;
  /** Of a file of rates: of which currency one unit is priced; left out until it is known. */
  readonly priced?: RateSide | undefined;
  /** Names in the account column whose rows are sums of other rows, and are left out. */
  readonly sums?: readonly string[] | undefined;
  /** Columns of numbers that are known not to add up, by name, with the reason. */
  readonly apart?: Readonly<Record<string, ApartColumn>> | undefined;
  /** What has to be asked before anything is posted. */
  readonly doubts?: readonly Doubt[] | undefined;
  readonly accounts: NameDecisions;
  readonly scenarios: NameDecisions;
  /** By dimension. */
  readonly members: Readonly<Record<string, NameDecisions>>;
  readonly creates: NewStructure;
}

/** The dimensions that a mapping's facts can have members of. */
export function mappedDimensions({ columns }: Pick<Mapping, "columns">): string[] {
  return Object.values(columns).flatMap((meaning) => (meaning.as === "dimension" ? [meaning.dimension] : []));
}
