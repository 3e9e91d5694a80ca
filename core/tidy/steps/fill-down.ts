import { tidyStep } from "../step-kind.ts";
import { columns } from "../settings.ts";
import type { TidyRow } from "../row.ts";
import { nameColumns, placesOf } from "../step-run.ts";

/** Fills empty cells with the last text above them. */
export const fillDown = tidyStep(
  "fill-down",
  { columns: columns() },
  {
    name: "Fill down",
    note: "empty cells take the text above",
    fresh: () => ({ columns: [] }),
    needs: (step) => step.columns,
    changes: (step) => step.columns,
    start: (step, columns) => {
      const places = placesOf(columns, step.columns);
      const above = places.map(() => "");
      return {
        columns,
        take(row: TidyRow, emit) {
          let cells: string[] | undefined;
          places.forEach((place, i) => {
            const text = row.cells[place] ?? "";
            if (text.trim() !== "") above[i] = text;
            else if (above[i] !== "") (cells ??= [...row.cells])[place] = above[i]!;
          });
          emit(cells ? { line: row.line, cells } : row);
        },
      };
    },
    say: (step) => `Fill empty cells of ${nameColumns(step.columns)} from above`,
  },
);
