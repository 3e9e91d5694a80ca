import { tidyStep } from "../step-kind.ts";
import { choice, columns } from "../settings.ts";
import { DATE_FORMAT_NAMES } from "../../reading/date-formats.ts";
import { formatMonth } from "../../calendar/month.ts";
import { readDate } from "../../reading/read-date.ts";
import { nameColumns, rewriteCells } from "../step-run.ts";

/** Dates in the ISO form. What is no date in the given format stays, for the checks to find. */
export const toDate = tidyStep(
  "to-date",
  { columns: columns(), format: choice("Written as", DATE_FORMAT_NAMES) },
  {
    name: "Make dates",
    note: "from one way of writing them",
    fresh: () => ({ columns: [], format: "day-first" as const }),
    needs: (step) => step.columns,
    changes: (step) => step.columns,
    start: (step, columns, { calendar }) =>
      rewriteCells(columns, step.columns, (text) => {
        const date = readDate(text, step.format, calendar);
        if (!date) return undefined;
        return formatMonth(date.month) + (date.day === null ? "" : `-${String(date.day).padStart(2, "0")}`);
      }),
    say: (step) => `Make ${nameColumns(step.columns)} dates (${step.format})`,
  },
);
