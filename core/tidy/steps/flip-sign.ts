import { z } from "zod";
import { tidyStep } from "../step-kind.ts";
import { columns, plainText, plainTexts } from "../settings.ts";
import { readNumber } from "../../reading/read-number.ts";
import { writeDecimal } from "../../reading/write-decimal.ts";
import { nameColumns, rewriteCells } from "../step-run.ts";

/** Turns plus into minus and back; where told, only in rows with certain values. Texts that are no numbers stay. */
export const flipSign = tidyStep(
  "flip-sign",
  {
    columns: columns(),
    /** Only rows whose `column` has one of the values; all rows when `null`. */
    where: z.object({ column: plainText, values: plainTexts }).nullable(),
  },
  {
    name: "Flip the sign",
    note: "plus becomes minus",
    fresh: () => ({ columns: [], where: null }),
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
  },
);
