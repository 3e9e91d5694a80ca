import { tidyStep } from "../step-kind.ts";
import { columns, whole } from "../settings.ts";
import { MOST_DECIMALS } from "../rounded.ts";
import { rounded } from "../rounded.ts";
import { nameColumns, rewriteCells } from "../step-run.ts";

/** Numbers rounded to some decimals, halves away from zero. What is no number stays, for the checks to find. */
export const toDecimal = tidyStep(
  "to-decimal",
  { columns: columns(), decimals: whole("Decimals", { min: 0, max: MOST_DECIMALS }) },
  {
    name: "Round to decimals",
    note: "halves away from zero",
    fresh: () => ({ columns: [], decimals: 2 }),
    needs: (step) => step.columns,
    changes: (step) => step.columns,
    start: (step, columns, { mark }) => rewriteCells(columns, step.columns, rounded(step.decimals, mark)),
    say: (step) => `Make ${nameColumns(step.columns)} numbers with ${step.decimals} decimals`,
  },
);
