import type { Account, AccountUnit } from "../accounts/account.ts";
import type { AccountTree } from "../accounts/account-tree.ts";
import type { Expression, FormulaProblem, FormulaResult, Gathering, TextRange } from "./expression.ts";
import { parseFormula } from "./parse.ts";
import { nearestName } from "./nearest-name.ts";

/** What a formula's result counts. `plain` is a number without a unit, such as a share. */
export type ResultUnit =
  | AccountUnit
  | { readonly kind: "plain" }
  | { readonly kind: "per"; readonly over: "money" | "count"; readonly by: string };

/** How the result behaves over time; a rate never adds up. */
export type ResultBehaviour = "flow" | "balance" | "rate" | "constant";

/** An account as a formula reads it. */
export interface FormulaInput {
  readonly account: string;
  readonly gathering: "sum" | Gathering;
}

/** A formula ready to evaluate: whole minor units with a scale known beforehand. */
export type CompiledNode =
  | { readonly kind: "constant"; readonly value: number; readonly decimals: number }
  | { readonly kind: "input"; readonly input: number; readonly decimals: number }
  | { readonly kind: "negation"; readonly operand: CompiledNode; readonly decimals: number }
  | {
      readonly kind: "binary";
      readonly operator: "+" | "-" | "*" | "/";
      readonly left: CompiledNode;
      readonly right: CompiledNode;
      readonly decimals: number;
    };

/** A formula with its names resolved and its type known. */
export interface CompiledFormula {
  readonly root: CompiledNode;
  readonly inputs: readonly FormulaInput[];
  readonly unit: ResultUnit;
  readonly behaviour: ResultBehaviour;
}

/** What names a formula may use: accounts, and KPIs by their formula's text. */
export interface FormulaNames {
  readonly accounts: AccountTree;
  readonly kpis: ReadonlyMap<string, string>;
  /** The KPI the formula belongs to, so that a cycle through it is found. */
  readonly self?: string;
}

interface Typed {
  readonly node: CompiledNode;
  readonly unit: ResultUnit;
  readonly behaviour: ResultBehaviour;
  /** A name that stands for this part in messages. */
  readonly label: string;
  /** Whether a balance was gathered in words, and so may meet flows. */
  readonly said: boolean;
}

class Refusal extends Error {
  constructor(readonly problem: FormulaProblem) {
    super(problem.message);
  }
}

/**
 * Reads a formula, resolves its names, follows KPIs into their own formulas and
 * checks units and time behaviour. Never throws: a refusal says where and why.
 */
export function compileFormula(text: string, names: FormulaNames): FormulaResult<CompiledFormula> {
  const inputs: FormulaInput[] = [];
  try {
    const typed = compileText(text, names, inputs, names.self === undefined ? [] : [names.self]);
    return { ok: true, value: { root: typed.node, inputs, unit: typed.unit, behaviour: typed.behaviour } };
  } catch (error) {
    if (error instanceof Refusal) return { ok: false, problem: error.problem };
    throw error;
  }
}

function compileText(text: string, names: FormulaNames, inputs: FormulaInput[], path: readonly string[]): Typed {
  const parsed = parseFormula(text);
  if (!parsed.ok) throw new Refusal(parsed.problem);
  return compileExpression(parsed.value, names, inputs, path);
}

function compileExpression(
  expression: Expression,
  names: FormulaNames,
  inputs: FormulaInput[],
  path: readonly string[],
): Typed {
  switch (expression.kind) {
    case "number": {
      const decimals = expression.text.split(".")[1]?.length ?? 0;
      const value = Number(expression.text.replace(".", ""));
      if (!Number.isSafeInteger(value) || decimals > 9) {
        refuse(expression, `The number ${expression.text} is too long: at most 15 digits, 9 of them decimals.`);
      }
      return {
        node: { kind: "constant", value, decimals },
        unit: { kind: "plain" },
        behaviour: "constant",
        label: expression.text,
        said: true,
      };
    }
    case "name":
      return compileName(expression.name, expression, names, inputs, path);
    case "call":
      return compileCall(expression, names, inputs);
    case "negation": {
      const operand = compileExpression(expression.operand, names, inputs, path);
      return { ...operand, node: { kind: "negation", operand: operand.node, decimals: operand.node.decimals } };
    }
    case "binary": {
      const left = compileExpression(expression.left, names, inputs, path);
      const right = compileExpression(expression.right, names, inputs, path);
      refuseMixedTime(expression, left, right);
      return expression.operator === "+" || expression.operator === "-"
        ? addition(expression, expression.operator, left, right)
        : multiplication(expression.operator, left, right);
    }
  }
}

function compileName(
  name: string,
  at: TextRange,
  names: FormulaNames,
  inputs: FormulaInput[],
  path: readonly string[],
): Typed {
  const account = names.accounts.accounts.get(name);
  if (account) return inputOf(account, account.behaviour === "balance" ? "closing" : "sum", inputs, false);
  const formula = names.kpis.get(name);
  if (formula === undefined) {
    const near = nearestName(name, [...names.accounts.accounts.keys(), ...names.kpis.keys()]);
    refuse(at, `There is no account or KPI "${name}".${near ? ` Is "${near}" meant?` : ""}`);
  }
  if (path.includes(name)) refuse(at, `The KPI refers to itself: ${[...path, name].join(" → ")}.`);
  try {
    return { ...compileText(formula, names, inputs, [...path, name]), label: name };
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    refuse(at, error.message);
  }
}

function compileCall(call: Extract<Expression, { kind: "call" }>, names: FormulaNames, inputs: FormulaInput[]): Typed {
  if (call.gathering !== "closing" && call.gathering !== "average") {
    refuse(
      call.nameRange,
      `There is no function "${call.gathering}". There are closing(…) and average(…), which gather a balance.`,
    );
  }
  const account = call.argument.kind === "name" ? names.accounts.accounts.get(call.argument.name) : undefined;
  if (!account) refuse(call.argument, `${call.gathering}(…) takes the name of an account.`);
  if (account.behaviour !== "balance") {
    refuse(
      call.argument,
      `${call.gathering}(…) gathers a balance; "${account.key}" is a flow and is summed over the span.`,
    );
  }
  return inputOf(account, call.gathering, inputs, true);
}

function inputOf(account: Account, gathering: FormulaInput["gathering"], inputs: FormulaInput[], said: boolean): Typed {
  let index = inputs.findIndex((i) => i.account === account.key && i.gathering === gathering);
  if (index < 0) index = inputs.push({ account: account.key, gathering }) - 1;
  return {
    node: { kind: "input", input: index, decimals: account.decimals },
    unit: account.unit,
    behaviour: account.behaviour,
    label: account.key,
    said,
  };
}

function refuseMixedTime(at: TextRange, left: Typed, right: Typed): void {
  const [balance, flow] = left.behaviour === "balance" ? [left, right] : [right, left];
  if (balance.behaviour !== "balance" || flow.behaviour !== "flow" || balance.said) return;
  refuse(
    at,
    `"${balance.label}" is a balance and "${flow.label}" a flow: say closing(${balance.label}) or average(${balance.label}).`,
  );
}

function addition(at: TextRange, operator: "+" | "-", left: Typed, right: Typed): Typed {
  if (unitName(left.unit) !== unitName(right.unit)) {
    refuse(
      at,
      `"${left.label}" counts ${unitName(left.unit)} and "${right.label}" ${unitName(right.unit)}: they cannot be added.`,
    );
  }
  const decimals = Math.max(left.node.decimals, right.node.decimals);
  const same = left.behaviour === right.behaviour;
  return {
    node: { kind: "binary", operator, left: left.node, right: right.node, decimals },
    unit: left.unit,
    behaviour: same ? left.behaviour : "rate",
    label: left.label,
    said: left.said && right.said,
  };
}

function multiplication(operator: "*" | "/", left: Typed, right: Typed): Typed {
  const decimals = operator === "*" ? left.node.decimals + right.node.decimals : 0;
  const scaled = right.behaviour === "constant" || (operator === "*" && left.behaviour === "constant");
  return {
    node: { kind: "binary", operator, left: left.node, right: right.node, decimals },
    unit: operator === "*" ? productUnit(left.unit, right.unit) : quotientUnit(left.unit, right.unit),
    behaviour: scaled ? (left.behaviour === "constant" ? right.behaviour : left.behaviour) : "rate",
    label: left.label,
    said: true,
  };
}

function productUnit(a: ResultUnit, b: ResultUnit): ResultUnit {
  if (b.kind === "plain") return a;
  return a.kind === "plain" ? b : { kind: "plain" };
}

function quotientUnit(a: ResultUnit, b: ResultUnit): ResultUnit {
  if (b.kind === "plain") return a;
  if (a.kind === "money" && b.kind === "count") return { kind: "per", over: "money", by: b.of };
  if (a.kind === "count" && b.kind === "money") return { kind: "per", over: "count", by: "money" };
  return { kind: "plain" };
}

function unitName(unit: ResultUnit): string {
  switch (unit.kind) {
    case "money":
      return "money";
    case "count":
      return unit.of;
    case "plain":
      return "plain numbers";
    case "per":
      return `${unit.over} per ${unit.by}`;
  }
}

function refuse(at: TextRange, message: string): never {
  throw new Refusal({ from: at.from, to: at.to, message });
}
