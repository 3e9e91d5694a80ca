import { tidyStep } from "../step-kind.ts";
import { columns } from "../settings.ts";
import { nameColumns, rewriteCells } from "../step-run.ts";

/** Texts, as a person reads them: no guess is made at numbers or dates, and only spaces at the ends go. */
export const toText = tidyStep(
  "to-text",
  { columns: columns() },
  {
    name: "Make texts",
    note: "numbers that are codes",
    fresh: () => ({ columns: [] }),
    needs: (step) => step.columns,
    changes: (step) => step.columns,
    start: (step, columns) => rewriteCells(columns, step.columns, (text) => text.trim().replace(/^(-?\d+)\.0+$/, "$1")),
    say: (step) => `Make ${nameColumns(step.columns)} texts`,
  },
);
