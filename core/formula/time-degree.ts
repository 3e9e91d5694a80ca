import type { AppliedRule, CompiledFormula, CompiledNode, FormulaInput } from "./node.ts";

/** `null` where lengthening the time has no simple effect. */
type Degree = number | null;

/**
 * With what power a formula grows when one view of it is read over a time twice as long: 1 for a sum of flows,
 * 0 for a rate, −1 where the view is divided by; `null` where it grows in no such way. Balances do not grow.
 * Only what grows with power 0 may be read over a whole quarter where its facts are kept by quarter.
 */
export function timeDegree(formula: CompiledFormula, view: number): number | null {
  return degreeOf(formula.root, formula.inputs, view);
}

function degreeOf(node: CompiledNode, inputs: readonly FormulaInput[], view: number): Degree {
  const of = (part: CompiledNode) => degreeOf(part, inputs, view);
  switch (node.kind) {
    case "constant":
      return 0;
    case "input":
      return inputDegree(inputs[node.input]!, view);
    case "negation":
    case "not":
      return of(node.operand);
    case "binary":
      return binaryDegree(node, of(node.left), of(node.right));
    case "comparison":
      // Which of two is greater does not change when both grow alike, nor does the sign of one.
      return same([of(node.left), of(node.right)]) === null && !isZero(node.right) && !isZero(node.left) ? null : 0;
    case "logic":
      return same([of(node.left), of(node.right)]);
    case "choice":
      return of(node.condition) === 0 ? same([of(node.then), of(node.otherwise)]) : null;
    case "fallback":
      return same([of(node.operand), of(node.otherwise)]);
    case "applied":
      return appliedDegree(node.rule, same(node.operands.map(of)));
    case "gathered":
      return node.how === "count" ? 0 : same(node.operands.map(of));
    case "rank":
      return same(node.operands.map(of)) === null ? null : 0;
  }
}

function inputDegree(input: FormulaInput, view: number): Degree {
  if (input.view !== view) return 0;
  switch (input.kind) {
    case "account":
      return input.gathering === "sum" ? 1 : 0;
    case "clock":
      return input.count === "elapsed" || input.count === "whole" ? 1 : 0;
    case "member":
      return 0;
    case "monthly":
    case "outlook":
      return null;
  }
}

function binaryDegree({ operator }: Extract<CompiledNode, { kind: "binary" }>, left: Degree, right: Degree): Degree {
  if (left === null || right === null) return null;
  switch (operator) {
    case "+":
    case "-":
      return same([left, right]);
    case "*":
      return left + right;
    case "/":
      return left - right;
  }
}

function appliedDegree({ overTime }: AppliedRule, operands: Degree): Degree {
  if (operands === null || overTime === "alike") return operands;
  // Of what is no multiple of its operand, nothing but 0 stays what it is.
  return overTime === "ratio" || operands === 0 ? 0 : null;
}

/** The degree that all have; `null` where they differ. */
function same(degrees: readonly Degree[]): Degree {
  const [first = 0] = degrees;
  return degrees.every((degree) => degree === first) ? first : null;
}

function isZero(node: CompiledNode): boolean {
  return node.kind === "constant" && node.value === 0;
}
