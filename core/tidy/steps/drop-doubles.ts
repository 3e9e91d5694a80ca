import { hashRow } from "../../checks/fact-hash.ts";
import { NumberSet } from "../../checks/number-set.ts";
import type { StepOperation } from "../step-run.ts";

/** Of rows that are alike in every column, the first stays. */
export const dropDoubles: StepOperation<"drop-doubles"> = {
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
  say: () => "Drop rows that stand twice, alike in every column",
};
