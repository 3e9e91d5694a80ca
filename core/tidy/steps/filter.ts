import { z } from "zod";
import { tidyStep } from "../step-kind.ts";
import { column, plainTexts } from "../settings.ts";

/** How a row is told by the text in a column. */
export const ROW_TESTS = ["is", "is not", "contains", "begins with", "is empty", "is not empty"] as const;
type RowTest = (typeof ROW_TESTS)[number];

/** Keeps or drops the rows that a column's text tells; letters' case and spaces at the ends do not count. */
export const filter = tidyStep(
  "filter",
  { column: column(), test: z.enum(ROW_TESTS), keep: z.boolean(), values: plainTexts },
  {
    name: "Keep or drop rows",
    note: "by the text in a column",
    fresh: ({ first }) => ({ keep: false, column: first, test: "is" as const, values: [] }),
    needs: (step) => [step.column],
    changes: () => [],
    start: (step, columns) => {
      const place = columns.indexOf(step.column);
      const values = step.values.map(plain);
      return {
        columns,
        take(row, emit) {
          if (passes(plain(row.cells[place] ?? ""), step.test, values) === step.keep) emit(row);
        },
      };
    },
    say: (step) =>
      `${step.keep ? "Keep only" : "Drop"} rows where ${step.column} ${step.test}${step.test.endsWith("empty") ? "" : ` ${step.values.map((v) => `“${v}”`).join(" or ")}`}`,
  },
);

function plain(text: string): string {
  return text.trim().toLowerCase();
}

function passes(text: string, test: RowTest, values: readonly string[]): boolean {
  switch (test) {
    case "is":
      return values.includes(text);
    case "is not":
      return !values.includes(text);
    case "contains":
      return values.some((v) => text.includes(v));
    case "begins with":
      return values.some((v) => text.startsWith(v));
    case "is empty":
      return text === "";
    case "is not empty":
      return text !== "";
  }
}
