import { z } from "zod";
import { plainText, plainTexts, text } from "../settings.ts";
import { tidyStep } from "../step-kind.ts";
import { nameColumns, placesOf } from "../step-run.ts";

const turnedColumn = z.object({ name: plainText, texts: plainTexts });

/**
 * Makes a row of each of the columns, as `unpivot` does, where their headings say several things at once: each column
 * brings one text for each of the new columns, such as a month, a scenario and an account.
 */
export const turn = tidyStep(
  "turn",
  {
    turned: z.array(turnedColumn).max(2000).readonly(),
    into: plainTexts,
    valueInto: text("Column for their values"),
  },
  {
    name: "Turn columns into rows by their headings",
    note: "months, scenarios and accounts in one heading",
    about: "What each heading says becomes columns of its own.",
    isOffered: false,
    fresh: () => ({ turned: [], into: ["Period"], valueInto: "Amount" }),
    needs: (step) => step.turned.map(({ name }) => name),
    makes: (step) => [...step.into, step.valueInto],
    takesAway: (step) => step.turned.map(({ name }) => name),
    changes: (step) => [...step.into, step.valueInto],
    madeFrom: (step, column) =>
      column === step.valueInto ? step.turned.map(({ name }) => name) : step.into.includes(column) ? [] : [column],
    start: (step, columns) => {
      const places = placesOf(
        columns,
        step.turned.map(({ name }) => name),
      );
      const turned = new Set(places);
      const stay = columns.map((_, i) => i).filter((i) => !turned.has(i));
      const texts = step.turned.map(({ texts: own }) => step.into.map((_, i) => own[i] ?? ""));
      return {
        columns: [...stay.map((i) => columns[i]!), ...step.into, step.valueInto],
        take(row, emit) {
          const kept = stay.map((i) => row.cells[i] ?? "");
          places.forEach((place, i) => {
            const value = row.cells[place] ?? "";
            if (value.trim() !== "") emit({ line: row.line, cells: [...kept, ...texts[i]!, value] });
          });
        },
      };
    },
    say: (step) =>
      `Turn ${nameColumns(step.turned.map(({ name }) => name))} into rows of ${[...step.into, step.valueInto].join(", ")}`,
  },
);
