import { keptLeaves } from "../cube/coverage.ts";
import type { CompiledFormula, FormulaInput } from "../formula/node.ts";
import { shapeOf } from "./formula-shape.ts";
import type { MeasureGround } from "./measure-ground.ts";

type Kept = Pick<MeasureGround, "accounts" | "coverage">;
interface OfFormula {
  readonly formula: CompiledFormula;
}

/** Whether a scenario keeps all of a formula's inputs, whatever the months and scope; those that name a scenario apart. */
export function hasInputs({ formula }: OfFormula, scenario: string, ground: Kept): boolean {
  const { views } = shapeOf(formula);
  return formula.inputs.every((input) => views[input.view]!.scenario !== null || keepsInput(input, scenario, ground));
}

/** Whether a scenario keeps all that a formula reads in one of its views. */
export function viewHasInputs({ formula }: OfFormula, view: number, scenario: string, ground: Kept): boolean {
  return formula.inputs.every((input) => input.view !== view || keepsInput(input, scenario, ground));
}

function keepsInput(input: FormulaInput, scenario: string, ground: Kept): boolean {
  switch (input.kind) {
    case "account":
      return keptLeaves(ground.coverage, scenario, ground.accounts.leaves.get(input.account)!).isWhole;
    case "monthly":
    case "outlook":
      return hasInputs(input, scenario, ground);
    case "clock":
    case "member":
      return true;
  }
}
