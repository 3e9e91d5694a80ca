import { tidyStep } from "../step-kind.ts";
import { columns } from "../settings.ts";
import { nameColumns, rewriteCells } from "../step-run.ts";

/** Takes away spaces at both ends, and joins runs of spaces inside to one. */
export const trim = tidyStep(
  "trim",
  { columns: columns() },
  {
    name: "Trim spaces",
    note: "at the ends, and double ones inside",
    fresh: () => ({ columns: [] }),
    needs: (step) => step.columns,
    changes: (step) => step.columns,
    start: (step, columns) => rewriteCells(columns, step.columns, (text) => text.replace(/[\s\u00a0]+/g, " ").trim()),
    say: (step) => `Trim spaces in ${nameColumns(step.columns)}`,
  },
);
