import { nameColumns, rewriteCells, type StepOperation } from "../step-run.ts";

/** Replaces a text, or a part of it, as it is written; an empty `find` means empty cells. */
export const replace: StepOperation<"replace"> = {
  needs: (step) => step.columns,
  changes: (step) => step.columns,
  start: (step, columns) =>
    rewriteCells(columns, step.columns, (text) =>
      step.whole || step.find === ""
        ? text === step.find
          ? step.with
          : undefined
        : text.replaceAll(step.find, () => step.with),
    ),
  say: (step) =>
    `Replace ${step.find === "" ? "empty cells" : `“${step.find}”`} by ${step.with === "" ? "nothing" : `“${step.with}”`} in ${nameColumns(step.columns)}`,
};
