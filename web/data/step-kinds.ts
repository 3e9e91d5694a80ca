import type { Definition } from "#contract/intake.ts";
import { TOTAL_WORDS } from "#core/tidy/steps/skip-totals.ts";

export type Step = Definition["rules"]["steps"][number];
export type StepKind = Step["kind"];

/** The kinds of steps a person can add, in the words of the list. */
export const STEP_KINDS: readonly { kind: StepKind; name: string; note: string }[] = [
  { kind: "filter", name: "Keep or drop rows", note: "by the text in a column" },
  { kind: "skip-totals", name: "Skip total rows", note: "rows that call themselves a total" },
  { kind: "skip-notes", name: "Skip notes", note: "rows with nothing but one text" },
  { kind: "skip-sums", name: "Skip subtotals", note: "rows that are the sums of those above" },
  { kind: "unpivot", name: "Turn columns into rows", note: "months or scenarios laid out as columns" },
  { kind: "fill-down", name: "Fill down", note: "empty cells take the text above" },
  { kind: "replace", name: "Replace a text", note: "the whole cell or a part of it" },
  { kind: "trim", name: "Trim spaces", note: "at the ends, and double ones inside" },
  { kind: "case", name: "Change case", note: "upper, lower or title case" },
  { kind: "split", name: "Split a column", note: "at a sign" },
  { kind: "join", name: "Join columns", note: "for example year and month" },
  { kind: "flip-sign", name: "Flip the sign", note: "plus becomes minus" },
  { kind: "number-format", name: "Read numbers otherwise", note: "1.234,56 beside 1,234.56" },
  { kind: "compute", name: "Compute a column", note: "a formula over the other columns" },
  { kind: "look-up", name: "Look up", note: "names or classes in another file or sheet" },
  { kind: "constant", name: "Add a constant", note: "the same text on every row" },
  { kind: "scale", name: "Write in full", note: "amounts in thousands or millions" },
  { kind: "duration", name: "Durations as numbers", note: "1:30:00 as 1.5 hours" },
  { kind: "difference", name: "Take differences", note: "of running balances, or of years to date" },
  { kind: "drop-doubles", name: "Drop doubles", note: "rows alike in every column" },
  { kind: "merge-duplicates", name: "Merge duplicates", note: "rows alike but for their amounts" },
  { kind: "to-whole", name: "Round to whole numbers", note: "halves away from zero" },
  { kind: "to-decimal", name: "Round to decimals", note: "halves away from zero" },
  { kind: "add-year", name: "Give months a year", note: "names of months without one" },
  { kind: "to-date", name: "Make dates", note: "from one way of writing them" },
  { kind: "to-text", name: "Make texts", note: "numbers that are codes" },
];

/** A step of a kind to start from. */
export function newStep(kind: StepKind, columns: readonly string[]): Step {
  const first = columns[0] ?? "";
  switch (kind) {
    case "trim":
    case "fill-down":
    case "to-text":
    case "to-whole":
    case "skip-sums":
      return { kind, columns: [] };
    case "duration":
      return { kind, columns: [], in: "hours" };
    case "difference":
      return { kind, column: first, by: [], into: "Change" };
    case "case":
      return { kind, columns: [], to: "title" };
    case "replace":
      return { kind, columns: [], find: "", with: "", whole: true };
    case "split":
      return { kind, column: first, at: " ", into: [`${first} 1`, `${first} 2`] };
    case "join":
      return { kind, columns: [], with: " ", into: "Joined" };
    case "filter":
      return { kind, keep: false, column: first, test: "is", values: [] };
    case "skip-totals":
      return { kind, words: [...TOTAL_WORDS] };
    case "flip-sign":
      return { kind, columns: [], where: null };
    case "add-year":
      return { kind, columns: [], year: new Date().getFullYear() };
    case "number-format":
      return { kind, columns: [], mark: "," };
    case "skip-notes":
    case "drop-doubles":
      return { kind };
    case "constant":
      return { kind, into: "Added", value: "" };
    case "compute":
      return { kind, into: "Computed", formula: "", decimals: 2 };
    case "look-up":
      return { kind, table: "", named: "", column: first, by: "", take: [] };
    case "scale":
      return { kind, columns: [], by: 1000 };
    case "unpivot":
      return { kind, columns: [], nameInto: "Period", valueInto: "Amount" };
    case "merge-duplicates":
      return { kind, sum: [] };
    case "to-decimal":
      return { kind, columns: [], decimals: 2 };
    case "to-date":
      return { kind, columns: [], format: "day-first" };
  }
}
