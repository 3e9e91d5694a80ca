import { z } from "zod";
import { tidyStep } from "../step-kind.ts";
import { columns, numberChoice, plainText, plainTexts } from "../settings.ts";
import { SCALE_WORDS, SCALES } from "../scales.ts";
import { readNumber } from "../../reading/read-number.ts";
import { writeDecimal } from "../../reading/write-decimal.ts";
import { nameColumns, rewriteCells, type StepRun } from "../step-run.ts";
import { listed } from "../../formats/listed.ts";
import { plainName } from "../../reading/names.ts";

/** Writes amounts in full that are kept in hundreds, thousands or millions, to the last digit. Texts that are no numbers stay. */
export const scale = tidyStep(
  "scale",
  {
    columns: columns(),
    by: numberChoice("Times", SCALES),
    /** Rows whose `column` has one of the values stay as they are: what is counted is not counted in thousands. */
    except: z.object({ column: plainText, values: plainTexts }).optional(),
  },
  {
    name: "Write in full",
    note: "amounts in thousands or millions",
    fresh: () => ({ columns: [], by: 1000 as const, except: undefined }),
    needs: (step) => [...step.columns, ...(step.except ? [step.except.column] : [])],
    changes: (step) => step.columns,
    start: (step, columns, { mark }) =>
      exceptRows(
        step.except,
        columns,
        rewriteCells(columns, step.columns, (text) => {
          const value = readNumber(text, mark);
          if (!value) return undefined;
          // The point moves; where there are not decimals enough, noughts follow.
          const digits = String(step.by).length - 1;
          const moved = Math.max(0, value.decimals - digits);
          const units = value.units * 10 ** (digits - (value.decimals - moved));
          return Number.isSafeInteger(units) ? writeDecimal({ units, decimals: moved }, mark) : undefined;
        }),
      ),
    say: (step) =>
      `Multiply ${nameColumns(step.columns)} by ${SCALE_WORDS[step.by]}${step.except ? `, except where ${step.except.column} is ${listed(step.except.values, "or")}` : ""}`,
  },
);

/** A run that leaves rows with certain values alone. */
function exceptRows(
  except: { readonly column: string; readonly values: readonly string[] } | undefined,
  columns: readonly string[],
  run: StepRun,
): StepRun {
  if (!except) return run;
  const place = columns.indexOf(except.column);
  const values = new Set(except.values.map(plainName));
  return {
    columns,
    take: (row, emit) => (values.has(plainName(row.cells[place] ?? "")) ? emit(row) : run.take(row, emit)),
  };
}
