import { tidyStep } from "../step-kind.ts";
import { columns } from "../settings.ts";
import { rounded } from "../rounded.ts";
import { nameColumns, rewriteCells } from "../step-run.ts";

/** Whole numbers, halves away from zero. */
export const toWhole = tidyStep(
  "to-whole",
  { columns: columns() },
  {
    name: "Round to whole numbers",
    note: "halves away from zero",
    fresh: () => ({ columns: [] }),
    needs: (step) => step.columns,
    changes: (step) => step.columns,
    start: (step, columns, { mark }) => rewriteCells(columns, step.columns, rounded(0, mark)),
    say: (step) => `Round ${nameColumns(step.columns)} to whole numbers`,
  },
);
