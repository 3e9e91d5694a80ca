import { refuse, type ArithmeticOperator, type TextRange } from "./expression.ts";
import type { CompiledNode, ResultBehaviour, ResultUnit } from "./node.ts";

/** A part of a formula with its type. */
export interface Typed {
  readonly node: CompiledNode;
  readonly unit: ResultUnit;
  readonly behaviour: ResultBehaviour;
  /** A name that stands for this part in messages. */
  readonly label: string;
  /** Whether a balance was gathered in words, and so may meet flows. */
  readonly said: boolean;
}

/** A unit in words. */
export function unitName(unit: ResultUnit): string {
  switch (unit.kind) {
    case "money":
      return "money";
    case "count":
      return unit.of;
    case "plain":
      return "plain numbers";
    case "days":
      return "days";
    case "truth":
      return "yes or no";
    case "per":
      return `${unit.over} per ${unit.by}`;
  }
}

/** Refuses a yes or no where a number is needed. */
export function requireNumber(at: TextRange, { unit, label }: Typed): void {
  if (unit.kind === "truth") refuse(at, `"${label}" is a yes or no, and a number is needed here: say if(…, 1, 0).`);
}

/** Refuses a number where a yes or no is needed. */
export function requireTruth(at: TextRange, { unit, label }: Typed): void {
  if (unit.kind !== "truth")
    refuse(
      at,
      `"${label}" counts ${unitName(unit)}, and a yes or no is needed here: compare it, such as ${label} > 0.`,
    );
}

/** The unit two parts share; a plain constant takes the other's. Refuses what cannot be set side by side. */
export function commonUnit(at: TextRange, left: Typed, right: Typed, doing: string): ResultUnit {
  if (unitName(left.unit) === unitName(right.unit)) return left.unit;
  if (isBareConstant(left)) return right.unit;
  if (isBareConstant(right)) return left.unit;
  refuse(
    at,
    `"${left.label}" counts ${unitName(left.unit)} and "${right.label}" ${unitName(right.unit)}: they cannot be ${doing}.`,
  );
}

/** Refuses a balance beside a flow, unless the formula says how the balance is gathered. */
export function refuseMixedTime(at: TextRange, left: Typed, right: Typed): void {
  const [balance, flow] = left.behaviour === "balance" ? [left, right] : [right, left];
  if (balance.behaviour !== "balance" || flow.behaviour !== "flow" || balance.said) return;
  refuse(
    at,
    `"${balance.label}" is a balance and "${flow.label}" a flow: say closing(${balance.label}) or average(${balance.label}).`,
  );
}

/** a + b or a − b: the same unit on both sides. */
export function addition(at: TextRange, operator: "+" | "-", left: Typed, right: Typed): Typed {
  if (unitName(left.unit) !== unitName(right.unit) && !isZero(left) && !isZero(right))
    refuse(
      at,
      `"${left.label}" counts ${unitName(left.unit)} and "${right.label}" ${unitName(right.unit)}: they cannot be added.`,
    );
  const decimals = Math.max(left.node.decimals, right.node.decimals);
  return {
    node: { kind: "binary", operator, left: left.node, right: right.node, decimals },
    unit: isZero(left) ? right.unit : left.unit,
    behaviour: left.behaviour === right.behaviour ? left.behaviour : "rate",
    label: left.label,
    said: left.said && right.said,
  };
}

/** a × b or a ÷ b. */
export function multiplication(operator: "*" | "/", left: Typed, right: Typed): Typed {
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

/** Arithmetic of two typed parts. */
export function arithmetic(at: TextRange, operator: ArithmeticOperator, left: Typed, right: Typed): Typed {
  requireNumber(at, left);
  requireNumber(at, right);
  refuseMixedTime(at, left, right);
  return operator === "+" || operator === "-"
    ? addition(at, operator, left, right)
    : multiplication(operator, left, right);
}

function isBareConstant({ unit, behaviour }: Typed): boolean {
  return behaviour === "constant" && unit.kind === "plain";
}

function isZero(part: Typed): boolean {
  return isBareConstant(part) && part.node.kind === "constant" && part.node.value === 0;
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
