import { nameColumns, rewriteCells, type StepOperation } from "../step-run.ts";

/** Takes away spaces at both ends, and joins runs of spaces inside to one. */
export const trim: StepOperation<"trim"> = {
  needs: (step) => step.columns,
  changes: (step) => step.columns,
  start: (step, columns) => rewriteCells(columns, step.columns, (text) => text.replace(/[\s\u00a0]+/g, " ").trim()),
  say: (step) => `Trim spaces in ${nameColumns(step.columns)}`,
};
