import { z } from "zod";
import type { FreshStep, StepKind } from "../step-kind.ts";
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
import { join } from "./join.ts";
import { lookUp } from "./look-up.ts";
import { mergeDuplicates } from "./merge-duplicates.ts";
import { numberFormat } from "./number-format.ts";
import { replace } from "./replace.ts";
import { scale } from "./scale.ts";
import { skipNotes } from "./skip-notes.ts";
import { skipSums } from "./skip-sums.ts";
import { skipTotals } from "./skip-totals.ts";
import { split } from "./split.ts";
import { toDate } from "./to-date.ts";
import { toDecimal } from "./to-decimal.ts";
import { toText } from "./to-text.ts";
import { makePeriod } from "./make-period.ts";
import { sections } from "./sections.ts";
import { turn } from "./turn.ts";
import { toWhole } from "./to-whole.ts";
import { trim } from "./trim.ts";
import { unpivot } from "./unpivot.ts";

/** Every kind of step, in the order in which they are offered. */
export const TIDY_STEPS = {
  filter,
  "skip-totals": skipTotals,
  "skip-notes": skipNotes,
  "skip-sums": skipSums,
  unpivot,
  turn,
  sections,
  "make-period": makePeriod,
  "fill-down": fillDown,
  replace,
  trim,
  case: changeCase,
  split,
  join,
  "flip-sign": flipSign,
  "number-format": numberFormat,
  compute,
  "look-up": lookUp,
  constant,
  scale,
  duration,
  difference,
  "drop-doubles": dropDoubles,
  "merge-duplicates": mergeDuplicates,
  "to-whole": toWhole,
  "to-decimal": toDecimal,
  "add-year": addYear,
  "to-date": toDate,
  "to-text": toText,
} as const;

type Kinds = typeof TIDY_STEPS;

/** The steps' kinds. */
export type TidyKind = keyof Kinds;

/** A step of one kind. */
export type StepOf<K extends TidyKind> = z.infer<Kinds[K]["schema"]>;

/** One change made to a file's rows on the way in. */
export type TidyStep = { [K in TidyKind]: StepOf<K> }[TidyKind];

export const TIDY_KINDS = Object.keys(TIDY_STEPS) as TidyKind[];

/** The kinds that a person can start by hand. */
export const OFFERED_KINDS = TIDY_KINDS.filter((kind) => stepKind(kind).isOffered !== false);

const schemas = TIDY_KINDS.map((kind) => TIDY_STEPS[kind].schema);

/** Any step, as it is stored and crosses the wire. */
export const tidyStepSchema = z.discriminatedUnion(
  "kind",
  schemas as [(typeof schemas)[number]],
) as unknown as z.ZodType<TidyStep, TidyStep>;

/** What there is to know of a step's kind: the one place where a kind known at run time only meets the types of its own. */
export function stepKind(kind: TidyKind): StepKind<TidyStep> & { readonly schema: z.ZodObject } {
  return TIDY_STEPS[kind] as never;
}

/** A step of a kind to start from. */
export function newStep(kind: TidyKind, of: FreshStep): TidyStep {
  return { kind, ...stepKind(kind).fresh(of) } as TidyStep;
}

/** The step in words. */
export function sayStep(step: TidyStep): string {
  return stepKind(step.kind).say(step);
}
