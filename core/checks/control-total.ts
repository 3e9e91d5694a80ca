import { readNumber, type DecimalMark } from "../reading/read-number.ts";
import { writeDecimal } from "../reading/write-decimal.ts";
import type { StepEffect } from "../tidy/tidy-run.ts";
import type { TidyStep } from "../tidy/steps/index.ts";

const CONTROL_WORDS = /\b(control|check)\b|\b(sum|total)\b/i;

/** The control figure a file's preamble states ("Control total: (1,234.50)"), as a plain decimal. */
export function statedControl(preamble: readonly (readonly string[])[], mark: DecimalMark): string | null {
  for (const cells of preamble) {
    const at = cells.findIndex((cell) => CONTROL_WORDS.test(cell));
    if (at < 0) continue;
    const behind = /[:=]\s*(.+)$/.exec(cells[at]!)?.[1];
    for (const text of [...(behind ? [behind] : []), ...cells.slice(at + 1)]) {
      const value = readNumber(text, mark);
      if (value) return writeDecimal(value, ".");
    }
  }
  return null;
}

/** The figure of a file's one total row, where a step skipped it; `null` when there is none or several. */
export function totalRowControl(
  steps: readonly TidyStep[],
  effects: readonly StepEffect[],
  {
    columns,
    amountColumns,
    mark,
  }: { columns: readonly (readonly string[])[]; amountColumns: readonly (readonly string[])[]; mark: DecimalMark },
): string | null {
  const i = steps.findIndex((step) => step.kind === "skip-totals");
  const effect = effects[i];
  const watched = amountColumns[i];
  if (!effect || effect.changed !== 1 || watched?.length !== 1) return null;
  const value = readNumber(effect.examples[0]?.before[columns[i]!.indexOf(watched[0]!)] ?? "", mark);
  return value ? writeDecimal(value, ".") : null;
}
