import type { RowTest } from "../step.ts";
import type { StepOperation } from "../step-run.ts";

/** Keeps or drops the rows that a column's text tells; letters' case and spaces at the ends do not count. */
export const filter: StepOperation<"filter"> = {
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
};

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
