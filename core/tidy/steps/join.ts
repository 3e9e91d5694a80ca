import { tidyStep } from "../step-kind.ts";
import { columns, text } from "../settings.ts";
import { placesOf } from "../step-run.ts";

/** Joins the texts of columns into a new one in the first one's place; empty texts are left out. */
export const join = tidyStep(
  "join",
  {
    columns: columns(),
    with: text("Text between them", { max: 20, keepsSpaces: true }),
    into: text("New column"),
  },
  {
    name: "Join columns",
    note: "for example year and month",
    fresh: () => ({ columns: [], with: " ", into: "Joined" }),
    needs: (step) => step.columns,
    makes: (step) => [step.into],
    takesAway: (step) => step.columns,
    changes: (step) => [step.into],
    madeFrom: (step, column) => (column === step.into ? step.columns : [column]),
    start: (step, columns) => {
      const places = placesOf(columns, step.columns);
      const first = Math.min(...places);
      const rest = columns.map((_, i) => i).filter((i) => !places.includes(i));
      const before = rest.filter((i) => i < first);
      const after = rest.filter((i) => i > first);
      return {
        columns: [...before.map((i) => columns[i]!), step.into, ...after.map((i) => columns[i]!)],
        take(row, emit) {
          const cell = (i: number) => row.cells[i] ?? "";
          const joined = places
            .map((i) => cell(i).trim())
            .filter((text) => text !== "")
            .join(step.with);
          emit({ line: row.line, cells: [...before.map(cell), joined, ...after.map(cell)] });
        },
      };
    },
    say: (step) => `Join ${step.columns.join(" and ")} into ${step.into}`,
  },
);
