import { z } from "zod";
import { tidyStep } from "../step-kind.ts";
import { plainText } from "../settings.ts";
import { MOST_DECIMALS } from "../rounded.ts";
import { readNumber } from "../../reading/read-number.ts";
import type { Decimal } from "../../figures/exact-sum.ts";
import { compileColumns } from "../column-formula.ts";
import { placesOf } from "../step-run.ts";

/**
 * A new column calculated from others on the same row. Where one that it needs is empty the result is too; a text that
 * is no number stands there instead of the result, so that it is found rather than passed over.
 */
export const compute = tidyStep(
  "compute",
  { into: plainText, formula: z.string().max(4000), decimals: z.number().int().min(0).max(MOST_DECIMALS) },
  {
    name: "Compute a column",
    note: "a formula over the other columns",
    fresh: () => ({ into: "Computed", formula: "", decimals: 2 }),
    needs: () => [],
    makes: (step) => [step.into],
    changes: (step) => [step.into],
    madeFrom: (step, column) => (column === step.into ? [] : [column]),
    problem: (step, columns) => {
      const read = compileColumns(step.formula, columns);
      return read.ok ? null : read.problem.message;
    },
    start: (step, columns, { mark }) => {
      const read = compileColumns(step.formula, columns);
      if (!read.ok) throw new RangeError(read.problem.message);
      const formula = read.value;
      const places = placesOf(columns, formula.columns);
      const resultOf = (cells: readonly string[]): string => {
        const numbers: (Decimal | null)[] = [];
        for (const place of places) {
          const text = (cells[place] ?? "").trim();
          const value = text === "" ? null : readNumber(text, mark);
          if (value === undefined) return text;
          numbers.push(value);
        }
        const result = formula.evaluate(numbers, step.decimals) ?? "";
        return mark === "," ? result.replace(".", ",") : result;
      };
      return {
        columns: [...columns, step.into],
        take(row, emit) {
          const cells = Array.from(columns, (_, i) => row.cells[i] ?? "");
          emit({ line: row.line, cells: [...cells, resultOf(cells)] });
        },
      };
    },
    say: (step) => `Compute ${step.into} = ${step.formula}`,
  },
);
