import type { Expression, Operator } from "./expression.ts";

const STRENGTH: Readonly<Record<Operator, number>> = { "+": 1, "-": 1, "*": 2, "/": 2 };

/** Writes a formula with the fewest brackets; reading it back gives the same tree. */
export function printFormula(expression: Expression): string {
  switch (expression.kind) {
    case "number":
      return expression.text;
    case "name":
      return expression.name;
    case "call":
      return `${expression.gathering}(${printFormula(expression.argument)})`;
    case "negation":
      return `-${bracketed(expression.operand, expression.operand.kind === "binary")}`;
    case "binary": {
      const own = STRENGTH[expression.operator];
      const { left, right } = expression;
      const l = bracketed(left, left.kind === "binary" && STRENGTH[left.operator] < own);
      const r = bracketed(right, right.kind === "binary" && STRENGTH[right.operator] <= own);
      return `${l} ${expression.operator} ${r}`;
    }
  }
}

function bracketed(expression: Expression, needed: boolean): string {
  return needed ? `(${printFormula(expression)})` : printFormula(expression);
}
