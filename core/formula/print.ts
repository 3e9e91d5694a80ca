import type { Argument, Expression, Operator } from "./expression.ts";

/** How strongly an operator binds; what binds less strongly than its surroundings goes into brackets. */
const STRENGTH: Readonly<Record<Operator, number>> = {
  or: 1,
  and: 2,
  "=": 4,
  "<>": 4,
  "<": 4,
  "<=": 4,
  ">": 4,
  ">=": 4,
  "+": 5,
  "-": 5,
  "*": 6,
  "/": 6,
};
const NOT = 3;
const NEGATION = 7;
const SCENARIO = 8;
const ALONE = 9;

/** Writes a formula with the fewest brackets; reading it back gives the same tree. */
export function printFormula(expression: Expression): string {
  switch (expression.kind) {
    case "number":
      return expression.text;
    case "name":
      return expression.name;
    case "call":
      return `${expression.name}(${expression.arguments.map(printArgument).join(", ")})`;
    case "scenario":
      return `${within(expression.operand, SCENARIO)}@${printScenario(expression.scenario)}`;
    case "negation":
      return `-${within(expression.operand, NEGATION)}`;
    case "not":
      return `not ${within(expression.operand, NOT)}`;
    case "binary": {
      const own = STRENGTH[expression.operator];
      return `${within(expression.left, own)} ${expression.operator} ${within(expression.right, own + 1)}`;
    }
  }
}

function printArgument({ option, value }: Argument): string {
  const text =
    value.kind !== "texts"
      ? printFormula(value)
      : value.texts.length === 1
        ? `"${value.texts[0]}"`
        : `[${value.texts.map((t) => `"${t}"`).join(", ")}]`;
  return option ? `${option.name}: ${text}` : text;
}

/** A scenario's key as it is written behind the sign. */
export function printScenario(key: string): string {
  return /^[a-z][a-z0-9_]*$/.test(key) && !["and", "or", "not"].includes(key) ? key : `"${key}"`;
}

function within(expression: Expression, least: number): string {
  const text = printFormula(expression);
  return strengthOf(expression) < least ? `(${text})` : text;
}

function strengthOf(expression: Expression): number {
  switch (expression.kind) {
    case "binary":
      return STRENGTH[expression.operator];
    case "not":
      return NOT;
    case "negation":
      return NEGATION;
    case "scenario":
      return SCENARIO;
    default:
      return ALONE;
  }
}
