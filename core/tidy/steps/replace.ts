import { tidyStep } from "../step-kind.ts";
import { columns, flag, text } from "../settings.ts";
import { nameColumns, rewriteCells } from "../step-run.ts";

/** Replaces a text, or a part of it, as it is written; an empty `find` means empty cells. */
export const replace = tidyStep(
  "replace",
  {
    columns: columns(),
    find: text("Find (nothing: empty cells)"),
    with: text("Replace by"),
    /** Whether the whole cell must be `find`, or only a part of it. */
    whole: flag("only whole cells"),
  },
  {
    name: "Replace a text",
    note: "the whole cell or a part of it",
    fresh: () => ({ columns: [], find: "", with: "", whole: true }),
    needs: (step) => step.columns,
    changes: (step) => step.columns,
    start: (step, columns) =>
      rewriteCells(columns, step.columns, (text) =>
        step.whole || step.find === ""
          ? text === step.find
            ? step.with
            : undefined
          : text.replaceAll(step.find, () => step.with),
      ),
    say: (step) =>
      `Replace ${step.find === "" ? "empty cells" : `“${step.find}”`} by ${step.with === "" ? "nothing" : `“${step.with}”`} in ${nameColumns(step.columns)}`,
  },
);
