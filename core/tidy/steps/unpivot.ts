import { tidyStep } from "../step-kind.ts";
import { columns, text } from "../settings.ts";
import { nameColumns, placesOf } from "../step-run.ts";

/** Makes a row of each of the columns: its name into one new column, its value into another. Empty values make no row. */
export const unpivot = tidyStep(
  "unpivot",
  {
    columns: columns(),
    nameInto: text("Column for their names"),
    valueInto: text("Column for their values"),
  },
  {
    name: "Turn columns into rows",
    note: "months or scenarios laid out as columns",
    fresh: () => ({ columns: [], nameInto: "Period", valueInto: "Amount" }),
    needs: (step) => step.columns,
    makes: (step) => [step.nameInto, step.valueInto],
    takesAway: (step) => step.columns,
    changes: (step) => [step.nameInto, step.valueInto],
    madeFrom: (step, column) => (column === step.valueInto ? step.columns : column === step.nameInto ? [] : [column]),
    start: (step, columns) => {
      const places = placesOf(columns, step.columns);
      const turned = new Set(places);
      const stay = columns.map((_, i) => i).filter((i) => !turned.has(i));
      return {
        columns: [...stay.map((i) => columns[i]!), step.nameInto, step.valueInto],
        take(row, emit) {
          const kept = stay.map((i) => row.cells[i] ?? "");
          for (const place of places) {
            const value = row.cells[place] ?? "";
            if (value.trim() !== "") emit({ line: row.line, cells: [...kept, columns[place]!, value] });
          }
        },
      };
    },
    say: (step) => `Turn ${nameColumns(step.columns)} into rows of ${step.nameInto} and ${step.valueInto}`,
  },
);
