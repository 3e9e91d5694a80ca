import { tidyStep } from "../step-kind.ts";
import { column, text, texts } from "../settings.ts";

/** Splits a column's texts at a sign; the last new column takes what is left. */
export const split = tidyStep(
  "split",
  {
    column: column(),
    at: text("Separator", { max: 20, keepsSpaces: true }),
    into: texts("New columns, separated by commas", { min: 2, max: 20 }),
  },
  {
    name: "Split a column",
    note: "at a sign",
    fresh: ({ first }) => ({ column: first, at: " ", into: [`${first} 1`, `${first} 2`] }),
    needs: (step) => [step.column],
    makes: (step) => step.into,
    takesAway: (step) => [step.column],
    problem: (step) => (step.at === "" ? "Say at which sign to split." : null),
    changes: (step) => step.into,
    madeFrom: (step, column) => (step.into.includes(column) ? [step.column] : [column]),
    start: (step, columns) => {
      const place = columns.indexOf(step.column);
      return {
        columns: [...columns.slice(0, place), ...step.into, ...columns.slice(place + 1)],
        take(row, emit) {
          const parts = (row.cells[place] ?? "").split(step.at);
          const into = step.into.map((_, i) =>
            (i < step.into.length - 1 ? (parts[i] ?? "") : parts.slice(i).join(step.at)).trim(),
          );
          const cells = Array.from(columns, (_, i) => row.cells[i] ?? "");
          cells.splice(place, 1, ...into);
          emit({ line: row.line, cells });
        },
      };
    },
    say: (step) => `Split ${step.column} at “${step.at}” into ${step.into.join(", ")}`,
  },
);
