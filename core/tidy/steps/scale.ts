import { tidyStep } from "../step-kind.ts";
import { columns, numberChoice } from "../settings.ts";
import { SCALE_WORDS, SCALES } from "../scales.ts";
import { readNumber } from "../../reading/read-number.ts";
import { writeDecimal } from "../../reading/write-decimal.ts";
import { nameColumns, rewriteCells } from "../step-run.ts";

/** Writes amounts in full that are kept in hundreds, thousands or millions, to the last digit. Texts that are no numbers stay. */
export const scale = tidyStep(
  "scale",
  { columns: columns(), by: numberChoice("Times", SCALES) },
  {
    name: "Write in full",
    note: "amounts in thousands or millions",
    fresh: () => ({ columns: [], by: 1000 as const }),
    needs: (step) => step.columns,
    changes: (step) => step.columns,
    start: (step, columns, { mark }) =>
      rewriteCells(columns, step.columns, (text) => {
        const value = readNumber(text, mark);
        if (!value) return undefined;
        // The point moves; where there are not decimals enough, noughts follow.
        const digits = String(step.by).length - 1;
        const moved = Math.max(0, value.decimals - digits);
        const units = value.units * 10 ** (digits - (value.decimals - moved));
        return Number.isSafeInteger(units) ? writeDecimal({ units, decimals: moved }, mark) : undefined;
      }),
    say: (step) => `Multiply ${nameColumns(step.columns)} by ${SCALE_WORDS[step.by]}`,
  },
);
