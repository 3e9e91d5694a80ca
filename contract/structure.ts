import { z } from "zod";
import { changeListSchema } from "./changes.ts";
import { monthSchema } from "#core/figures/schema.ts";
import { accountKindSchema, accountUnitSchema, grainSchema } from "./intake.ts";

const key = z
  .string()
  .regex(/^[a-z][a-z0-9_-]*$/, "a key is made of small letters, digits, - and _, and begins with a letter")
  .max(80);
const name = z.string().trim().min(1, "a name cannot be empty").max(200);
const aliases = z.array(z.string().trim().min(1).max(200)).max(100);

export const accountItemSchema = z.object({
  key,
  name,
  parent: z.string().nullable(),
  kind: accountKindSchema,
  behaviour: z.enum(["flow", "balance"]),
  unit: accountUnitSchema,
  decimals: z.number().int().min(0).max(9),
  aliases,
  isRetired: z.boolean(),
});

export const memberItemSchema = z.object({
  key,
  name,
  parent: z.string().nullable(),
  aliases,
  isRetired: z.boolean(),
  attributes: z.record(z.string().trim().min(1).max(60), z.string().max(300)),
  /** The first and last month in which it exists; open where `null`. */
  firstMonth: monthSchema.nullable().default(null),
  lastMonth: monthSchema.nullable().default(null),
});

/** The version an item had when the change was made; a change on top of an older one is refused. */
const version = z.number().int();

function commandSchema<T extends z.ZodType>(item: T) {
  return z.discriminatedUnion("do", [
    z.object({ do: z.literal("add"), item }),
    z.object({ do: z.literal("change"), key: z.string(), version, item }),
    z.object({
      do: z.literal("move"),
      key: z.string(),
      version,
      parent: z.string().nullable(),
      before: z.string().nullable(),
    }),
    z.object({ do: z.literal("remove"), key: z.string(), version }),
  ]);
}

export const accountCommandSchema = commandSchema(accountItemSchema);
export const memberCommandSchema = commandSchema(memberItemSchema);

/**
 * Settings that can be changed one by one; what is left out stays. `was` says what whoever changes them saw, so that nobody
 * overwrites unseen what another has just set.
 */
const changeOf = <T extends z.ZodRawShape>(settings: z.ZodObject<T>) =>
  settings.partial().extend({ was: settings.partial().optional() });

export const calendarChangeSchema = changeOf(z.object({ name, startMonth: z.number().int().min(1).max(12) }));
export const dimensionChangeSchema = changeOf(z.object({ name, plural: name, levels: z.array(name).min(1).max(8) }));
/** What days without a line are: nothing happened, or something is missing. */
const daysWithoutLinesSchema = z.enum(["zero", "missing"]);
export const datasetChangeSchema = changeOf(
  z.object({
    name,
    closes: z.boolean(),
    dimensions: z.array(z.string()).max(8),
    daysWithoutLines: daysWithoutLinesSchema.nullable(),
  }),
);
export const scenarioItemSchema = z.object({
  name,
  kind: z.enum(["budget", "forecast", "target"]),
  madeAfter: monthSchema.nullable(),
});
/** What can be removed as a whole, where nothing uses it. */
export const partTableSchema = z.enum(["dimension", "dataset", "scenario"]);
export const newDimensionSchema = z.object({ name, plural: name });

/** Everything figures are arranged by, as it is edited. */
export const editableStructureSchema = z.object({
  company: z.object({ name: z.string(), startMonth: z.number().int() }),
  lastClosed: z.object({ month: monthSchema, name: z.string() }).nullable(),
  accounts: z.array(accountItemSchema.extend({ version, isUsed: z.boolean() })),
  dimensions: z.array(
    z.object({
      key: z.string(),
      name: z.string(),
      plural: z.string(),
      levels: z.array(z.string()),
      members: z.array(
        memberItemSchema.extend({
          version,
          /** From the first month to the last one in which actuals were posted to it; `null` where none were. */
          posted: z.object({ from: monthSchema, to: monthSchema }).nullable(),
        }),
      ),
    }),
  ),
  datasets: z.array(
    z.object({
      key: z.string(),
      name: z.string(),
      grain: grainSchema,
      closes: z.boolean(),
      /** How its days without a line are taken; `null` where it is not kept by day, or of balances. */
      days: z.object({ as: daysWithoutLinesSchema, isClear: z.boolean() }).nullable(),
      dimensions: z.array(z.string()),
      rows: z.number(),
      months: z.string(),
      isWhole: z.boolean(),
      scenarios: z.array(z.string()),
    }),
  ),
  scenarios: z.array(
    z.object({
      key: z.string(),
      name: z.string(),
      kind: z.enum(["actual", "budget", "forecast", "target"]),
      madeAfter: monthSchema.nullable(),
      months: z.string(),
    }),
  ),
  changes: changeListSchema,
});

export type EditableStructure = z.infer<typeof editableStructureSchema>;
export type AccountItem = z.infer<typeof accountItemSchema>;
export type MemberItem = z.infer<typeof memberItemSchema>;
export type AccountCommand = z.infer<typeof accountCommandSchema>;
export type MemberCommand = z.infer<typeof memberCommandSchema>;
