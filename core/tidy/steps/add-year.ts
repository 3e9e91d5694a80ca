import { monthIndexOf } from "../../reading/month-names.ts";
import { fiscalYearStart } from "../../calendar/fiscal-calendar.ts";
import { formatMonth } from "../../calendar/month.ts";
import { nameColumns, rewriteCells, type StepOperation } from "../step-run.ts";

/** Makes months of bare names of months: those of one fiscal year, told by the year in which it ends. */
export const addYear: StepOperation<"add-year"> = {
  needs: (step) => step.columns,
  changes: (step) => step.columns,
  start: (step, columns, { calendar }) => {
    const start = fiscalYearStart(calendar, step.year);
    return rewriteCells(columns, step.columns, (text) => {
      const index = monthIndexOf(text.trim());
      // The month of that name from the first of the fiscal year on.
      return index === undefined ? undefined : formatMonth(start + ((index - (start % 12) + 12) % 12));
    });
  },
  say: (step) => `Give the months in ${nameColumns(step.columns)} the fiscal year ${step.year}`,
};
