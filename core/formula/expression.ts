/** A place in the formula's text: from (included) to (excluded), counted in UTF-16 units. */
export interface TextRange {
  readonly from: number;
  readonly to: number;
}

export type Operator = "+" | "-" | "*" | "/";

/** How a balance is gathered when the formula says so. */
export type Gathering = "closing" | "average";

/** A formula as a tree, as written. */
export type Expression = TextRange &
  (
    | { readonly kind: "number"; readonly text: string }
    | { readonly kind: "name"; readonly name: string }
    | {
        readonly kind: "call";
        readonly gathering: string;
        readonly nameRange: TextRange;
        readonly argument: Expression;
      }
    | { readonly kind: "negation"; readonly operand: Expression }
    | { readonly kind: "binary"; readonly operator: Operator; readonly left: Expression; readonly right: Expression }
  );

/** What is wrong with a formula, where, and the way out. */
export interface FormulaProblem extends TextRange {
  readonly message: string;
}

/** A value, or what stands in its way. */
export type FormulaResult<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: FormulaProblem };
