/** A place in the formula's text: from (included) to (excluded), counted in UTF-16 units. */
export interface TextRange {
  readonly from: number;
  readonly to: number;
}

export type ArithmeticOperator = "+" | "-" | "*" | "/";
export type ComparisonOperator = "=" | "<>" | "<" | "<=" | ">" | ">=";
export type LogicOperator = "and" | "or";
export type Operator = ArithmeticOperator | ComparisonOperator | LogicOperator;

/** One or several names in quotes, as options take them. */
export type Texts = TextRange & { readonly kind: "texts"; readonly texts: readonly string[] };

/** What stands between a call's brackets; `option` names it ("on: prior_year"). */
export interface Argument extends TextRange {
  readonly option: (TextRange & { readonly name: string }) | null;
  readonly value: Expression | Texts;
}

/** A formula as a tree, as written. */
export type Expression = TextRange &
  (
    | { readonly kind: "number"; readonly text: string }
    | { readonly kind: "name"; readonly name: string }
    | {
        readonly kind: "call";
        readonly name: string;
        readonly nameRange: TextRange;
        readonly arguments: readonly Argument[];
      }
    | {
        readonly kind: "scenario";
        readonly operand: Expression;
        readonly scenario: string;
        readonly scenarioRange: TextRange;
      }
    | { readonly kind: "negation"; readonly operand: Expression }
    | { readonly kind: "not"; readonly operand: Expression }
    | { readonly kind: "binary"; readonly operator: Operator; readonly left: Expression; readonly right: Expression }
  );

/** What is wrong with a formula, where, and the way out. */
export interface FormulaProblem extends TextRange {
  readonly message: string;
}

/** A value, or what stands in its way. */
export type FormulaResult<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly problem: FormulaProblem };

/** Carries a problem out of nested reading; never leaves `core/formula`. */
export class Refusal extends Error {
  constructor(readonly problem: FormulaProblem) {
    super(problem.message);
  }
}

/** Refuses a formula at a place. */
export function refuse(at: TextRange, message: string): never {
  throw new Refusal({ from: at.from, to: at.to, message });
}
