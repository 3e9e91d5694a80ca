import { present } from "../../figures/figure.ts";
import type { AppliedRule } from "../node.ts";
import { commonGathering, commonUnit, derivedBehaviour, requireNumber, requireTruth, type Typed } from "../typed.ts";
import type { FormulaFunction } from "./function.ts";

/** One value or another. */
export const ifFunction: FormulaFunction = {
  name: "if",
  group: "Choice",
  parameters: [
    { name: "condition", takes: "value", about: "a comparison, such as total_revenue > 0" },
    { name: "then", takes: "value", about: "the value where it holds" },
    { name: "otherwise", takes: "value", about: "the value where it does not" },
  ],
  gives: "The second part where the condition holds, else the third.",
  absence: "Absent where the condition or the chosen part is; the part that is not chosen does not count.",
  example: "if(total_revenue > 0, operating_result / total_revenue, 0)",
  compile: ({ at, values }, place, { part }) => {
    const [condition, then, otherwise] = values.map((v) => part(v, place)) as [Typed, Typed, Typed];
    requireTruth(values[0]!, condition);
    const unit = commonUnit(at, then, otherwise, "the two outcomes of one if");
    return {
      node: {
        kind: "choice",
        condition: condition.node,
        then: then.node,
        otherwise: otherwise.node,
        decimals: Math.max(then.node.decimals, otherwise.node.decimals),
      },
      unit,
      // Which outcome holds is decided anew for each span, even between two constants.
      behaviour: derivedBehaviour([condition, then, otherwise]),
      label: then.label,
      said: then.said && otherwise.said,
      nature: then.nature === otherwise.nature ? then.nature : "neither",
      gathering: commonGathering([then, otherwise]),
    };
  },
};

/** A value, or another where it is absent. */
export const ifAbsent: FormulaFunction = {
  name: "if_absent",
  group: "Choice",
  parameters: [
    { name: "value", takes: "value", about: "what may be absent" },
    { name: "instead", takes: "value", about: "what then counts" },
  ],
  gives: "The value, or the other where it is absent. The only way in which an absence becomes a number.",
  absence: "Absent where both are.",
  example: "if_absent(total_revenue@target, total_revenue@budget)",
  compile: ({ at, values }, place, { part }) => {
    const [value, instead] = values.map((v) => part(v, place)) as [Typed, Typed];
    const unit = commonUnit(at, value, instead, "one instead of the other");
    return {
      ...value,
      unit,
      behaviour: value.behaviour === instead.behaviour ? value.behaviour : derivedBehaviour([value, instead]),
      gathering: commonGathering([value, instead]),
      node: {
        kind: "fallback",
        operand: value.node,
        otherwise: instead.node,
        decimals: Math.max(value.node.decimals, instead.node.decimals),
      },
    };
  },
};

const WITHOUT_SIGN: AppliedRule = {
  name: "absolute",
  settings: [],
  overTime: "alike",
  apply: (value = 0) => present(Math.abs(value)),
};

/** A number without its sign. */
export const abs: FormulaFunction = {
  name: "abs",
  group: "Choice",
  parameters: [{ name: "value", takes: "value", about: "a number" }],
  gives: "The number without its sign.",
  absence: "Absent where the value is.",
  example: "abs(operating_result - operating_result@budget)",
  compile: ({ at, values }, place, { part }) => {
    const value = part(values[0]!, place);
    requireNumber(at, value);
    return {
      ...value,
      behaviour: derivedBehaviour([value]),
      node: { kind: "applied", rule: WITHOUT_SIGN, operands: [value.node], decimals: value.node.decimals },
    };
  },
};

function extremeFunction(name: "min" | "max", gives: string, example: string): FormulaFunction {
  return {
    name,
    group: "Choice",
    parameters: [{ name: "values", takes: "values", about: "two or more numbers of the same kind" }],
    gives,
    absence: "Absent where one of them is.",
    example,
    compile: ({ at, values }, place, { part }) => {
      const parts = values.map((v) => part(v, place));
      parts.forEach((p) => requireNumber(at, p));
      const unit = parts.reduce((a, b) => ({ ...a, unit: commonUnit(at, a, b, "compared") })).unit;
      return {
        ...parts[0]!,
        unit,
        behaviour: derivedBehaviour(parts),
        gathering: commonGathering(parts),
        node: {
          kind: "gathered",
          how: name === "min" ? "lowest" : "highest",
          every: true,
          operands: parts.map((p) => p.node),
          decimals: Math.max(...parts.map((p) => p.node.decimals)),
        },
      };
    },
  };
}

/** The least and the greatest of several numbers. */
export const EXTREME_FUNCTIONS: readonly FormulaFunction[] = [
  extremeFunction("min", "The least of several numbers.", "min(total_revenue, total_revenue@budget)"),
  extremeFunction("max", "The greatest of several numbers.", "max(operating_result, 0)"),
];
