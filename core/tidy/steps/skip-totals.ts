import { tidyStep } from "../step-kind.ts";
import { texts } from "../settings.ts";
import { readNumber } from "../../reading/read-number.ts";

/** Words that total rows begin with. */
export const TOTAL_WORDS = [
  "total",
  "grand total",
  "subtotal",
  "sub-total",
  "sum",
  "summe",
  "gesamt",
  "gesamtsumme",
  "zwischensumme",
  "somme",
  "totaal",
] as const;

/** Drops rows that say they are totals: their first text, numbers apart, is one of the words or begins with it. */
export const skipTotals = tidyStep(
  "skip-totals",
  { words: texts("Words, separated by commas") },
  {
    name: "Skip total rows",
    note: "rows labelled as a total",
    fresh: () => ({ words: TOTAL_WORDS }),
    needs: () => [],
    changes: () => [],
    start: (step, columns) => {
      const words = step.words.map((w) => w.trim().toLowerCase()).filter((w) => w !== "");
      return {
        columns,
        take(row, emit) {
          if (!isTotal(row.cells, words)) emit(row);
        },
      };
    },
    say: (step) =>
      step.words.join() === TOTAL_WORDS.join()
        ? "Skip total rows"
        : `Skip rows that start with ${step.words.join(", ")}`,
  },
);

/** Whether a row says it is a total. Rows with many texts are data, whatever the first one is called. */
export function isTotal(cells: readonly string[], words: readonly string[] = TOTAL_WORDS): boolean {
  const first = cells.find((cell) => cell.trim() !== "");
  if (first === undefined) return false;
  const lower = first.trim().toLowerCase();
  // Most rows are told by their first letters alone; only those that begin like a total are looked at closely.
  if (!words.some((w) => lower === w || lower.startsWith(`${w} `) || lower.startsWith(`${w}:`))) return false;
  const texts = cells.filter((cell) => cell.trim() !== "" && !readNumber(cell, ".") && !readNumber(cell, ","));
  return texts.length <= Math.max(1, cells.length / 3);
}
