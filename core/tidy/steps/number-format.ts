import { readNumber } from "../../reading/read-number.ts";
import { writeDecimal } from "../../reading/write-decimal.ts";
import { nameColumns, rewriteCells, type StepOperation } from "../step-run.ts";

/** Numbers of columns that are written otherwise than the rest of the file, written as the rest is. */
export const numberFormat: StepOperation<"number-format"> = {
  needs: (step) => step.columns,
  changes: (step) => step.columns,
  start: (step, columns, { mark }) =>
    rewriteCells(columns, step.columns, (text) => {
      const value = readNumber(text, step.mark);
      return value && writeDecimal(value, mark);
    }),
  say: (step) => `Read ${nameColumns(step.columns)} as numbers like ${step.mark === "," ? "1.234,56" : "1,234.56"}`,
};
