import { formatMonth } from "../../calendar/month.ts";
import { readDate } from "../../reading/read-date.ts";
import { readNumber, roundUnits, type DecimalMark } from "../../reading/read-number.ts";
import { writeDecimal } from "../../reading/write-decimal.ts";
import { nameColumns, rewriteCells, type StepOperation } from "../step-run.ts";

/** Numbers rounded to some decimals, halves away from zero. What is no number stays, for the checks to find. */
export const toDecimal: StepOperation<"to-decimal"> = {
  needs: (step) => step.columns,
  changes: (step) => step.columns,
  start: (step, columns, { mark }) => rewriteCells(columns, step.columns, rounded(step.decimals, mark)),
  say: (step) => `Make ${nameColumns(step.columns)} numbers with ${step.decimals} decimals`,
};

/** Whole numbers, halves away from zero. */
export const toWhole: StepOperation<"to-whole"> = {
  needs: (step) => step.columns,
  changes: (step) => step.columns,
  start: (step, columns, { mark }) => rewriteCells(columns, step.columns, rounded(0, mark)),
  say: (step) => `Round ${nameColumns(step.columns)} to whole numbers`,
};

/** Texts, as a person reads them: no guess is made at numbers or dates, and only spaces at the ends go. */
export const toText: StepOperation<"to-text"> = {
  needs: (step) => step.columns,
  changes: (step) => step.columns,
  start: (step, columns) => rewriteCells(columns, step.columns, (text) => text.trim().replace(/^(-?\d+)\.0+$/, "$1")),
  say: (step) => `Make ${nameColumns(step.columns)} texts`,
};

/** Dates in the ISO form. What is no date in the given format stays, for the checks to find. */
export const toDate: StepOperation<"to-date"> = {
  needs: (step) => step.columns,
  changes: (step) => step.columns,
  start: (step, columns, { calendar }) =>
    rewriteCells(columns, step.columns, (text) => {
      const date = readDate(text, step.format, calendar);
      if (!date) return undefined;
      return formatMonth(date.month) + (date.day === null ? "" : `-${String(date.day).padStart(2, "0")}`);
    }),
  say: (step) => `Make ${nameColumns(step.columns)} dates (${step.format})`,
};

function rounded(decimals: number, mark: DecimalMark): (text: string) => string | undefined {
  return (text) => {
    const value = readNumber(text, mark);
    const units = value && roundUnits(value, decimals);
    return units === undefined ? undefined : writeDecimal({ units, decimals }, mark);
  };
}
