import { refuse, type ArithmeticOperator, type TextRange } from "./expression.ts";
import type { CompiledNode, Gathering, ResultBehaviour } from "./node.ts";
import { plainOf, productUnit, quotientUnit, unitName, type ResultUnit } from "./unit.ts";

/** A part of a formula with its type. */
export interface Typed {
  readonly node: CompiledNode;
  readonly unit: ResultUnit;
  readonly behaviour: ResultBehaviour;
  /** A name that stands for this part in messages. */
  readonly label: string;
  /** Whether a balance was gathered in words, and so may meet flows. */
  readonly said: boolean;
  /** What it is made of, whatever was done to it: a flow and a balance never meet unsaid. */
  readonly nature: "flow" | "balance" | "neither";
  /** How a balance is gathered; `null` where it is none, or where its parts differ. */
  readonly gathering: Gathering | null;
}

/**
 * How a result behaves whose value is neither the sum nor the multiple of its parts, such as the greater
 * of two: it is calculated anew for each span, unless a part of it looks at a span of its own.
 */
export function derivedBehaviour(parts: readonly Typed[]): ResultBehaviour {
  if (parts.some((part) => part.behaviour === "moving")) return "moving";
  if (parts.every((part) => part.behaviour === "constant")) return "constant";
  return parts.every((part) => part.behaviour === "balance") ? "balance" : "rate";
}

/** A number that is neither flow nor balance: what is known of it besides its node, unit and name. */
export const NUMBER = { behaviour: "rate", said: true, nature: "neither", gathering: null } as const;

/** The gathering that parts have in common; `null` where they differ. */
export function commonGathering(parts: readonly Typed[]): Gathering | null {
  const [first] = parts;
  return first && parts.every((part) => part.gathering === first.gathering) ? first.gathering : null;
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
  if (left.unit.kind === "plain" && right.unit.kind === "plain") return plainOf(left.unit, right.unit);
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
  const [balance, flow] = left.nature === "balance" ? [left, right] : [right, left];
  if (balance.nature !== "balance" || flow.nature !== "flow" || balance.said) return;
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
    unit: isZero(left) ? right.unit : left.unit.kind === "plain" ? plainOf(left.unit, right.unit) : left.unit,
    behaviour: left.behaviour === right.behaviour ? left.behaviour : derivedBehaviour([left, right]),
    label: left.label,
    said: left.said && right.said,
    nature: commonNature(left, right),
    gathering: commonGathering([left, right]),
  };
}

/** A flow and a balance whose gathering was said make something that is neither. */
function commonNature(left: Typed, right: Typed): Typed["nature"] {
  if (left.nature === "neither") return right.nature;
  return right.nature === "neither" || right.nature === left.nature ? left.nature : "neither";
}

/** a × b or a ÷ b. */
export function multiplication(operator: "*" | "/", left: Typed, right: Typed): Typed {
  const decimals = operator === "*" ? left.node.decimals + right.node.decimals : 0;
  const scaled = right.behaviour === "constant" || (operator === "*" && left.behaviour === "constant");
  const isMoving = left.behaviour === "moving" || right.behaviour === "moving";
  const whole = left.behaviour === "constant" ? right : left;
  return {
    node: { kind: "binary", operator, left: left.node, right: right.node, decimals },
    unit: operator === "*" ? productUnit(left.unit, right.unit) : quotientUnit(left.unit, right.unit),
    behaviour: scaled ? whole.behaviour : isMoving ? "moving" : "rate",
    label: left.label,
    said: scaled ? whole.said : true,
    nature: scaled ? whole.nature : "neither",
    gathering: scaled ? whole.gathering : null,
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
