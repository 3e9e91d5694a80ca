import { tidyStep } from "../step-kind.ts";
import { columns, whole } from "../settings.ts";
import { monthIndexOf } from "../../reading/month-names.ts";
import { fiscalYearStart } from "../../calendar/fiscal-calendar.ts";
import { formatMonth } from "../../calendar/month.ts";
import { nameColumns, rewriteCells } from "../step-run.ts";

/** Makes months of bare names of months: those of one fiscal year, told by the year in which it ends. */
export const addYear = tidyStep(
  "add-year",
  {
    columns: columns(),
    year: whole("The fiscal year, by the year in which it ends", { min: 1900, max: 2200 }),
  },
  {
    name: "Give months a year",
    note: "names of months without one",
    fresh: ({ thisYear }) => ({ columns: [], year: thisYear }),
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
  },
);
