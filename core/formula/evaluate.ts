import { powerOfTen, toMajor } from "../figures/amount.ts";
import { absent, combine, isPresent, map, present } from "../figures/figure.ts";
import type { ArithmeticOperator, ComparisonOperator } from "./expression.ts";
import type { CompiledFormula, CompiledNode, GatheringHow } from "./node.ts";
import type { Figure } from "../figures/schema.ts";

type Node<K extends CompiledNode["kind"]> = Extract<CompiledNode, { kind: K }>;

/**
 * Evaluates a formula on inputs that are already aggregated over span and scope.
 * `inputs[i]` is the i-th input in whole minor units of its account. Sums stay
 * exact because they are taken in minor units. The result is in major units.
 */
export function evaluateFormula(formula: CompiledFormula, inputs: readonly Figure[]): Figure {
  return map(evaluateInMinorUnits(formula, inputs), (minor) => toMajor(minor, formula.root.decimals));
}

/** The same in minor units of the formula's own decimals, as a formula around it takes it. */
export function evaluateInMinorUnits(formula: CompiledFormula, inputs: readonly Figure[]): Figure {
  return evaluateNode(formula.root, inputs);
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
  const result = evaluateKind(node, inputs);
  return isPresent(result) && !Number.isFinite(result.value)
    ? absent("not covered", "The result is too large to be stored.")
    : result;
}

function evaluateKind(node: CompiledNode, inputs: readonly Figure[]): Figure {
  const of = (part: CompiledNode) => evaluateNode(part, inputs);
  switch (node.kind) {
    case "constant":
      return present(node.value);
    case "input":
      return inputs[node.input]!;
    case "negation":
      return map(of(node.operand), (v) => (v === 0 ? 0 : -v));
    case "binary":
      return combine(of(node.left), of(node.right), (a, b) => operate(node, node.operator, a, b));
    case "comparison":
      return combine(aligned(node.left, inputs, node.right), aligned(node.right, inputs, node.left), (a, b) =>
        present(holds(node.operator, a, b) ? 1 : 0),
      );
    case "logic":
      return combine(of(node.left), of(node.right), (a, b) =>
        present(node.operator === "and" ? Math.min(a, b) : Math.max(a, b)),
      );
    case "not":
      return map(of(node.operand), (v) => 1 - v);
    case "choice": {
      const condition = of(node.condition);
      if (!isPresent(condition)) return condition;
      return scaled(condition.value === 1 ? node.then : node.otherwise, inputs, node.decimals);
    }
    case "fallback": {
      const value = scaled(node.operand, inputs, node.decimals);
      return isPresent(value) ? value : scaled(node.otherwise, inputs, node.decimals);
    }
    case "applied": {
      const values: number[] = [];
      for (const operand of node.operands) {
        const figure = of(operand);
        if (!isPresent(figure)) return figure;
        values.push(figure.value);
      }
      return node.rule.apply(...values);
    }
    case "gathered":
      return gathered(node, inputs);
    case "rank":
      return rankOf(node, inputs);
  }
}

function operate(node: Node<"binary">, operator: ArithmeticOperator, a: number, b: number): Figure {
  const [da, db] = [node.left.decimals, node.right.decimals];
  switch (operator) {
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

function holds(operator: ComparisonOperator, a: number, b: number): boolean {
  switch (operator) {
    case "=":
      return a === b;
    case "<>":
      return a !== b;
    case "<":
      return a < b;
    case "<=":
      return a <= b;
    case ">":
      return a > b;
    case ">=":
      return a >= b;
  }
}

function gathered(node: Node<"gathered">, inputs: readonly Figure[]): Figure {
  const decimals = node.how === "count" ? 0 : node.decimals;
  const figures = node.operands.map((operand) =>
    scaled(operand, inputs, node.how === "count" ? operand.decimals : decimals),
  );
  const missing = figures.find((figure) => !isPresent(figure));
  return node.every && missing ? missing : gatherFigures(node.how, figures);
}

/**
 * Several figures of one scale made one; those that are absent are passed over. Absent with the first
 * one's reason where none is there. The standard deviation is that of a sample, divided by n − 1.
 */
export function gatherFigures(how: GatheringHow, figures: readonly Figure[]): Figure {
  const values = figures.flatMap((figure) => (isPresent(figure) ? [figure.value] : []));
  if (values.length === 0)
    return figures.find((figure) => !isPresent(figure)) ?? absent("no data", "There is nothing to aggregate.");
  const sum = () => values.reduce((total, value) => total + value, 0);
  switch (how) {
    case "count":
      return present(values.length);
    case "sum":
      return present(sum());
    case "mean":
      return present(sum() / values.length);
    case "lowest":
      return present(Math.min(...values));
    case "highest":
      return present(Math.max(...values));
    case "median": {
      const sorted = [...values].sort((a, b) => a - b);
      const middle = (sorted.length - 1) / 2;
      return present((sorted[Math.floor(middle)]! + sorted[Math.ceil(middle)]!) / 2);
    }
    case "deviation": {
      if (values.length < 2) return absent("no base", "A spread needs two values at least.");
      const mean = sum() / values.length;
      return present(Math.sqrt(values.reduce((total, value) => total + (value - mean) ** 2, 0) / (values.length - 1)));
    }
  }
}

function rankOf(node: Node<"rank">, inputs: readonly Figure[]): Figure {
  const place = evaluateNode(node.own, inputs);
  if (!isPresent(place)) return place;
  const figures = node.operands.map((operand) => evaluateNode(operand, inputs));
  const own = figures[place.value]!;
  if (!isPresent(own)) return own;
  const isBefore = (value: number) => (node.first === "highest" ? value > own.value : value < own.value);
  return present(1 + figures.filter((other) => isPresent(other) && isBefore(other.value)).length);
}

/** A part's value on the finer scale of two. */
function aligned(part: CompiledNode, inputs: readonly Figure[], other: CompiledNode): Figure {
  return scaled(part, inputs, Math.max(part.decimals, other.decimals));
}

function scaled(part: CompiledNode, inputs: readonly Figure[], decimals: number): Figure {
  return map(evaluateNode(part, inputs), (value) => value * powerOfTen(decimals - part.decimals));
}
