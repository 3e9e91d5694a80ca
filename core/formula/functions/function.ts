import type { Dimension } from "../../dimensions/dimension.ts";
import type { Expression, TextRange } from "../expression.ts";
import type { CompiledFormula, CompiledNode, FormulaInput, GatheringHow } from "../node.ts";
import type { Place } from "../place.ts";
import type { Typed } from "../typed.ts";

/** What a function may be given. Options are named ("on: prior_year"), the others stand in order. */
export type Parameter = {
  readonly name: string;
  /** What to say of it on the reference page. */
  readonly about: string;
  readonly isOption?: true;
} & (
  | { readonly takes: "value" | "values" }
  | { readonly takes: "count"; readonly from: number; readonly to: number; readonly otherwise: number | null }
  | { readonly takes: "choice"; readonly of: readonly string[]; readonly otherwise: string }
  | { readonly takes: "dimension" | "dimensions" }
  /** A dimension, or the word month: what a value is looked at over. */
  | { readonly takes: "dimension-or-month" }
  /** A number written out, such as 0.5. */
  | { readonly takes: "number"; readonly otherwise: number | null }
  /** A thing that accounts count, in quotes, or as a name. */
  | { readonly takes: "counted" }
  /** One of the levels of the dimension that is given beside it. */
  | { readonly takes: "level" }
  /** Options named as dimensions, each with members in quotes. */
  | { readonly takes: "members" }
);

/** A call with its arguments read and checked. */
export interface BoundCall {
  readonly at: TextRange;
  /** The expressions in order. */
  readonly values: readonly Expression[];
  /** Numbers by their parameter. */
  readonly counts: ReadonlyMap<string, number>;
  readonly choices: ReadonlyMap<string, string>;
  readonly dimensions: readonly Dimension[];
  /** Whether a value is looked at over the months of the span, rather than over a dimension. */
  readonly isOverMonths: boolean;
  /** The members of the chosen level, or of the lowest. */
  readonly levelMembers: readonly string[];
  /** What is counted, where it is said, with where that stands. */
  readonly counted: { readonly at: TextRange; readonly name: string } | null;
  /** Chosen members by dimension key. */
  readonly members: ReadonlyMap<string, readonly string[]>;
}

/** Which days or months a clock counts. */
export type ClockCount = Extract<FormulaInput, { kind: "clock" }>["count"];

/** What a function may ask of the compiler. */
export interface Compiling {
  /** Compiles a part of the formula in a place. */
  readonly part: (expression: Expression, place: Place) => Typed;
  /** A number that the clock gives in a place. */
  readonly clock: (place: Place, count: ClockCount, unit: "day" | "month") => Typed;
  /** Which of a dimension's members a place is narrowed to. */
  readonly memberAt: (place: Place, dimension: string, members: readonly string[]) => CompiledNode;
  /** What the company's accounts count, by name: passengers, litres … */
  readonly counted: readonly string[];
  /** A number for a part that is measured on months of its own. */
  readonly newPartApart: () => number;
  /** A formula within the formula, in the place's scenario and scope; its time is given when it is evaluated. */
  readonly nested: (
    expression: Expression,
    place: Place,
  ) => { readonly typed: Typed; readonly formula: CompiledFormula };
  /** What a nested formula gives in each month of the place's window together, or as the outlook of its year. */
  readonly nestedInput: (
    how: GatheringHow | "outlook",
    place: Place,
    formula: CompiledFormula,
    from?: string,
  ) => CompiledNode;
}

/** Groups of the reference page, in its order. */
export const FUNCTION_GROUPS = [
  "Time",
  "Growth and pace",
  "Balances",
  "Scope",
  "Members and months",
  "Choice",
  "Numbers",
] as const;

/** A function of the formula language: what it takes, what it says of itself, what it compiles to. */
export interface FormulaFunction {
  readonly name: string;
  readonly group: (typeof FUNCTION_GROUPS)[number];
  readonly parameters: readonly Parameter[];
  /** What it gives, in a sentence or two. */
  readonly gives: string;
  /** When its result is absent. */
  readonly absence: string;
  /** A formula to try, on the sample company. */
  readonly example: string;
  readonly compile: (call: BoundCall, place: Place, compiling: Compiling) => Typed;
}
