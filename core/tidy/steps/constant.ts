import { tidyStep } from "../step-kind.ts";
import { text } from "../settings.ts";

/** A new column that says the same on every row: what the file leaves unsaid. */
export const constant = tidyStep(
  "constant",
  { into: text("New column"), value: text("On every row") },
  {
    name: "Add a constant",
    note: "the same text on every row",
    fresh: () => ({ into: "Added", value: "" }),
    needs: () => [],
    makes: (step) => [step.into],
    changes: (step) => [step.into],
    madeFrom: (step, column) => (column === step.into ? [] : [column]),
    start: (step, columns) => ({
      columns: [...columns, step.into],
      take(row, emit) {
        emit({ line: row.line, cells: [...Array.from(columns, (_, i) => row.cells[i] ?? ""), step.value] });
      },
    }),
    say: (step) => `Add ${step.into}: “${step.value}” on every row`,
  },
);
