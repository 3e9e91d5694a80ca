import { z } from "zod";
import type { StepRun, TidyContext } from "./step-run.ts";

/** What a new step is made from: the file's first column, and the year it is. */
export interface FreshStep {
  readonly first: string;
  readonly thisYear: number;
}

/**
 * One kind of step: what it is called, its settings, which columns it names, what it may change, how it runs, and how it
 * is said.
 */
export interface StepKind<Step> {
  readonly name: string;
  /** What it is for, in a few words. */
  readonly note: string;
  /** What is said in the place of settings, where there are none. */
  readonly about?: string;
  /** `false` where it is proposed from a file's headings alone, and no person starts it by hand. */
  readonly isOffered?: boolean;
  fresh(of: FreshStep): { readonly [Setting in Exclude<keyof Step, "kind">]: Step[Setting] };
  /** Columns that must be there. */
  needs(step: Step): readonly string[];
  /** New columns it makes, and those that go with it. */
  makes?(step: Step): readonly string[];
  takesAway?(step: Step): readonly string[];
  /** What else stands in its way on these columns, with the way out. */
  problem?(step: Step, columns: readonly string[], context: TidyContext): string | null;
  /** Columns whose texts it may change. Rows are counted anyway. */
  changes(step: Step): readonly string[];
  /** Columns of its result that `column` of its result is made of; itself unless the step made it. */
  madeFrom?(step: Step, column: string): readonly string[];
  start(step: Step, columns: readonly string[], context: TidyContext): StepRun;
  say(step: Step): string;
}

type SchemaOf<Kind extends string, Settings extends z.core.$ZodShape> = z.ZodObject<
  { readonly kind: z.ZodLiteral<Kind> } & Settings
>;

/** A kind of step with the schema that its settings make. */
export type DeclaredStep<Kind extends string, Settings extends z.core.$ZodShape> = StepKind<
  z.infer<SchemaOf<Kind, Settings>>
> & { readonly schema: SchemaOf<Kind, Settings> };

/** Declares a kind of step by its settings; the types of everything else follow from them. */
export function tidyStep<const Kind extends string, Settings extends z.core.$ZodShape>(
  kind: Kind,
  settings: Settings,
  step: StepKind<z.infer<SchemaOf<Kind, Settings>>>,
): DeclaredStep<Kind, Settings> {
  return { ...step, schema: z.object({ kind: z.literal(kind), ...settings }) } as never;
}
