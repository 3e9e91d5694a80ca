import { tidyStep } from "../step-kind.ts";
import { choice, columns } from "../settings.ts";
import { readNumber } from "../../reading/read-number.ts";
import { writeDecimal } from "../../reading/write-decimal.ts";
import { nameColumns, rewriteCells } from "../step-run.ts";

/** Numbers of columns that are written otherwise than the rest of the file, written as the rest is. */
export const numberFormat = tidyStep(
  "number-format",
  {
    columns: columns(),
    mark: choice("Numbers like", [
      [",", "1.234,56"],
      [".", "1,234.56"],
    ]),
  },
  {
    name: "Number format",
    note: "1.234,56 beside 1,234.56",
    fresh: () => ({ columns: [], mark: "," as const }),
    needs: (step) => step.columns,
    changes: (step) => step.columns,
    start: (step, columns, { mark }) =>
      rewriteCells(columns, step.columns, (text) => {
        const value = readNumber(text, step.mark);
        return value && writeDecimal(value, mark);
      }),
    say: (step) => `Read ${nameColumns(step.columns)} as numbers like ${step.mark === "," ? "1.234,56" : "1,234.56"}`,
  },
);
