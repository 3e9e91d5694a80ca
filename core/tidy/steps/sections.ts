import { text } from "../settings.ts";
import { tidyStep } from "../step-kind.ts";
import { readNumber } from "../../reading/read-number.ts";
import { isTotal } from "./skip-totals.ts";

/** Takes headings that stand alone on a row over to the rows below them, into a column of their own. */
export const sections = tidyStep(
  "sections",
  { into: text("New column") },
  {
    name: "Headings to a column",
    note: "a text alone on a row, for the rows below it",
    fresh: () => ({ into: "Group" }),
    needs: () => [],
    makes: (step) => [step.into],
    changes: () => [],
    madeFrom: (step, column) => (column === step.into ? [] : [column]),
    start: (step, columns) => {
      let heading = "";
      return {
        columns: [...columns, step.into],
        take(row, emit) {
          const only = headingOn(row.cells);
          if (only !== undefined) heading = only;
          else
            emit({
              line: row.line,
              cells: [...columns.map((_, i) => row.cells[i] ?? ""), isTotal(row.cells) ? "" : heading],
            });
        },
      };
    },
    say: (step) => `Take headings that stand alone on a row into ${step.into}`,
  },
);

/** The text of a row on which nothing else stands; `undefined` of every other row. */
export function headingOn(cells: readonly string[]): string | undefined {
  const filled = cells.filter((cell) => cell.trim() !== "");
  const [only] = filled;
  if (filled.length !== 1 || only === undefined) return undefined;
  // A number alone in the first column is a member's.
  if (/^\d{2,10}$/.test(only.trim())) return cells[0] === only ? only.trim() : undefined;
  if (!/\p{L}/u.test(only)) return undefined;
  return readNumber(only, ".") || readNumber(only, ",") ? undefined : only.trim();
}
