import { tidyStep } from "../step-kind.ts";
import { hashRow } from "../../reading/fact-hash.ts";
import { NumberSet } from "../../reading/number-set.ts";

/** Of rows that are identical in every column, the first stays. */
export const dropDoubles = tidyStep(
  "drop-doubles",
  {},
  {
    name: "Drop duplicates",
    note: "rows identical in every column",
    about: "Of rows identical in every column, the first stays.",
    fresh: () => ({}),
    needs: () => [],
    changes: () => [],
    start: (_step, columns) => {
      const seen = new NumberSet();
      return {
        columns,
        take(row, emit) {
          if (seen.add(hashRow(row.cells))) emit(row);
        },
      };
    },
    say: () => "Drop rows that are identical to another in every column",
  },
);
