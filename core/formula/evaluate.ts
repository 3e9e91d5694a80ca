import { powerOfTen, toMajor } from "../figures/amount.ts";
import { absent, combine, isPresent, map, present, type Figure } from "../figures/figure.ts";
import type { CompiledFormula, CompiledNode } from "./compile.ts";

/**
 * Evaluates a formula on inputs that are already aggregated over span and scope.
 * `inputs[i]` is the i-th input in whole minor units of its account. Sums stay
 * exact because they are taken in minor units. The result is in major units.
 */
export function evaluateFormula(formula: CompiledFormula, inputs: readonly Figure[]): Figure {
  return map(evaluateNode(formula.root, inputs), (minor) => toMajor(minor, formula.root.decimals));
}

/**
 * The difference a − b of two evaluations of the same formula, in major units,
 * taken before scaling so that it is exact wherever the evaluations are.
 */
export function evaluateDifference(formula: CompiledFormula, a: readonly Figure[], b: readonly Figure[]): Figure {
  const difference = combine(evaluateNode(formula.root, a), evaluateNode(formula.root, b), (x, y) => present(x - y));
  return map(difference, (minor) => toMajor(minor, formula.root.decimals));
}

function evaluateNode(node: CompiledNode, inputs: readonly Figure[]): Figure {
  switch (node.kind) {
    case "constant":
      return present(node.value);
    case "input":
      return inputs[node.input]!;
    case "negation":
      return map(evaluateNode(node.operand, inputs), (v) => (v === 0 ? 0 : -v));
    case "binary": {
      const left = evaluateNode(node.left, inputs);
      const right = evaluateNode(node.right, inputs);
      const result = combine(left, right, (a, b) => operate(node, a, b));
      return isPresent(result) && !Number.isFinite(result.value)
        ? absent("not covered", "The result is too large to be kept.")
        : result;
    }
  }
}

function operate(node: Extract<CompiledNode, { kind: "binary" }>, a: number, b: number): Figure {
  const [da, db] = [node.left.decimals, node.right.decimals];
  switch (node.operator) {
    case "+":
      return present(a * powerOfTen(node.decimals - da) + b * powerOfTen(node.decimals - db));
    case "-":
      return present(a * powerOfTen(node.decimals - da) - b * powerOfTen(node.decimals - db));
    case "*":
      return present(a * b);
    case "/":
      if (b === 0) return absent("division by zero", "The divisor is zero over this span and scope.");
      return present(db >= da ? (a * powerOfTen(db - da)) / b : a / (b * powerOfTen(da - db)));
  }
}
