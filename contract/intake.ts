import { JOB_STATES } from "#core/checks/job-state.ts";
import { z } from "zod";
import type { Finding } from "#core/checks/finding.ts";
import type { LoadAnswers, LoadRules } from "#core/checks/load-run.ts";
import { LINE_RULES } from "#core/mapping/line-rule.ts";
import type { Mapping, Meaning, NameDecision } from "#core/mapping/mapping.ts";
import { DATE_FORMATS } from "#core/reading/read-date.ts";
import type { Reading } from "#core/reading/reading.ts";
import { lookUp } from "#core/tidy/steps/look-up.ts";
import { tidyStepSchema, type StepOf } from "#core/tidy/steps/index.ts";
import { currencySchema } from "./companies.ts";
import { monthSchema } from "#core/figures/schema.ts";

const text = z.string().max(500);
const dateFormat = z.enum(DATE_FORMATS as [string, ...string[]]) as unknown as z.ZodType<(typeof DATE_FORMATS)[number]>;

const stackedSheetSchema = z.object({ sheet: text, before: z.number().int().min(0) });

/** A table that can be looked up in: what it is called, and its columns. */
export const tableHeadSchema = z.object({
  key: z.string(),
  name: z.string(),
  columns: z.array(z.string()),
  rows: z.number(),
});
export type TableHead = z.infer<typeof tableHeadSchema>;

/** A table that was brought for a draft, with the look-up that fits; `null` where none does. */
export const broughtTableSchema = z.object({ table: tableHeadSchema, proposed: lookUp.schema.nullable() });
export interface BroughtTable {
  readonly table: TableHead;
  readonly proposed: StepOf<"look-up"> | null;
}
export const sheetTableSchema = z.object({ sheet: text });

export const readingSchema = z.object({
  encoding: z.enum(["utf-8", "utf-16le", "utf-16be", "windows-1252"]),
  delimiter: z.string().min(1).max(1),
  sheet: text.nullable(),
  stack: z.array(stackedSheetSchema).max(60).optional(),
  headerLine: z.number().int().min(1).max(10_000),
  headerRows: z.number().int().min(0).max(8),
  decimalMark: z.enum([".", ","]),
}) satisfies z.ZodType<Reading>;

const meaningSchema = z.discriminatedUnion("as", [
  z.object({ as: z.enum(["ignore", "period", "scenario", "account", "reference", "currency"]) }),
  z.object({ as: z.literal("dimension"), dimension: text }),
  z.object({
    as: z.enum(["amount", "quantity"]),
    account: text.nullable(),
    scenario: text.nullable(),
    side: z.enum(["debit", "credit", "closing"]).optional(),
    currency: currencySchema.optional(),
  }),
]) satisfies z.ZodType<Meaning>;

const decisionSchema = z.union([
  z.object({ to: text }),
  z.object({ reject: z.literal(true) }),
  z.object({ create: z.object({ name: text.min(1), parent: text.nullable() }) }),
]) satisfies z.ZodType<NameDecision>;
const decisionsSchema = z.record(text, decisionSchema);

export const accountUnitSchema = z.union([
  z.object({ kind: z.literal("money") }),
  z.object({ kind: z.literal("count"), of: text }),
]);
export const accountKindSchema = z.enum(["income", "expense", "asset", "liability", "equity", "statistic"]);
export const grainSchema = z.enum(["day", "month", "quarter"]);

const signSchema = z.enum(["own", "flipped", "result", "debit"]);

export const mappingSchema = z.object({
  dataset: text,
  columns: z.record(text, meaningSchema),
  dateFormat,
  fixed: z.object({
    scenario: text.nullable(),
    account: text.nullable(),
    month: monthSchema.nullable(),
    currency: currencySchema.nullable().optional(),
  }),
  sign: signSchema,
  fractions: z.enum(["stop", "round"]),
  movements: z.enum(["stop", "accumulate"]).optional(),
  priced: z.enum(["foreign", "own"]).optional(),
  sums: z.array(text).max(400).readonly().optional(),
  apart: z
    .record(
      text,
      z.object({
        why: z.string().max(4000),
        ratio: z.object({ amount: text, count: text, isPercent: z.boolean() }).optional(),
      }),
    )
    .optional(),
  doubts: z
    .array(
      z.object({
        key: text,
        text: z.string().max(2000),
        ways: z
          .array(
            z.object({
              name: text,
              sign: signSchema.optional(),
              steps: z.array(tidyStepSchema).max(100).optional(),
            }),
          )
          .max(4),
        settled: text.nullable(),
      }),
    )
    .max(20)
    .optional(),
  accounts: decisionsSchema,
  scenarios: decisionsSchema,
  members: z.record(text, decisionsSchema),
  creates: z.object({
    dataset: z.object({ name: text.min(1), grain: grainSchema }).nullable(),
    dimensions: z.array(z.object({ key: text, name: text })).max(8),
    accounts: z
      .array(
        z.object({
          key: text,
          name: text,
          kind: accountKindSchema,
          behaviour: z.enum(["flow", "balance"]),
          unit: accountUnitSchema,
          decimals: z.number().int().min(0).max(9),
          parent: text.nullable().optional(),
          isGuess: z.boolean().optional(),
        }),
      )
      .max(1000),
  }),
}) satisfies z.ZodType<Mapping>;

const lineRuleSchema = z.enum(LINE_RULES);

export const rulesSchema = z.object({
  steps: z.array(tidyStepSchema).max(100),
  mapping: mappingSchema,
  rejectedLines: z.array(z.number().int().min(1)).max(10_000),
  rejectedRules: z.array(lineRuleSchema),
}) satisfies z.ZodType<LoadRules>;

export const answersSchema = z.object({
  control: z
    .string()
    .regex(/^-?\d{1,15}(\.\d{1,9})?$/, "write the control figure as a plain number, such as -1846.50")
    .nullable(),
  acceptsDifference: z.boolean(),
  posting: z.enum(["new", "beside", "restate"]),
}) satisfies z.ZodType<LoadAnswers>;

/** Everything a person can change about how a file is brought in. */
export interface Definition {
  readonly reading: Reading;
  readonly rules: LoadRules;
  readonly answers: LoadAnswers;
}

export const definitionSchema: z.ZodType<Definition> = z.object({
  reading: readingSchema,
  rules: rulesSchema,
  answers: answersSchema,
});

const rowSchema = z.object({ line: z.number(), cells: z.array(z.string()) });
const countSchema = z.object({
  rows: z.number(),
  totals: z.record(z.string(), z.string()),
  unreadable: z.number(),
});
const effectSchema = z.object({
  columns: z.array(z.string()),
  changed: z.number(),
  examples: z.array(z.object({ line: z.number(), before: z.array(z.string()), after: z.array(z.array(z.string())) })),
  after: countSchema,
  missed: z.object({ lines: z.number(), texts: z.array(z.string()).readonly() }).optional(),
});
const foundLineSchema = z.object({
  line: z.number(),
  column: z.string(),
  value: z.string(),
  cells: z.array(z.string()),
});
const proposalSchema = z.object({ key: z.string(), name: z.string(), likeness: z.number() });
export const findingSchema = z.object({
  rule: z.string() as unknown as z.ZodType<Finding["rule"]>,
  severity: z.enum(["stop", "warn", "note"]),
  message: z.string(),
  count: z.number(),
  lines: z.array(foundLineSchema),
  names: z.array(
    z.object({
      thing: z.union([z.enum(["account", "scenario"]), z.object({ dimension: z.string() })]),
      text: z.string(),
      lines: z.number(),
      proposals: z.array(proposalSchema),
    }),
  ),
  answer: z.string().nullable(),
  doubt: z.string().optional(),
  likely: z.enum(["restate", "beside"]).optional(),
});

/** What a pass over the whole file found. */
export const reportSchema = z.object({
  version: z.number().int(),
  before: countSchema,
  effects: z.array(effectSchema),
  facts: z.number(),
  rejected: z.number(),
  amountInFile: z.string(),
  amountInFacts: z.string(),
  months: z.string(),
  scenarios: z.string(),
  totals: z.array(z.object({ name: z.string(), kind: z.string(), rows: z.number(), amount: z.string() })),
  findings: z.array(findingSchema),
  mayPost: z.boolean(),
});

/** A pass over a file, or its posting, as it goes on. */
export const jobSchema = z.object({
  id: z.number().int(),
  kind: z.enum(["check", "post"]),
  state: z.enum(JOB_STATES),
  rows: z.number(),
  /** How much of the file was read, 0 to 1. */
  share: z.number(),
  message: z.string().nullable(),
  loadId: z.number().int().nullable(),
});

const profileSchema = z.object({
  name: z.string(),
  type: z.enum(["empty", "text", "number", "date"]),
  filled: z.number(),
  distinct: z.number(),
  isCertain: z.boolean(),
  examples: z.array(z.string()),
});

/** A file on its way in. */
export const draftSchema = z.object({
  id: z.number().int(),
  fileName: z.string(),
  size: z.number(),
  uploadedAt: z.string(),
  uploadedBy: z.string(),
  version: z.number().int(),
  intake: z.object({ id: z.number().int(), name: z.string() }).nullable(),
  /** The name this way of loading will be remembered by. */
  intakeName: z.string(),
  definition: definitionSchema,
  sheets: z.array(z.string()),
  hiddenSheets: z.array(z.string()),
  /** Sheets with the same columns, which can stand one under the other. */
  stackable: z.array(stackedSheetSchema),
  /** The tables that its steps look up in. */
  tables: z.array(tableHeadSchema),
  preamble: z.array(rowSchema),
  columns: z.array(z.string()),
  /** Columns after each step, as far as the steps can run. */
  stages: z.array(z.array(z.string())),
  stepWords: z.array(z.string()),
  stepProblem: z.object({ step: z.number(), message: z.string() }).nullable(),
  mappingProblems: z.array(z.string()),
  /** What whoever opens it should know first, such as why a feed left it for a person. */
  note: z.string().nullable(),
  profiles: z.array(profileSchema),
  /** The first rows as they stand, and as they come out of the steps. */
  sample: z.object({ raw: z.array(rowSchema), tidied: z.array(rowSchema), effects: z.array(effectSchema) }),
  control: z.object({ amount: z.string(), from: z.string() }).nullable(),
  job: jobSchema.nullable(),
  report: reportSchema.nullable(),
  /** Whether something that it was checked against was changed since. */
  isOutdated: z.boolean(),
});

export const draftHeadSchema = draftSchema
  .pick({ id: true, fileName: true, uploadedAt: true, uploadedBy: true })
  .extend({
    note: z.string().nullable(),
  });

export const uploadQuerySchema = z.object({ name: z.string().trim().min(1, "a file has a name").max(300) });
export const draftChangeSchema = z.object({
  version: z.number().int(),
  definition: definitionSchema,
  intakeName: z.string().trim().min(1, "give the intake a name").max(100),
});
export const draftVersionSchema = z.object({ version: z.number().int() });
export const intakeSchema = z.object({
  id: z.number().int(),
  name: z.string(),
  dataset: z.string(),
  columns: z.array(z.string()),
  steps: z.array(z.string()),
  updatedOn: z.string(),
  updatedBy: z.string(),
  loads: z.number().int(),
});
export const intakeListSchema = z.array(intakeSchema);

export type Draft = z.infer<typeof draftSchema>;
export type DraftHead = z.infer<typeof draftHeadSchema>;
export type Job = z.infer<typeof jobSchema>;
export type Report = z.infer<typeof reportSchema>;
export type WireFinding = z.infer<typeof findingSchema>;
export type IntakeHead = z.infer<typeof intakeSchema>;
export type WireRow = z.infer<typeof rowSchema>;
export type WireEffect = z.infer<typeof effectSchema>;
