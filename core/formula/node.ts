import type { Figure } from "../figures/schema.ts";
import type { ArithmeticOperator, ComparisonOperator, LogicOperator } from "./expression.ts";
import type { ResultUnit } from "./unit.ts";
import type { View } from "./view.ts";

/** How the result behaves over time. */
export type ResultBehaviour =
  /** Adds up: months sum to years. */
  | "flow"
  /** Stands at a time; see `Gathering` for how it is read over a span. */
  | "balance"
  /** Calculated for each span from its own totals; never adds up. */
  | "rate"
  /** Looks at a span of its own, whatever span is asked for; never adds up either. */
  | "moving"
  | "constant";

/** How a balance is gathered over a span. */
export type Gathering = "closing" | "opening" | "average";

/** What a formula reads: an account's amounts, the clock of the months that are measured, or which member is looked at. */
export type FormulaInput =
  | {
      readonly kind: "account";
      readonly view: number;
      readonly account: string;
      readonly gathering: "sum" | "closing" | "average";
    }
  /**
   * Days or months: `elapsed` in the months that have figures, `whole` in all months of the window's span to its end;
   * `year-elapsed` and `year-left` in the fiscal year of the as-of month, that month elapsed.
   */
  | {
      readonly kind: "clock";
      readonly view: number;
      readonly count: "elapsed" | "whole" | "year-elapsed" | "year-left";
      readonly unit: "day" | "month";
    }
  /** The place among `members` of the one that the scope is narrowed to; absent where it is not narrowed to one of them. */
  | { readonly kind: "member"; readonly view: number; readonly dimension: string; readonly members: readonly string[] }
  /** A statistic of a formula's values in each single month of the view's window. */
  | {
      readonly kind: "monthly";
      readonly view: number;
      readonly how: GatheringHow;
      readonly formula: CompiledFormula;
    }
  /** A formula over the fiscal year: closed months from the actual, the rest from a source; the frame's where none is said. */
  | {
      readonly kind: "outlook";
      readonly view: number;
      readonly formula: CompiledFormula;
      readonly from?: string | undefined;
    };

/** How several values become one. */
export type GatheringHow = "mean" | "median" | "deviation" | "lowest" | "highest" | "sum" | "count";

/**
 * What a function computes of its operands' values, each in minor units of its own decimals; it is not asked where one
 * of them is absent. Formulas are told apart by its name and settings.
 */
export interface AppliedRule {
  readonly name: string;
  readonly settings: readonly number[];
  /**
   * What becomes of it when the time that its operands are read over is twice as long: it grows with them as they do
   * (`alike`), stays what it is since they grow alike (`ratio`), or stays what it is only where they do (`fixed`).
   */
  readonly overTime: "alike" | "ratio" | "fixed";
  readonly apply: (...values: readonly number[]) => Figure;
}

/** A formula ready to evaluate: values in whole minor units, with a scale known beforehand. */
export type CompiledNode = { readonly decimals: number } & (
  | { readonly kind: "constant"; readonly value: number }
  | { readonly kind: "input"; readonly input: number }
  | { readonly kind: "negation"; readonly operand: CompiledNode }
  | {
      readonly kind: "binary";
      readonly operator: ArithmeticOperator;
      readonly left: CompiledNode;
      readonly right: CompiledNode;
    }
  | {
      readonly kind: "comparison";
      readonly operator: ComparisonOperator;
      readonly left: CompiledNode;
      readonly right: CompiledNode;
    }
  | {
      readonly kind: "logic";
      readonly operator: LogicOperator;
      readonly left: CompiledNode;
      readonly right: CompiledNode;
    }
  | { readonly kind: "not"; readonly operand: CompiledNode }
  | {
      readonly kind: "choice";
      readonly condition: CompiledNode;
      readonly then: CompiledNode;
      readonly otherwise: CompiledNode;
    }
  /** The operand, or the other where the operand is absent. */
  | { readonly kind: "fallback"; readonly operand: CompiledNode; readonly otherwise: CompiledNode }
  /** What a function of its own computes: its file says how. */
  | { readonly kind: "applied"; readonly rule: AppliedRule; readonly operands: readonly CompiledNode[] }
  /** Over several values; `every`: absent as soon as one is, else those that are absent are passed over. */
  | {
      readonly kind: "gathered";
      readonly how: GatheringHow;
      readonly every: boolean;
      readonly operands: readonly CompiledNode[];
    }
  /** 1 + how many of the operands lie before one's own, which is the one at the place that `own` gives. */
  | {
      readonly kind: "rank";
      readonly own: CompiledNode;
      readonly operands: readonly CompiledNode[];
      readonly first: "highest" | "lowest";
    }
);

/** A formula with its names resolved and its type known. */
export interface CompiledFormula {
  readonly root: CompiledNode;
  readonly inputs: readonly FormulaInput[];
  /** How inputs look at the data; `inputs[i].view` is a place in it. */
  readonly views: readonly View[];
  readonly unit: ResultUnit;
  readonly behaviour: ResultBehaviour;
  /** How its balances are gathered; `null` where it is no balance, or where they differ. */
  readonly gathering: Gathering | null;
  /** Accounts and KPIs that the formula itself names, in the order of their first mention. */
  readonly names: readonly string[];
}
