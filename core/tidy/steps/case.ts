import { tidyStep } from "../step-kind.ts";
import { choice, columns } from "../settings.ts";
import { nameColumns, rewriteCells } from "../step-run.ts";

/** Writes texts in upper, lower or title case. */
export const changeCase = tidyStep(
  "case",
  {
    columns: columns(),
    to: choice("Write them in", [
      ["title", "Title Case"],
      ["upper", "UPPER CASE"],
      ["lower", "lower case"],
    ]),
  },
  {
    name: "Change case",
    note: "upper, lower or title case",
    fresh: () => ({ columns: [], to: "title" as const }),
    needs: (step) => step.columns,
    changes: (step) => step.columns,
    start: (step, columns) => rewriteCells(columns, step.columns, WRITE[step.to]),
    say: (step) => `Write ${nameColumns(step.columns)} in ${step.to} case`,
  },
);

const WRITE = {
  upper: (text: string) => text.toUpperCase(),
  lower: (text: string) => text.toLowerCase(),
  title: (text: string) =>
    text
      .toLowerCase()
      .replace(/(^|[^\p{L}\p{M}'’])(\p{L})/gu, (_, gap: string, letter: string) => gap + letter.toUpperCase()),
} as const;
