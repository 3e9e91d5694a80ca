import { nameColumns, rewriteCells, type StepOperation } from "../step-run.ts";

/** Writes texts in upper, lower or title case. */
export const changeCase: StepOperation<"case"> = {
  needs: (step) => step.columns,
  changes: (step) => step.columns,
  start: (step, columns) => rewriteCells(columns, step.columns, WRITE[step.to]),
  say: (step) => `Write ${nameColumns(step.columns)} in ${step.to} case`,
};

const WRITE = {
  upper: (text: string) => text.toUpperCase(),
  lower: (text: string) => text.toLowerCase(),
  title: (text: string) =>
    text
      .toLowerCase()
      .replace(/(^|[^\p{L}\p{M}'’])(\p{L})/gu, (_, gap: string, letter: string) => gap + letter.toUpperCase()),
} as const;
