import type { Argument, Expression, FormulaResult, Operator } from "../formula/expression.ts";
import { Refusal, refuse } from "../formula/expression.ts";
import { nearestName } from "../formula/nearest-name.ts";
import { parseFormula } from "../formula/parse.ts";
import { newKey } from "../reading/names.ts";
import { bigDecimalText, type Decimal } from "../figures/exact-sum.ts";

/** A number without rounding: numerator by denominator, which is positive. */
interface Fraction {
  readonly top: bigint;
  readonly bottom: bigint;
}

/** What a formula makes of a row's numbers; "empty" where one is missing, "zero" where something is divided by it. */
type Outcome = Fraction | "empty" | "zero";

/** A formula over columns, ready for each row. */
export interface ColumnFormula {
  /** The columns it reads. */
  readonly columns: readonly string[];
  /**
   * The result as a plain decimal, rounded once, halves away from zero; `null` where a number that it needs is missing,
   * `DIVIDED_BY_ZERO` where it divides by zero.
   */
  evaluate(numbers: readonly (Decimal | null)[], decimals: number): string | null;
}

/** What is written where a row divides by zero: no number, so that it stops rather than counts as nothing. */
export const DIVIDED_BY_ZERO = "divided by zero";

/** How formulas call columns: their names in lower case, "unit_price" of "Unit price". */
export function columnKeys(columns: readonly string[]): ReadonlyMap<string, string> {
  const keys = new Map<string, string>();
  const taken = new Set<string>();
  for (const column of columns) {
    const key = newKey(column, taken, "_");
    taken.add(key);
    keys.set(key, column);
  }
  return keys;
}

/** How a formula calls one of the columns. */
export function columnKey(columns: readonly string[], column: string): string {
  return [...columnKeys(columns)].find(([, name]) => name === column)?.[0] ?? "";
}

/** Reads a formula over columns: numbers, + − × ÷, comparisons, if(…), if_absent(…) and round(…). Never throws. */
export function compileColumns(text: string, columns: readonly string[]): FormulaResult<ColumnFormula> {
  const parsed = parseFormula(text);
  if (!parsed.ok) return parsed;
  const keys = columnKeys(columns);
  const read: string[] = [];
  try {
    const run = compile(parsed.value, keys, read);
    return {
      ok: true,
      value: {
        columns: read,
        evaluate(numbers, decimals) {
          const outcome = run(numbers.map((number) => (number ? exact(number) : "empty")));
          if (outcome === "empty") return null;
          return outcome === "zero" ? DIVIDED_BY_ZERO : bigDecimalText(roundedTo(outcome, decimals), decimals);
        },
      },
    };
  } catch (error) {
    if (error instanceof Refusal) return { ok: false, problem: error.problem };
    throw error;
  }
}

type Run = (numbers: readonly Outcome[]) => Outcome;

const ONE: Fraction = { top: 1n, bottom: 1n };
const NONE: Fraction = { top: 0n, bottom: 1n };

function compile(expression: Expression, keys: ReadonlyMap<string, string>, read: string[]): Run {
  const part = (of: Expression) => compile(of, keys, read);
  switch (expression.kind) {
    case "number": {
      const value = literal(expression.text);
      return () => value;
    }
    case "name": {
      const column = keys.get(expression.name);
      if (column === undefined) {
        const near = nearestName(expression.name, [...keys.keys()]);
        refuse(
          expression,
          `There is no column "${expression.name}" here.${near ? ` Do you mean ${near}?` : ""} Columns are ${[...keys.keys()].join(", ")}.`,
        );
      }
      if (!read.includes(column)) read.push(column);
      const place = read.indexOf(column);
      return (numbers) => numbers[place]!;
    }
    case "negation": {
      const operand = part(expression.operand);
      return (numbers) => withOne(operand(numbers), ({ top, bottom }) => ({ top: -top, bottom }));
    }
    case "not": {
      const operand = part(expression.operand);
      return (numbers) => withOne(operand(numbers), ({ top }) => (top === 0n ? ONE : NONE));
    }
    case "binary": {
      const [left, right] = [part(expression.left), part(expression.right)];
      const operate = OPERATORS[expression.operator];
      return (numbers) => withOne(left(numbers), (a) => withOne(right(numbers), (b) => operate(a, b)));
    }
    case "call":
      return compileCall(expression, part);
    case "scenario":
      return refuse(expression, "A row has no scenarios to choose from: name its columns.");
  }
}

const OPERATORS: Readonly<Record<Operator, (a: Fraction, b: Fraction) => Outcome>> = {
  "+": (a, b) => fraction(a.top * b.bottom + b.top * a.bottom, a.bottom * b.bottom),
  "-": (a, b) => fraction(a.top * b.bottom - b.top * a.bottom, a.bottom * b.bottom),
  "*": (a, b) => fraction(a.top * b.top, a.bottom * b.bottom),
  "/": (a, b) => (b.top === 0n ? "zero" : fraction(a.top * b.bottom, a.bottom * b.top)),
  "=": (a, b) => truth(order(a, b) === 0),
  "<>": (a, b) => truth(order(a, b) !== 0),
  "<": (a, b) => truth(order(a, b) < 0),
  "<=": (a, b) => truth(order(a, b) <= 0),
  ">": (a, b) => truth(order(a, b) > 0),
  ">=": (a, b) => truth(order(a, b) >= 0),
  and: (a, b) => truth(a.top !== 0n && b.top !== 0n),
  or: (a, b) => truth(a.top !== 0n || b.top !== 0n),
};

function compileCall(call: Extract<Expression, { kind: "call" }>, part: (of: Expression) => Run): Run {
  const values = call.arguments.map((argument) => valueOf(argument));
  if (call.name === "if" && values.length === 3) {
    const [condition, then, otherwise] = values.map(part) as [Run, Run, Run];
    return (numbers) => withOne(condition(numbers), ({ top }) => (top === 0n ? otherwise : then)(numbers));
  }
  if (call.name === "round" && (values.length === 1 || values.length === 2)) {
    const operand = part(values[0]!);
    const decimals = values[1] === undefined ? 0 : Number(values[1].kind === "number" ? values[1].text : NaN);
    if (!Number.isInteger(decimals) || decimals < 0 || decimals > 9)
      refuse(values[1] ?? call, "How many decimals are kept is a number from 0 to 9.");
    return (numbers) =>
      withOne(operand(numbers), (value) => fraction(roundedTo(value, decimals), 10n ** BigInt(decimals)));
  }
  if (call.name === "if_absent" && values.length === 2) {
    const [operand, otherwise] = values.map(part) as [Run, Run];
    return (numbers) => {
      const outcome = operand(numbers);
      return outcome === "empty" || outcome === "zero" ? otherwise(numbers) : outcome;
    };
  }
  return refuse(
    call.nameRange,
    `"${call.name}" does not work on rows. A column is computed with + - * /, comparisons, if(condition, then, otherwise), if_absent(value, otherwise) and round(value, decimals).`,
  );
}

function valueOf({ value, option }: Argument): Expression {
  if (option || value.kind === "texts") refuse(value, "Write a number, a column or a calculation here.");
  return value;
}

function withOne(outcome: Outcome, work: (value: Fraction) => Outcome): Outcome {
  return typeof outcome === "string" ? outcome : work(outcome);
}

function exact({ units, decimals }: Decimal): Fraction {
  return fraction(BigInt(units), 10n ** BigInt(decimals));
}

/** "12.5%" is 0.125. */
function literal(text: string): Fraction {
  const isPercent = text.endsWith("%");
  const plain = isPercent ? text.slice(0, -1) : text;
  const decimals = plain.includes(".") ? plain.length - plain.indexOf(".") - 1 : 0;
  return fraction(BigInt(plain.replace(".", "")), 10n ** BigInt(decimals + (isPercent ? 2 : 0)));
}

function fraction(top: bigint, bottom: bigint): Fraction {
  return bottom < 0n ? { top: -top, bottom: -bottom } : { top, bottom };
}

function truth(holds: boolean): Fraction {
  return holds ? ONE : NONE;
}

function order(a: Fraction, b: Fraction): number {
  const difference = a.top * b.bottom - b.top * a.bottom;
  return difference === 0n ? 0 : difference < 0n ? -1 : 1;
}

/** Whole units of 10^−decimals, halves away from zero. */
function roundedTo({ top, bottom }: Fraction, decimals: number): bigint {
  const scaled = (top < 0n ? -top : top) * 10n ** BigInt(decimals);
  const whole = (2n * scaled + bottom) / (2n * bottom);
  return top < 0n ? -whole : whole;
}
