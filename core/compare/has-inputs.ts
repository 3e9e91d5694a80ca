import { keptLeaves } from "../cube/coverage.ts";
import type { CompiledFormula } from "../formula/node.ts";
import { shapeOf } from "./formula-shape.ts";
import type { MeasureGround } from "./measure-ground.ts";

/** Whether a scenario keeps all of a formula's inputs, whatever the months and scope. */
export function hasInputs(
  { formula }: { readonly formula: CompiledFormula },
  scenario: string,
  frame: Pick<MeasureGround, "accounts" | "coverage">,
): boolean {
  const { views } = shapeOf(formula);
  return formula.inputs.every((input) => {
    if (views[input.view]!.scenario !== null) return true;
    switch (input.kind) {
      case "account":
        return keptLeaves(frame.coverage, scenario, frame.accounts.leaves.get(input.account)!).isWhole;
      case "monthly":
      case "outlook":
        return hasInputs(input, scenario, frame);
      case "clock":
      case "member":
        return true;
    }
  });
}
