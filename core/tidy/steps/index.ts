import type { StepOperation } from "../step-run.ts";
import type { StepOf, TidyKind, TidyStep } from "../step.ts";
import { addYear } from "./add-year.ts";
import { changeCase } from "./case.ts";
import { compute } from "./compute.ts";
import { constant } from "./constant.ts";
import { difference } from "./difference.ts";
import { dropDoubles } from "./drop-doubles.ts";
import { duration } from "./duration.ts";
import { fillDown } from "./fill-down.ts";
import { filter } from "./filter.ts";
import { flipSign } from "./flip-sign.ts";
import { scale } from "./scale.ts";
import { join } from "./join.ts";
import { lookUp } from "./look-up.ts";
import { mergeDuplicates } from "./merge-duplicates.ts";
import { numberFormat } from "./number-format.ts";
import { replace } from "./replace.ts";
import { skipNotes } from "./skip-notes.ts";
import { skipSums } from "./skip-sums.ts";
import { skipTotals } from "./skip-totals.ts";
import { split } from "./split.ts";
import { toDate, toDecimal, toText, toWhole } from "./to-type.ts";
import { trim } from "./trim.ts";
import { unpivot } from "./unpivot.ts";

const OPERATIONS: { readonly [K in TidyKind]: StepOperation<K> } = {
  trim,
  case: changeCase,
  replace,
  "fill-down": fillDown,
  split,
  join,
  filter,
  "skip-totals": skipTotals,
  "skip-notes": skipNotes,
  "skip-sums": skipSums,
  duration,
  difference,
  "flip-sign": flipSign,
  scale,
  constant,
  compute,
  "look-up": lookUp,
  "number-format": numberFormat,
  "add-year": addYear,
  unpivot,
  "drop-doubles": dropDoubles,
  "merge-duplicates": mergeDuplicates,
  "to-text": toText,
  "to-decimal": toDecimal,
  "to-whole": toWhole,
  "to-date": toDate,
};

/** The operation of a step. */
export function operationOf<K extends TidyKind>(step: StepOf<K>): StepOperation<K> {
  return OPERATIONS[step.kind];
}

/** The step in words. */
export function sayStep(step: TidyStep): string {
  return operationOf(step).say(step);
}
