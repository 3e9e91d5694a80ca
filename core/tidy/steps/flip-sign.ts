import { readNumber } from "../../reading/read-number.ts";
import { writeDecimal } from "../../reading/write-decimal.ts";
import { nameColumns, rewriteCells, type StepOperation } from "../step-run.ts";

/** Turns plus into minus and back; where told, only in rows with certain values. Texts that are no numbers stay. */
export const flipSign: StepOperation<"flip-sign"> = {
  needs: (step) => [...step.columns, ...(step.where ? [step.where.column] : [])],
  changes: (step) => step.columns,
  start: (step, columns, { mark }) => {
    const flip = rewriteCells(columns, step.columns, (text) => {
      const value = readNumber(text, mark);
      return value && writeDecimal({ units: value.units === 0 ? 0 : -value.units, decimals: value.decimals }, mark);
    });
    if (!step.where) return flip;
    const place = columns.indexOf(step.where.column);
    const values = new Set(step.where.values.map((v) => v.trim().toLowerCase()));
    return {
      columns,
      take: (row, emit) =>
        values.has((row.cells[place] ?? "").trim().toLowerCase()) ? flip.take(row, emit) : emit(row),
    };
  },
  say: (step) =>
    `Flip the sign of ${nameColumns(step.columns)}${step.where ? ` where ${step.where.column} is ${step.where.values.join(" or ")}` : ""}`,
};
